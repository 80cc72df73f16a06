import { Similarity } from '@kindred/core/compare/similarity';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { toWindow, type SheetView } from '../drawing/table/view.ts';
import { viewBefore } from './view-before.ts';

it('brings each point of the sheet before onto its place on the sheet after', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const similarity = fc
    .tuple(number(-4, 4), number(0.3, 3), number(-500, 500), number(-500, 500))
    .map(([angle, scale, x, y]) => Similarity.about([0, 0], [x, y], angle, scale));
  const view = fc.record({
    x: number(-900, 900),
    y: number(-900, 900),
    zoom: number(0.1, 9),
    turn: fc.constantFrom(0, 1, 2, 3),
  });
  fc.assert(
    fc.property(similarity, view, number(0, 1000), number(0, 1000), (map, after, x, y) => {
      const { view: before, tilt } = viewBefore(after as SheetView, map);
      const [u, v] = toWindow(before, [x, y]);
      const [cos, sin] = [Math.cos(tilt), Math.sin(tilt)];
      const [dx, dy] = [u - before.x, v - before.y];
      const there = [before.x + cos * dx - sin * dy, before.y + sin * dx + cos * dy];
      const wanted = toWindow(after as SheetView, map.map(x, y));
      there.forEach((value, k) => expect(value).toBeCloseTo(wanted[k]!, 4));
      expect(Math.abs(tilt)).toBeLessThanOrEqual(Math.PI / 4 + 1e-9);
    }),
  );
});
