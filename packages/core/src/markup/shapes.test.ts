import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cloudPath, leaderStart, rectangleRing, shapeBounds, signedArea, type Point } from './shapes.ts';

const coordinate = fc.integer({ min: -2000, max: 2000 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);

describe('revision cloud', () => {
  it('closes, and has arcs of about the wanted size along every side', () => {
    const path = cloudPath([
      [0, 0],
      [140, 70],
    ]);
    expect(path.startsWith('M0 0A')).toBe(true);
    expect(path.endsWith('Z')).toBe(true);
    expect(path.match(/A/g)).toHaveLength(2 * 10 + 2 * 5);
  });

  it('bulges outwards whichever way the corners were drawn', () => {
    fc.assert(
      fc.property(point, point, (a, b) => {
        fc.pre(Math.abs(a[0] - b[0]) > 1 && Math.abs(a[1] - b[1]) > 1);
        const ring = rectangleRing(a, b);
        expect(signedArea(ring)).toBeGreaterThan(0);
        expect(cloudPath([a, b])).toContain(' 0 0 1 ');
        expect(cloudPath([...ring].reverse())).toContain(' 0 0 0 ');
      }),
    );
  });

  it('draws nothing without two points', () => {
    expect(cloudPath([[1, 1]])).toBe('');
  });
});

it('a leader begins on the edge of its box, on the side of the target', () => {
  expect(leaderStart([100, 10], [0, 0, 40, 20])).toEqual([40, 10]);
  expect(leaderStart([20, -50], [0, 0, 40, 20])).toEqual([20, 0]);
});

it('bounds hold every point of a shape', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 2, maxLength: 9 }), (points) => {
      const [x, y, width, height] = shapeBounds({ kind: 'cloud', points });
      for (const [px, py] of points) {
        expect(px >= x && px <= x + width).toBe(true);
        expect(py >= y && py <= y + height).toBe(true);
      }
    }),
  );
});
