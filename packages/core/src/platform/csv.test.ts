import { expect, it } from 'vitest';
import { csvLine, readCsv } from './csv.ts';

it.each(['=1+1', ' =1+1', '\t=1+1', '\u00a0@SUM(A1)', '＝1+1', '＋1', '－1', '＠x', '\n=2', "-2+3+cmd|' /C calc'!A0"])(
  'a cell that a spreadsheet would compute is text, and comes back as it was: %j',
  (cell) => {
    const line = csvLine([cell, 'x']);
    expect(line.replace(/^"/, '')).toMatch(/^'/);
    expect(readCsv(line)).toEqual([[cell, 'x']]);
  },
);
