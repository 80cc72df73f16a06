import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { VectorColumns } from './sheet-vectors.ts';
import { Snapper, snapParts } from './snap.ts';

function drawing(chains: number[][], circles: [number, number, number][] = []) {
  const columns = new VectorColumns();
  for (const chain of chains) {
    for (let i = 0; i < chain.length; i += 2) columns.add(chain[i]!, chain[i + 1]!);
    columns.end(0);
  }
  for (const circle of circles) columns.circle(...circle);
  return new Snapper(snapParts(columns.columns()));
}
const cross = drawing([
  [0, 0, 100, 0],
  [30, -40, 30, 60],
  [200, 0, 260, 0, 260, 80],
]);

describe('a point is caught', () => {
  it.each([
    ['by the end of a line', 2, 1, 'end', 0, 0],
    ['by a corner', 259, 2, 'end', 260, 0],
    ['where lines cross', 31, 2, 'crossing', 30, 0],
    ['by the middle', 51, -1, 'middle', 50, 0],
    ['anywhere along a line', 80, 2, 'on line', 80, 0],
  ])('%s', (_, x, y, kind, px, py) => {
    const snap = cross.find(x, y, 4)!;
    expect([snap.kind, snap.x, snap.y]).toEqual([kind, px, py]);
  });

  it('by nothing where nothing is near', () => expect(cross.find(150, 150, 5)).toBeUndefined());

  it('at right angles to a line, and along one, from where the measure began', () => {
    expect(cross.find(79, 1, 4, [80, 50])).toMatchObject({ kind: 'perpendicular', x: 80, y: 0 });
    const beside = drawing([
      [0, 0, 100, 0],
      [0, 40, 20, 40],
    ]).find(70, 2, 3, [10, 3])!;
    expect(beside).toMatchObject({ kind: 'parallel', x: 70, y: 3 });
  });

  it('by the centre of a circle, though nothing is drawn there', () => {
    const round = drawing([[60, 50, 50, 60, 40, 50]], [[50, 50, 10]]);
    expect(round.find(51, 49, 3)).toMatchObject({ kind: 'centre', x: 50, y: 50 });
  });

  it('not by the box of a slanting line that is far away', () => {
    const slanting = Array.from({ length: 300 }, (_, i) => [i * 0.01, 0, 1000 + i * 0.01, 1000]);
    const snapper = drawing([...slanting, [800, 100, 820, 100]]);
    expect(snapper.find(801, 101, 4)).toMatchObject({ kind: 'end', x: 800, y: 100 });
  });

  it('never by something farther than the reach, and exactly by every end', () => {
    const coordinate = fc.integer({ min: 0, max: 300 });
    const chain = fc.tuple(coordinate, coordinate, coordinate, coordinate);
    fc.assert(
      fc.property(fc.array(chain, { minLength: 1, maxLength: 30 }), coordinate, coordinate, (chains, x, y) => {
        const snapper = drawing(chains);
        const snap = snapper.find(x, y, 10);
        if (snap) expect(snap.distance).toBeLessThanOrEqual(10);
        const [ax, ay] = chains[0]!;
        expect(snapper.find(ax, ay, 0.5)).toMatchObject({ x: ax, y: ay, distance: 0 });
      }),
    );
  });
});
