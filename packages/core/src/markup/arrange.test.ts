import fc from 'fast-check';
import { expect, it } from 'vitest';
import { aligned, boundsOf, EDGES, quarterTurned, spread, turned } from './arrange.ts';
import { handlesOf, moved, rectangleRing, shapeBounds, type MarkupShape, type Point } from './shapes.ts';

const coordinate = fc.integer({ min: -500, max: 500 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);
const length = fc.integer({ min: 1, max: 200 });
const shape: fc.Arbitrary<MarkupShape> = fc.oneof(
  fc.record({ kind: fc.constant('rectangle' as const), points: fc.tuple(point, point) }),
  fc.record({ kind: fc.constant('polygon' as const), points: fc.array(point, { minLength: 3, maxLength: 6 }) }),
  fc.record({
    kind: fc.constant('callout' as const),
    target: point,
    box: fc.tuple(coordinate, coordinate, length, length),
  }),
  fc.record({ kind: fc.constant('text' as const), box: fc.tuple(coordinate, coordinate, length, length) }),
);
const shapes = fc.array(shape, { minLength: 2, maxLength: 6 });

it('aligned shapes have one edge in common, which one of them had before', () => {
  fc.assert(
    fc.property(shapes, fc.constantFrom(...EDGES), (all, edge) => {
      const axis = edge === 'left' || edge === 'centre' || edge === 'right' ? 0 : 1;
      const part = { left: 0, top: 0, centre: 0.5, middle: 0.5, right: 1, bottom: 1 }[edge];
      const at = (one: MarkupShape): number => shapeBounds(one)[axis] + part * shapeBounds(one)[axis === 0 ? 2 : 3];
      const whole = boundsOf(all);
      for (const one of aligned(all, edge))
        expect(at(one)).toBeCloseTo(whole[axis] + part * whole[axis === 0 ? 2 : 3], 6);
    }),
  );
});

it('evenly apart they keep their common bounds and their order', () => {
  fc.assert(
    fc.property(shapes, fc.constantFrom(0 as const, 1 as const), (all, axis) => {
      const there = spread(all, axis).map(shapeBounds);
      const side = axis === 0 ? 2 : 3;
      const order = all.map((_, i) => i).sort((a, b) => shapeBounds(all[a]!)[axis] - shapeBounds(all[b]!)[axis]);
      const gaps = order.slice(1).map((i, k) => there[i]![axis] - there[order[k]!]![axis] - there[order[k]!]![side]);
      for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0]!, 6);
      expect(there[order[0]!]![axis]).toBeCloseTo(boundsOf(all)[axis], 6);
    }),
  );
});

it('four quarter turns are none', () => {
  fc.assert(
    fc.property(shapes, (all) => {
      const again = quarterTurned(quarterTurned(quarterTurned(quarterTurned(all))));
      again
        .map(shapeBounds)
        .forEach((box, i) => box.forEach((value, k) => expect(value).toBeCloseTo(shapeBounds(all[i]!)[k]!, 6)));
      const [, , w, h] = boundsOf(all);
      const turned = boundsOf(quarterTurned(all));
      expect([turned[2], turned[3]]).toEqual([expect.closeTo(h, 6), expect.closeTo(w, 6)]);
    }),
  );
});

it('turned by any angle and back, everything is where it was, and as large on the way', () => {
  const angle = fc.double({ min: -Math.PI, max: Math.PI, noNaN: true });
  const corners = (one: MarkupShape): Point[] =>
    one.kind === 'rectangle' ? rectangleRing(one.points[0], one.points[1]) : handlesOf(one);
  fc.assert(
    fc.property(shape, angle, (one, by) => {
      const there = turned([one], by);
      const [back] = turnedAboutTheSame([one], there, -by);
      corners(back!).forEach((at, i) => at.forEach((value, k) => expect(value).toBeCloseTo(corners(one)[i]![k]!, 6)));
      if (!('box' in one)) {
        const [a, b] = [corners(one), corners(there[0]!)];
        expect(Math.hypot(b[1]![0] - b[0]![0], b[1]![1] - b[0]![1])).toBeCloseTo(
          Math.hypot(a[1]![0] - a[0]![0], a[1]![1] - a[0]![1]),
          6,
        );
      }
    }),
  );
});

it('an ellipse that is turned by a quarter is as wide as it was high', () => {
  const [there] = turned(
    [
      {
        kind: 'ellipse',
        points: [
          [0, 0],
          [40, 10],
        ],
      },
    ],
    Math.PI / 2,
  );
  expect(shapeBounds(there!)).toEqual([15, -15, 10, 40].map((value) => expect.closeTo(value, 6)));
});

/** The bounds of what was turned have another middle: it is moved so that both turn about the same one. */
function turnedAboutTheSame(before: MarkupShape[], there: MarkupShape[], by: number): MarkupShape[] {
  const middle = ([x, y, w, h]: readonly number[]): Point => [x! + w! / 2, y! + h! / 2];
  const [c, d] = [middle(boundsOf(before)), middle(boundsOf(there))];
  const [cos, sin] = [Math.cos(by), Math.sin(by)];
  const shift = [d[0] - c[0], d[1] - c[1]] as const;
  const [dx, dy] = [cos * shift[0] - sin * shift[1] - shift[0], sin * shift[0] + cos * shift[1] - shift[1]];
  return turned(there, by).map((one) => moved(one, dx, dy));
}
