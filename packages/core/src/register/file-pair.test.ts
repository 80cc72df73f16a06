import fc from 'fast-check';
import { expect, it } from 'vitest';
import { withNatives } from './file-pair.ts';

const stem = (name: string): string => name.replace(/\.\w+$/, '');
const pairs = (names: string[]) =>
  withNatives(names, stem, (name) => name).map(({ file, natives }) => [file, ...natives].join(' + '));

it.each([
  [['A.pdf', 'A.dgn'], ['A.pdf + A.dgn']],
  [['A.dgn', 'A.pdf'], ['A.pdf + A.dgn']],
  [['A.ifc', 'A.zip', 'A.txt'], ['A.ifc + A.zip + A.txt']],
  [
    ['A.pdf', 'A.ifc', 'A.xyz'],
    ['A.pdf + A.xyz', 'A.ifc'],
  ],
  [
    ['A.docx', 'B.pdf'],
    ['A.docx', 'B.pdf'],
  ],
  [
    ['A.docx', 'A.xlsx'],
    ['A.docx', 'A.xlsx'],
  ],
])('%j become %j', (names, expected) => expect(pairs(names)).toEqual(expected));

it('loses no file and doubles none', () => {
  const name = fc.tuple(fc.constantFrom('A', 'B', 'C'), fc.constantFrom('pdf', 'ifc', 'png', 'docx', 'xyz'));
  fc.assert(
    fc.property(fc.array(name, { maxLength: 30 }), (parts) => {
      const files = parts.map(([code, extension], i) => ({ code, name: `${code}.${extension}`, i }));
      const all = withNatives(
        files,
        ({ code }) => code,
        ({ name }) => name,
      ).flatMap(({ file, natives }) => [file, ...natives]);
      expect(all.map(({ i }) => i).sort((a, b) => a - b)).toEqual(files.map(({ i }) => i));
    }),
  );
});
