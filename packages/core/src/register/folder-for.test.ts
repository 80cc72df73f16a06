import { expect, it } from 'vitest';
import type { Convention } from '../naming/convention.ts';
import { folderFor } from './folder-for.ts';

const list = (name: string, values: Record<string, string>) => ({
  name,
  kind: 'list' as const,
  values: Object.entries(values).map(([code, meaning]) => ({ code, meaning })),
});
const convention: Convention = {
  name: 'Project information',
  separator: '-',
  fields: [
    list('Form', { D: 'Drawing', M: 'Model', L: 'Schedule' }),
    list('Discipline', { A: 'Architecture', S: 'Structure', M: 'Building services' }),
    { name: 'Number', kind: 'number', length: 4 },
  ],
};
const site: Convention = { name: 'Site', separator: '_', fields: [list('Record', { PHO: 'Photograph' })] };
const folders = [
  'Architecture',
  'Architecture / Drawings',
  'Architecture / Models',
  'Structure / Drawings',
  'Structure / Sketches / Drawings',
  'Photographs',
  'Services / Models',
].map((path, i) => ({ id: String(i), path }));
const found = (code: string, here?: string) =>
  folderFor(code, folders, (id) => (id === '5' ? site : convention), here)?.path;

it.each([
  ['D-S-0101', 'Structure / Drawings'],
  ['M-A-0001', 'Architecture / Models'],
  ['L-A-0001', 'Architecture'],
  ['M-M-0009', 'Services / Models'],
  ['PHO', 'Photographs'],
  ['plan final', undefined],
  ['X-Y-1', undefined],
])('%s goes to %s', (code, path) => expect(found(code)).toBe(path));

it('of folders that fit alike the one that somebody looks at is taken', () => {
  expect(found('D-S-0101', '4')).toBe('Structure / Sketches / Drawings');
  expect(found('D-S-0101', '1')).toBe('Structure / Drawings');
});
