import type { Face } from '@kindred/core/scene/solid';
import { describe, expect, it } from 'vitest';
import type { Aim } from './engine/picking.ts';
import { measureFrom, measureOf, type Measurable } from './measuring.ts';

type P = [number, number, number];
const aim = (at: P, normal: P = [0, 0, 1], more: Partial<Face> = {}): Aim => ({
  ...{ kind: 'face', at, element: 7 },
  face: { at, normal, area: 2, ...more },
});
/** A floor at 0 and a ceiling at 2.6; element 7 encloses three cubic metres. */
const room: Measurable = {
  along: ([x, y, z], [, , up]) => {
    const to = up > 0 ? 2.6 : 0;
    return Math.sign(to - z) === up ? { at: [x, y, to], distance: Math.abs(to - z) } : null;
  },
  volumeOf: (element) => (element === 7 ? 3 : undefined),
};

describe('a measure', () => {
  it('is taken from place to place, and square to a face', () => {
    expect(measureFrom('distance', [aim([0, 0, 0]), aim([3, 4, 0])], room)).toMatchObject({ value: 5 });
    const square = measureFrom('square to face', [aim([0, 0, 0]), aim([3, 4, 2])], room);
    expect(square).toEqual({
      kind: 'square to face',
      points: [
        [3, 4, 0],
        [3, 4, 2],
      ],
      value: 2,
    });
  });
  it('between faces is a distance where they are parallel, else an angle', () => {
    const down: P = [0, 0, -1];
    expect(measureFrom('between faces', [aim([0, 0, 0]), aim([5, 5, 2.7], down)], room)).toMatchObject({
      points: [
        [0, 0, 0],
        [0, 0, expect.closeTo(2.7)],
      ],
      value: expect.closeTo(2.7),
    });
    expect(measureFrom('between faces', [aim([0, 0, 0]), aim([1, 0, 0], [1, 0, 0])], room)).toMatchObject({
      kind: 'angle',
      value: expect.closeTo(Math.PI / 2),
    });
  });
  it('of the clear height starts at a floor, a ceiling or a wall', () => {
    for (const [at, normal] of [
      [
        [1, 1, 0],
        [0, 0, 1],
      ],
      [
        [1, 1, 2.6],
        [0, 0, -1],
      ],
      [
        [1, 1, 1.1],
        [0, 1, 0],
      ],
    ] as [P, P][])
      expect(measureFrom('height', [aim(at, normal)], room)).toMatchObject({ value: expect.closeTo(2.6) });
    expect(measureFrom('height', [aim([1, 1, 3])], room)).toBe('nothing-above');
  });
  it('of area, volume and angle; a code where there is none', () => {
    expect(measureFrom('area', [aim([0, 0, 0])], room)).toMatchObject({ value: 2 });
    expect(measureFrom('volume', [aim([0, 0, 0])], room)).toMatchObject({ value: 3 });
    expect(measureFrom('volume', [{ ...aim([0, 0, 0]), element: 8 }], room)).toBe('open');
    expect(
      measureOf('angle', [
        [1, 0, 0],
        [0, 0, 0],
        [0, 1, 0],
      ]),
    ).toMatchObject({ value: expect.closeTo(Math.PI / 2) });
    expect(
      measureOf('angle', [
        [0, 0, 0],
        [0, 0, 0],
        [0, 1, 0],
      ]),
    ).toBe('no-angle');
  });
});
