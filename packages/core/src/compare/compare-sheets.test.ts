import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../../../../scripts/bench/seeded.ts';
import { VectorColumns, type SheetVectors, type VectorText } from '../drawing/vectors/sheet-vectors.ts';
import { boxOnAfter, compareSheets } from './compare-sheets.ts';
import { Similarity } from './similarity.ts';

type Chain = (readonly [number, number])[];
const STYLE = { kind: 'line' as const, colour: '#000000', width: 0.5, dash: [], layer: '' };
function sheet(chains: readonly Chain[], texts: VectorText[] = [], style: object = STYLE): SheetVectors {
  const columns = new VectorColumns();
  for (const chain of chains) {
    for (const [x, y] of chain) columns.add(x, y);
    columns.end(0);
  }
  const styles = [style as SheetVectors['styles'][number]];
  return { width: 800, height: 600, styles, texts, pictures: [], ...columns.columns() };
}
const coordinate = (most: number) => fc.double({ min: 0, max: most, noNaN: true });
const point = fc.tuple(coordinate(800), coordinate(600));
const chains = fc.array(fc.array(point, { minLength: 2, maxLength: 6 }), { maxLength: 25 });
const text = fc.record({
  text: fc.string({ minLength: 1, maxLength: 12 }),
  x: coordinate(800),
  y: coordinate(600),
  width: coordinate(120),
  size: fc.double({ min: 2, max: 20, noNaN: true }),
  angle: fc.constantFrom(0, -Math.PI / 2, 0.4),
});
const texts = fc.array(text, { maxLength: 12 });

describe('compareSheets', () => {
  it('finds nothing on a sheet that is drawn again: backwards, in another order, cut in two, twice', () => {
    fc.assert(
      fc.property(chains, texts, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (drawn, written, part) => {
        const cut = ([from, to]: Chain): Chain[] => {
          const [[ax, ay], [bx, by]] = [from!, to!];
          const middle = [ax + part * (bx - ax), ay + part * (by - ay)] as const;
          return [
            [from!, middle],
            [to!, middle],
          ];
        };
        const pieces = drawn.flatMap((chain) => chain.slice(1).map((to, i): Chain => [chain[i]!, to]));
        const again = [...pieces]
          .reverse()
          .flatMap((piece, i) => (i % 3 ? [[...piece].reverse()] : [...cut(piece), piece]));
        const { changes, unlike } = compareSheets(sheet(drawn, written), sheet(again, written));
        expect(unlike).toBe(false);
        expect(changes).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('answers for any two sheets, with boxes that have a place', () => {
    fc.assert(
      fc.property(chains, chains, texts, texts, (a, b, said, saysNow) => {
        const { changes, similarity } = compareSheets(sheet(a, said), sheet(b, saysNow));
        for (const change of changes) expect(boxOnAfter(change, similarity).every(Number.isFinite)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('does not say ten thousand changes of two drawings that have nothing in common', () => {
    const scattered = (seed: number): SheetVectors => {
      const random = seeded(seed);
      const at = () => [700 * random(), 500 * random()] as const;
      return sheet(
        Array.from({ length: 300 }, (): Chain => {
          const [x, y] = at();
          return [
            [x, y],
            [x + 60 * random(), y + 60 * random()],
          ];
        }),
      );
    };
    expect(compareSheets(scattered(1), scattered(2))).toMatchObject({ unlike: true, changes: [] });
  });

  it('tells line weights and colours as looks, white lines not at all', () => {
    const drawn: Chain[] = [
      [
        [10, 10],
        [200, 10],
        [200, 90],
      ],
    ];
    const heavier = sheet(drawn, [], { ...STYLE, width: 2, colour: '#ff0000' });
    const [look, ...others] = compareSheets(sheet(drawn), heavier).changes;
    expect(others).toEqual([]);
    expect(look).toMatchObject({
      kind: 'look',
      look: { before: { width: 0.5, colour: '#000000' }, after: { width: 2, colour: '#ff0000' } },
    });
    const white = sheet(drawn, [], { ...STYLE, colour: '#ffffff' });
    expect(compareSheets(white, sheet([])).changes).toEqual([]);
  });

  it('keeps dates and revisions apart', () => {
    const line = (words: string, x: number, y: number): VectorText => ({
      text: words,
      x,
      y,
      width: words.length * 5,
      size: 9,
      angle: 0,
    });
    const block = (revision: string, date: string) => [
      ...[line('Drawing no', 600, 520), line('A-101', 600, 532), line('Rev', 700, 520), line(revision, 700, 532)],
      ...[line('Date', 740, 520), line(date, 740, 532), line('Hall', 100, 100)],
    ];
    const { changes } = compareSheets(sheet([], block('P01', '01.02.2026')), sheet([], block('P02', '03.04.2026')));
    expect(changes.map(({ routine, before, after }) => [routine, before, after])).toEqual([
      [true, 'P01', 'P02'],
      [true, '01.02.2026', '03.04.2026'],
    ]);
    const signed = (date: string) => sheet([], [line(`M. Tolvik ${date}`, 600, 500)]);
    expect(compareSheets(signed('01.02.2026'), signed('03.04.2026')).changes).toMatchObject([{ routine: true }]);
    const checked = (who: string) => sheet([], [line(`${who} 01.02.2026`, 600, 500)]);
    expect(compareSheets(checked('M. Tolvik'), checked('N. Aldén')).changes).toMatchObject([{ kind: 'text' }]);
  });
});

it('a similarity between two points takes them there, and back by its corners', () => {
  fc.assert(
    fc.property(point, point, point, point, (p, q, P, Q) => {
      fc.pre(Math.hypot(p[0] - q[0], p[1] - q[1]) > 1);
      const map = Similarity.between(p, q, P, Q)!;
      [map.map(...p), map.map(...q)].flat().forEach((value, i) => expect(value).toBeCloseTo([...P, ...Q][i]!, 3));
      expect(map.differs(map, 800, 600)).toBe(0);
      fc.pre(map.scale > 0.01);
      map.inverse.map(...P).forEach((value, i) => expect(value).toBeCloseTo(p[i]!, 2));
    }),
  );
});
