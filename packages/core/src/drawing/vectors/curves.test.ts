import fc from 'fast-check';
import { expect, it } from 'vitest';
import { circleOf, CURVE_TOLERANCE, flattenCubic, type Cubic } from './curves.ts';

const KAPPA = (4 / 3) * (Math.SQRT2 - 1);
const coordinate = fc.integer({ min: -200_000, max: 200_000 }).map((value) => value / 100);

it('a flattened curve is nowhere farther from the curve than the tolerance', () => {
  fc.assert(
    fc.property(fc.tuple(...Array.from({ length: 8 }, () => coordinate)), (values) => {
      const cubic = values as unknown as Cubic;
      const points: [number, number][] = [[cubic[0], cubic[1]]];
      flattenCubic(cubic, (x, y) => points.push([x, y]));
      const pieces = points.length - 1;
      if (pieces >= 200) return;
      for (let i = 0; i < pieces; i++)
        for (const part of [0.25, 0.5, 0.75]) {
          const [x, y] = at(cubic, (i + part) / pieces);
          const [[ax, ay], [bx, by]] = [points[i]!, points[i + 1]!];
          const length = Math.hypot(bx - ax, by - ay) || 1;
          const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length ** 2));
          expect(Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y)).toBeLessThanOrEqual(
            CURVE_TOLERANCE + 1e-9,
          );
        }
    }),
  );
});

it('a quarter of a circle is known by its centre, wherever and however large', () => {
  fc.assert(
    fc.property(coordinate, coordinate, fc.double({ min: 1, max: 900, noNaN: true }), (x, y, r) => {
      const quarter: Cubic = [x + r, y, x + r, y + KAPPA * r, x + KAPPA * r, y + r, x, y + r];
      const circle = circleOf(quarter)!;
      expect(Math.hypot(circle.x - x, circle.y - y)).toBeLessThan(0.002 * r + 1e-6);
      expect(circle.radius).toBeCloseTo(r, 1);
    }),
  );
});

it.each<[string, Cubic]>([
  ['a straight line', [0, 0, 10, 0, 20, 0, 30, 0]],
  ['an S', [0, 0, 30, 0, 0, 30, 30, 30]],
  ['a parabola', [0, 0, 40, 80, 60, 80, 100, 0]],
  ['a point', [5, 5, 5, 5, 5, 5, 5, 5]],
])('%s is no circle', (_, cubic) => expect(circleOf(cubic)).toBeUndefined());

function at([x0, y0, x1, y1, x2, y2, x3, y3]: Cubic, t: number): [number, number] {
  const u = 1 - t;
  const mix = (a: number, b: number, c: number, d: number): number =>
    u ** 3 * a + 3 * u * u * t * b + 3 * u * t * t * c + t ** 3 * d;
  return [mix(x0, x1, x2, x3), mix(y0, y1, y2, y3)];
}
