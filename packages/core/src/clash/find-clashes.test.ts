import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxes, type TestBox } from '../scene/boxes.fixture.ts';
import { boxesOf, eachCandidate, type Boxes } from './candidates.ts';
import { findClashes, type ClashSettings, type ClashSide } from './find-clashes.ts';

const FAR: [number, number, number] = [450_000, 6_000_000, 10];
const side = (all: TestBox[], origin = FAR): ClashSide => ({ scene: boxes(all, origin), rows: all.length });
const cube = (x: number, y = 0, z = 0, size = 1): TestBox => ({ min: [x, y, z], size: [size, size, size] });
const settings = (more: Partial<ClashSettings> = {}): ClashSettings => ({ tolerance: 0.001, clearance: 0, ...more });

describe('elements of two sides', () => {
  it('clash where they reach into each other deeper than is allowed', () => {
    const [a, b] = [side([cube(0), cube(10)]), side([cube(0.95), cube(11), cube(10.9, 0.9)])];
    const { clashes, candidatePairs } = findClashes(a, b, settings());
    expect(clashes).toMatchObject([
      { a: 0, b: 0, kind: 'hard', depth: expect.closeTo(0.05, 3) },
      { a: 1, b: 2, kind: 'hard', depth: expect.closeTo(0.1, 3) },
    ]);
    const [x, y, z] = clashes[0]!.at;
    expect([x - FAR[0], y - FAR[1], z - FAR[2]]).toEqual([0.975, 0.5, 0.5].map((value) => expect.closeTo(value, 2)));
    expect(candidatePairs).toBe(3);
    expect(findClashes(a, b, settings({ tolerance: 0.06 })).clashes).toMatchObject([{ a: 1, b: 2 }]);
  });

  it('are too near where something has to stay free, and said twice where they are the same', () => {
    const [a, b] = [side([cube(0), cube(10)]), side([cube(1.04), cube(1.2, 5), cube(10)])];
    expect(findClashes(a, b, settings({ clearance: 0.05 })).clashes).toMatchObject([
      { a: 0, b: 0, kind: 'clearance', gap: expect.closeTo(0.04, 3) },
      { a: 1, b: 2, kind: 'duplicate' },
    ]);
  });

  it('are met from whatever origin their models count', () => {
    const moved = side([cube(0.95 + 40)], [FAR[0] - 40, FAR[1], FAR[2]]);
    expect(findClashes(side([cube(0)]), moved, settings()).clashes).toMatchObject([{ depth: expect.closeTo(0.05, 3) }]);
  });

  it('of one side against itself are held against each other once', () => {
    const one = side([cube(0), cube(0.9), cube(0.9)]);
    expect(findClashes(one, one, settings()).clashes).toMatchObject([
      { a: 0, b: 1, kind: 'hard' },
      { a: 0, b: 2, kind: 'hard' },
      { a: 1, b: 2, kind: 'duplicate' },
    ]);
  });

  it('that are not closed clash where their surfaces meet; how deep is not said', () => {
    const open = side([cube(0)]);
    open.scene.shapes = {
      ...open.scene.shapes,
      indices: open.scene.shapes.indices.slice(6),
      indexStarts: Uint32Array.of(0, 30),
    };
    expect(findClashes(open, side([cube(0.5, 0.5, 0.5), cube(3)]), settings()).clashes).toMatchObject([
      { a: 0, b: 0, kind: 'hard', depth: null },
    ]);
  });

  it('are none where there are none', () => {
    expect(findClashes(side([]), side([cube(0)]), settings())).toEqual({ clashes: [], candidatePairs: 0 });
    expect(findClashes(side([cube(0)]), side([]), settings())).toEqual({ clashes: [], candidatePairs: 0 });
  });
});

it('the pairs that are looked at are those whose boxes are near: all of them, and no other', () => {
  const place = fc.integer({ min: 0, max: 60 }).map((value) => value / 10);
  const some = fc.array(
    fc.tuple(place, place, place, fc.integer({ min: 1, max: 20 })).map(([x, y, z, size]) => cube(x, y, z, size / 10)),
    { maxLength: 25 },
  );
  fc.assert(
    fc.property(some, some, fc.constantFrom(0, 0.25), (p, q, reach) => {
      const [a, b] = [side(p), side(q)].map(({ scene, rows }) => boxesOf(scene, rows)) as [Boxes, Boxes];
      const found: string[] = [];
      eachCandidate(a, b, reach, (i, j) => found.push(`${i} ${j}`));
      const apart = (i: number, j: number): boolean =>
        [0, 1, 2].some((k) => a[i * 6 + k]! - reach > b[j * 6 + 3 + k]! || b[j * 6 + k]! - reach > a[i * 6 + 3 + k]!);
      const all = p.flatMap((_, i) => q.flatMap((_, j) => (apart(i, j) ? [] : [`${i} ${j}`])));
      expect(found.sort()).toEqual(all.sort());
    }),
  );
});
