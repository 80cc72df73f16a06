import fc from 'fast-check';
import Papa from 'papaparse';
import { expect, it } from 'vitest';
import { csvLine, readCsv } from './csv.ts';

it('quotes what needs it and disarms formulas, but not numbers', () => {
  expect(csvLine(['a,b', 'say "x"', '=1+1', '-5', '-cmd', '@x'])).toBe(`"a,b","say ""x""",'=1+1,-5,'-cmd,'@x\r\n`);
});

it.each([
  '=1+1',
  ' =1+1',
  '\t=1+1',
  '\u00a0@SUM(A1)',
  '＝1+1',
  '＋1',
  '－1',
  '＠x',
  '\n=2',
  "-2+3+cmd|' /C calc'!A0",
  "'=1",
])('a cell that a spreadsheet would compute is text, and comes back as it was: %j', (cell) => {
  const line = csvLine([cell, 'x']);
  expect(line.replace(/^"/, '')).toMatch(/^'/);
  expect(readCsv(line)).toEqual([[cell, 'x']]);
});

it('keeps every cell in its place, with an apostrophe before what would be computed', () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 12 }),
    fc.string({ unit: fc.constantFrom(...'\' =+-@\t\r\n,"a1.＝'), maxLength: 6 }),
  );
  fc.assert(
    fc.property(fc.array(cell, { minLength: 2 }), (cells) => {
      const [read] = Papa.parse<string[]>(csvLine(cells).slice(0, -2), { delimiter: ',', newline: '\r\n' }).data;
      expect(read?.map((text, i) => (text === cells[i] ? text : text.slice(1)))).toEqual(cells);
      for (const text of read ?? [])
        if (!/^-?\d+(\.\d+)?$/.test(text)) expect(text.trim()).not.toMatch(/^[=+\-@＝＋－＠]/);
    }),
    { numRuns: 1000 },
  );
});
