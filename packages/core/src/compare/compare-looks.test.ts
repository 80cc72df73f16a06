import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { VectorColumns, type SheetVectors, type VectorStyle } from '../drawing/vectors/sheet-vectors.ts';
import { compareSheets } from './compare-sheets.ts';

const LINE: VectorStyle = { kind: 'line', colour: '#000000', width: 0.5, dash: [], layer: '' };
type Drawn = { points: (readonly [number, number])[]; style: VectorStyle };
function sheet(all: readonly Drawn[]): SheetVectors {
  const columns = new VectorColumns();
  for (const [i, { points }] of all.entries()) {
    for (const [x, y] of points) columns.add(x, y);
    columns.end(i);
  }
  return {
    width: 800,
    height: 600,
    styles: all.map(({ style }) => style),
    texts: [],
    pictures: [],
    ...columns.columns(),
  };
}
const bars = (style: (i: number) => VectorStyle, scale = 1): Drawn[] =>
  Array.from({ length: 20 }, (_, i) => ({
    points: [
      [scale * 40, scale * (20 + 25 * i)],
      [scale * (300 + 7 * i), scale * (20 + 25 * i)],
    ],
    style: style(i),
  }));
const looksOf = (before: Drawn[], after: Drawn[]) =>
  compareSheets(sheet(before), sheet(after)).changes.map(({ kind, look, box }) => ({
    kind,
    look,
    top: Math.round(box[1]),
  }));

describe('looks', () => {
  it('finds the one line of many that is drawn otherwise, and only that', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 19 }), fc.constantFrom('#aa0000', '#3050ff'), (which, colour) => {
        const found = looksOf(
          bars(() => LINE),
          bars((i) => (i === which ? { ...LINE, colour } : LINE)),
        );
        expect(found).toMatchObject([{ kind: 'look', look: { after: { colour } }, top: 20 + 25 * which }]);
      }),
      { numRuns: 25 },
    );
  });

  it('tells as one what became of all lines, and says nothing of pens that are scaled with the plot or are not', () => {
    const heavier = looksOf(
      bars(() => LINE),
      bars(() => ({ ...LINE, width: 1 })),
    );
    expect(heavier).toMatchObject([{ kind: 'look', look: { before: { width: 0.5 }, after: { width: 1 } } }]);
    for (const width of [0.5, 0.25])
      expect(
        looksOf(
          bars(() => LINE),
          bars(() => ({ ...LINE, width }), 0.5),
        ),
      ).toEqual([]);
  });

  it('knows a dashed line whose strokes are written one by one, and one that is drawn through now', () => {
    const dashed = { ...LINE, dash: [6, 3] };
    const line: Drawn = {
      points: [
        [50, 300],
        [500, 300],
      ],
      style: dashed,
    };
    const strokes = Array.from({ length: 50 }, (_, k): Drawn => ({
      points: [
        [50 + 9 * k, 300],
        [56 + 9 * k, 300],
      ],
      style: LINE,
    }));
    const frame = bars(() => LINE).slice(0, 8);
    expect(looksOf([...frame, line], [...frame, ...strokes])).toEqual([]);
    expect(looksOf([...frame, ...strokes], [...frame, line])).toEqual([]);
    expect(looksOf([...frame, line], [...frame, { ...line, style: LINE }])).toMatchObject([
      { kind: 'look', look: { before: { dashed: true }, after: { dashed: false } } },
    ]);
  });

  it('sees an area that is filled now, or not any more, within the same lines', () => {
    const ring: Drawn['points'] = [
      [100, 100],
      [200, 100],
      [200, 180],
      [100, 180],
      [100, 100],
    ];
    const area: Drawn = { points: ring, style: { ...LINE, kind: 'area', colour: '#cccccc', width: 0 } };
    const line: Drawn = { points: ring, style: LINE };
    const [filled] = looksOf([line], [line, area]);
    expect(filled).toMatchObject({ kind: 'look', look: { after: { kind: 'area', colour: '#cccccc' } } });
    expect(filled!.look!.before).toBeUndefined();
    const [empty] = looksOf([line, area], [line]);
    expect(empty!.look!.after).toBeUndefined();
  });
});
