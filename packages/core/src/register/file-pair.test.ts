import fc from 'fast-check';
import { expect, it } from 'vitest';
import { goesWith, takesAlong, withNatives } from './file-pair.ts';

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

const drawing = { fileName: 'A.pdf', state: 'work in progress', revision: 'P02', natives: ['A.dgn'] } as const;

it.each([
  ['a native file that comes later', drawing, { fileName: 'A.xyz' }, true],
  ['of the same revision', drawing, { fileName: 'A.xyz', revision: 'P02' }, true],
  ['not of the next one', drawing, { fileName: 'A.xyz', revision: 'P03' }, false],
  ['not in place of another', drawing, { fileName: 'A.DGN' }, false],
  ['not what people look at', drawing, { fileName: 'A.png' }, false],
  ['not to what others have got', { ...drawing, state: 'shared' as const }, { fileName: 'A.xyz' }, false],
  ['not to another native file', { ...drawing, fileName: 'A.docx' }, { fileName: 'A.xyz' }, false],
])('%s', (_, newest, file, expected) => expect(goesWith(newest, file)).toBe(expected));

const native = { ...drawing, fileName: 'A.xyz', natives: [] };
it.each([
  ['a drawing that comes after its native file', native, { fileName: 'A.pdf' }, true],
  ['not of the next revision', native, { fileName: 'A.pdf', revision: 'P03' }, false],
  ['not another native file', native, { fileName: 'A.dgn' }, false],
  ['not what others have got', { ...native, state: 'published' as const }, { fileName: 'A.pdf' }, false],
  ['not the drawing before', drawing, { fileName: 'A.pdf' }, false],
])('takes along: %s', (_, newest, file, expected) => expect(takesAlong(newest, file)).toBe(expected));
