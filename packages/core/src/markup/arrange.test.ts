import fc from 'fast-check';
import { expect, it } from 'vitest';
import { aligned, boundsOf, EDGES, quarterTurned, spread } from './arrange.ts';
import { shapeBounds, type MarkupShape, type Point } from './shapes.ts';

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
