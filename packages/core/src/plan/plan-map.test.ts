import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pointAt } from '../scene/placing.ts';
import { mapOfPairs, metresPerPointOf, placeMap, toModel, toPlan, type PlanMap, type PlanPoint } from './plan-map.ts';

const number = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
const point = fc.tuple(number(2000), number(2000));
const maps = fc
  .tuple(number(Math.PI), fc.double({ min: 0.001, max: 1, noNaN: true }), number(1e5), number(1e5))
  .map(([turn, size, c, d]): PlanMap => ({ a: size * Math.cos(turn), b: size * Math.sin(turn), c, d }));
const apart = ([x, y]: PlanPoint, [u, v]: PlanPoint): number => Math.hypot(x - u, y - v);

it('there and back is the same place', () => {
  fc.assert(fc.property(maps, point, (map, at) => apart(toPlan(map, toModel(map, at)), at) < 1e-3));
});

it('goes with its model', () => {
  const placings = fc.record({ turn: number(360), shift: fc.tuple(number(1e4), number(1e4), number(9)) });
  fc.assert(
    fc.property(maps, point, placings, (map, at, placing) => {
      const [x, y] = toModel(map, at);
      const [e, n] = pointAt([x, y, 0], placing);
      expect(apart(toModel(placeMap(map, placing), at), [e, n])).toBeLessThan(1e-3);
    }),
  );
});
it('pairs give the map that they were made by, however it is turned, and say how far off the worst of them are', () => {
  fc.assert(
    fc.property(maps, fc.array(point, { minLength: 2, maxLength: 5 }), (map, points) => {
      fc.pre(points.some((at) => apart(at, points[0]!) > 50));
      const found = mapOfPairs(points.map((plan) => ({ plan, model: toModel(map, plan) })));
      expect(found.error).toBeLessThan(1e-3);
      for (const at of points) expect(apart(toModel(found.map, at), toModel(map, at))).toBeLessThan(1e-3);
      expect(metresPerPointOf(found.map)).toBeCloseTo(metresPerPointOf(map), 6);
    }),
  );
});

it('a page is seen from above: up on it is the model’s y', () => {
  const { map } = mapOfPairs([
    { plan: [0, 100], model: [0, 0] },
    { plan: [100, 100], model: [10, 0] },
  ]);
  const [X, Y] = toModel(map, [0, 0]);
  expect([X, Y]).toEqual([expect.closeTo(0, 9), expect.closeTo(10, 9)]);
});

it('what says nothing is refused', () => {
  const pair = { plan: [1, 1], model: [0, 0] } as const;
  for (const pairs of [[], [pair], [pair, pair], [pair, { plan: [50, 50], model: [0, 0] } as const]])
    expect(() => mapOfPairs(pairs)).toThrowError(expect.objectContaining({ code: 'points-too-close' }));
});
