import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { VectorColumns, type SheetVectors, type VectorText } from '../drawing/vectors/sheet-vectors.ts';
import { compareSheets } from './compare-sheets.ts';

const [ROW, SIZE] = [14, 8];
/** A ruled table on a sheet, turned by quarters with the clock. */
function sheet(rows: readonly (readonly string[])[], widths: readonly number[], turn = 0): SheetVectors {
  const [width, height] = [700, 500];
  const place = (x: number, y: number): [number, number] =>
    turn === 1 ? [height - y, x] : turn === 3 ? [y, width - x] : [x, y];
  const columns = new VectorColumns();
  const line = (...ends: [number, number][]): void => {
    for (const [x, y] of ends) columns.add(...place(x, y));
    columns.end(0);
  };
  const lefts = widths.reduce<number[]>((all, one) => [...all, all.at(-1)! + one], [100]);
  const bottom = 60 + ROW * rows.length;
  for (let i = 0; i <= rows.length; i++) line([100, 60 + ROW * i], [lefts.at(-1)!, 60 + ROW * i]);
  for (const left of lefts) line([left, 60], [left, bottom]);
  // The rest of the sheet.
  for (let i = 0; i < 14; i++) line([20 + 9 * i, 400 + 4 * i], [650, 400 + 4 * i]);
  const texts = rows.flatMap((row, r) =>
    row.map((text, c): VectorText => {
      const [x, y] = place(lefts[c]! + 3, 60 + ROW * r + 10);
      const angle = turn === 1 ? Math.PI / 2 : turn === 3 ? -Math.PI / 2 : 0;
      return { text, x, y, width: 4 * text.length, size: SIZE, angle };
    }),
  );
  const style = { kind: 'line' as const, colour: '#000000', width: 0.5, dash: [], layer: '' };
  const size = turn ? { width: height, height: width } : { width, height };
  return { ...size, styles: [style], texts, pictures: [], ...columns.columns() };
}
const said = (before: SheetVectors, after: SheetVectors) =>
  compareSheets(before, after).changes.map(({ kind, part, before: was, after: is }) => ({
    kind,
    ...(part && { part }),
    ...(was && { was }),
    ...(is && { is }),
  }));
const cell = (r: number, c: number): string => `${'DTWF'[c]!}${10 * r + c}`;
const table = (rows: number): string[][] =>
  Array.from({ length: rows }, (_, r) => Array.from({ length: 4 }, (_, c) => cell(r, c)));
const WIDTHS = [40, 60, 50, 50];
const turns = fc.constantFrom(0, 1, 3);

describe('tables', () => {
  it('a row that comes in or goes is one change, whatever made room for it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 7 }), turns, (at, turn) => {
        const rows = table(9);
        const longer = [...rows.slice(0, at), ['D99', 'New leaf', '1 110', 'T30'], ...rows.slice(at)];
        const row = 'D99 · New leaf · 1 110 · T30';
        const [shorter, more] = [sheet(rows, WIDTHS, turn), sheet(longer, WIDTHS, turn)];
        expect(said(shorter, more)).toEqual([{ kind: 'added', part: 'row', is: row }]);
        expect(said(more, shorter)).toEqual([{ kind: 'removed', part: 'row', was: row }]);
      }),
      { numRuns: 30 },
    );
  });

  it('so is a column', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3 }), turns, (at, turn) => {
        const rows = table(8);
        const wider = rows.map((row, r) => [...row.slice(0, at), r ? `${100 + 5 * r}` : 'Sill', ...row.slice(at)]);
        const widths = [...WIDTHS.slice(0, at), 40, ...WIDTHS.slice(at)];
        const column = ['Sill', ...rows.slice(1).map((_, r) => `${105 + 5 * r}`)].join(' · ');
        const [narrow, wide] = [sheet(rows, WIDTHS, turn), sheet(wider, widths, turn)];
        expect(said(narrow, wide)).toEqual([{ kind: 'added', part: 'column', is: column }]);
        expect(said(wide, narrow)).toEqual([{ kind: 'removed', part: 'column', was: column }]);
      }),
      { numRuns: 20 },
    );
  });

  it('a cell that changed is told by itself', () => {
    const rows = table(8);
    const changed = rows.map((row, r) => (r === 4 ? [...row.slice(0, 2), '1 260', row[3]!] : row));
    expect(said(sheet(rows, WIDTHS), sheet(changed, WIDTHS))).toEqual([{ kind: 'text', was: 'W42', is: '1 260' }]);
  });

  it('a note that comes into a list moves the others out of its way: one change, and no row', () => {
    const list = (notes: string[]) => {
      const bare = sheet(table(4), WIDTHS);
      const texts = notes.map((text, i): VectorText => ({
        ...{ text, x: 420, width: 4 * text.length, size: SIZE, angle: 0 },
        y: 380 - 12 * (notes.length - i),
      }));
      return { ...bare, texts: [...bare.texts, ...texts] };
    };
    const notes = ['1 Dimensions in millimetres.', '2 Levels in metres.'];
    expect(said(list(notes), list([...notes, '3 Stair turned round.']))).toEqual([
      { kind: 'added', is: '3 Stair turned round.' },
    ]);
  });

  it('a note of several lines that is new is one change and no column', () => {
    const rows = table(6);
    const note = ['Seal all joints', 'with the compound', 'of the list'].map((text, i): VectorText => ({
      text,
      x: 420,
      y: 200 + 10 * i,
      width: 4 * text.length,
      size: SIZE,
      angle: 0,
    }));
    const before = sheet(rows, WIDTHS);
    expect(said(before, { ...before, texts: [...before.texts, ...note] })).toEqual([
      { kind: 'added', is: 'Seal all joints · with the compound · of the list' },
    ]);
  });
});
