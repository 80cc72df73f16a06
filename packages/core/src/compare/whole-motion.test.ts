import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../scene/pick.ts';
import { pointAt, type Placing } from '../scene/placing.ts';
import { wholeMotion, type MovedElement } from './whole-motion.ts';

const still: Placing = { turn: 0, shift: [0, 0, 0] };
const places = Array.from({ length: 10 }, (_, i): Point => [i * 3, (i * i) % 7, i % 2]);
const moved = (before: Point, by: Placing): MovedElement => ({
  before,
  after: pointAt(before, by),
  turned: by.turn ? { axis: [0, 0, 1], degrees: by.turn } : null,
});

describe('the motion of a whole model', () => {
  it('is what most elements did', () => {
    const by: Placing = { turn: 0, shift: [0.5, 0, 0] };
    const elements = [
      ...places.slice(0, 8).map((at) => moved(at, by)),
      moved(places[8]!, { ...by, shift: [0.5, 1, 0] }),
    ];
    expect(wholeMotion(elements, 10)).toEqual({ turn: 0, shift: [expect.closeTo(0.5), expect.closeTo(0), 0] });
    expect(wholeMotion(elements, 14)).toBeNull();
  });
  it('is none where they did not move alike, and is not concluded from a handful', () => {
    expect(
      wholeMotion(
        places.map((at, i) => moved(at, { turn: 0, shift: [i, 0, 0] })),
        10,
      ),
    ).toBeNull();
    expect(wholeMotion([], 0)).toBeNull();
    expect(
      wholeMotion(
        places.slice(0, 3).map((at) => moved(at, { turn: 0, shift: [1, 0, 0] })),
        3,
      ),
    ).toBeNull();
  });
  it('is found with its turn, however far from the origin, past things that look the same from all sides', () => {
    const turns = fc.double({ min: 1, max: 179, noNaN: true });
    const far = fc.double({ min: -5e5, max: 5e5, noNaN: true });
    fc.assert(
      fc.property(turns, far, far, (turn, x, y) => {
        const by: Placing = { turn, shift: [10, -20, 3] };
        const elements = places.map((at, i) => {
          const one = moved([at[0] + x, at[1] + y, at[2]], by);
          return i < 3 ? { ...one, turned: null } : one;
        });
        const found = wholeMotion(elements, 10)!;
        for (const { before, after } of elements)
          pointAt(before, found).forEach((value, axis) => expect(value).toBeCloseTo(after[axis]!, 4));
      }),
    );
  });
  it('is none of what fell over', () => {
    const over = places.map((at) => ({ ...moved(at, still), turned: { axis: [1, 0, 0] as Point, degrees: 90 } }));
    expect(wholeMotion(over, 10)).toBeNull();
  });
});
