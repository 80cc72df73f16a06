import fc from 'fast-check';
import { expect, it } from 'vitest';
import { toModel, toPlan, type PlanMap } from './plan-map.ts';
import { proposePlan } from './propose-plan.ts';
import type { PlacedElement } from './storey-plan.ts';

/** Walls of some rooms, no two at one distance: x0, y0, x1, y1 in metres. */
const WALLS: [number, number, number, number][] = [
  [0, 0, 24, 0.3],
  [0, 8.7, 24, 9],
  [0, 0.3, 0.3, 8.7],
  [23.7, 0.3, 24, 8.7],
  [5.1, 0.3, 5.22, 8.7],
  [11.4, 0.3, 11.52, 4.8],
  [5.22, 4.8, 16.9, 4.92],
  [16.9, 0.3, 17.02, 8.7],
];
const elements = WALLS.map(([x0, y0, x1, y1], row): PlacedElement => ({
  row,
  class: 'IfcWall',
  bounds: [x0, y0, 0, x1, y1, 3],
}));
const SCALE = 100 * (0.0254 / 72);

/** The plan of it: outlines of the walls through the map, with other lines in between. */
function planThrough(map: PlanMap, noise: readonly [number, number, number, boolean][], leftOut = 0) {
  const chains = WALLS.slice(0, WALLS.length - leftOut).map(([x0, y0, x1, y1]) =>
    [[x0, y0] as const, [x1, y0] as const, [x1, y1] as const, [x0, y1] as const, [x0, y0] as const].map((at) =>
      toPlan(map, at),
    ),
  );
  for (const [x, y, length, upright] of noise) chains.push([[x, y], upright ? [x, y + length] : [x + length, y]]);
  const segments = chains.flatMap((chain) => chain.slice(1).flatMap((to, i) => [...chain[i]!, ...to]));
  return Float32Array.from(segments);
}
const turnedBy = (turn: number, c: number, d: number): PlanMap => ({
  ...{ a: SCALE * Math.round(Math.cos((turn * Math.PI) / 2)), b: SCALE * Math.round(Math.sin((turn * Math.PI) / 2)) },
  ...{ c, d },
});

it('finds the plan in whichever quarter turn and place, among other lines', () => {
  const place = fc.double({ min: -300, max: 300, noNaN: true });
  const other = fc.tuple(
    fc.double({ min: 0, max: 2000, noNaN: true }),
    fc.double({ min: 0, max: 1500, noNaN: true }),
    fc.double({ min: 20, max: 400, noNaN: true }),
    fc.boolean(),
  );
  fc.assert(
    fc.property(fc.nat(3), place, place, fc.array(other, { maxLength: 60 }), (turn, c, d, noise) => {
      const map = turnedBy(turn, c, d);
      const found = proposePlan(planThrough(map, noise), elements, SCALE)!;
      expect(found.matched).toBeGreaterThan(0.99);
      expect(found.error).toBeLessThan(0.01);
      for (const at of [[0, 0] as const, [1000, 800] as const]) {
        const [[x, y], [u, v]] = [toModel(found.map, at), toModel(map, at)];
        expect(Math.hypot(x - u, y - v)).toBeLessThan(0.01);
      }
    }),
    { numRuns: 60 },
  );
});

it('says how much of it was found, and proposes nothing where hardly anything is', () => {
  const map = turnedBy(0, 10, 20);
  const partly = proposePlan(planThrough(map, [], 2), elements, SCALE)!;
  expect(partly.matched).toBeGreaterThan(0.55);
  expect(partly.matched).toBeLessThan(0.8);
  expect(proposePlan(planThrough(map, [[5, 5, 300, true]], WALLS.length), elements, SCALE)).toBeUndefined();
  expect(proposePlan(planThrough(map, []), [], SCALE)).toBeUndefined();
  // At another scale nothing fits.
  expect(proposePlan(planThrough(map, []), elements, SCALE * 2)).toBeUndefined();
});
