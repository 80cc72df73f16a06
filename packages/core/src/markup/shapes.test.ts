import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  handlesOf,
  leaderStart,
  moved,
  rectangleRing,
  shapeBounds,
  signedArea,
  withHandleAt,
  type MarkupShape,
  type Point,
} from './shapes.ts';

const coordinate = fc.integer({ min: -2000, max: 2000 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);
const length = fc.integer({ min: 1, max: 500 });
const shape: fc.Arbitrary<MarkupShape> = fc.oneof(
  fc.record({ kind: fc.constantFrom('line' as const, 'arrow' as const), points: fc.tuple(point, point) }),
  fc.record({
    kind: fc.constantFrom('cloud' as const, 'freehand' as const),
    points: fc.array(point, { minLength: 2 }),
  }),
  fc.record({
    kind: fc.constantFrom('highlighter' as const, 'freehand' as const),
    points: fc.array(point, { minLength: 2 }),
    strokes: fc.array(fc.array(point, { minLength: 1 }), { maxLength: 2 }),
  }),
  fc.record({
    kind: fc.constant('area' as const),
    points: fc.array(point, { minLength: 3 }),
    holes: fc.array(fc.array(point, { minLength: 3, maxLength: 4 }), { maxLength: 2 }),
  }),
  fc.record({
    kind: fc.constant('callout' as const),
    target: point,
    box: fc.tuple(coordinate, coordinate, length, length),
  }),
  fc.record({ kind: fc.constant('text' as const), box: fc.tuple(coordinate, coordinate, length, length) }),
);

it('the ring of a rectangle runs with the clock, whichever corners', () => {
  fc.assert(
    fc.property(point, point, (a, b) => {
      fc.pre(a[0] !== b[0] && a[1] !== b[1]);
      expect(signedArea(rectangleRing(a, b))).toBeGreaterThan(0);
    }),
  );
});

it('a leader starts at the side nearest to its target', () => {
  expect(leaderStart([0, 50], [100, 40, 60, 20])).toEqual([100, 50]);
  expect(leaderStart([130, 200], [100, 40, 60, 20])).toEqual([130, 60]);
});

describe('any shape', () => {
  it('that is moved has every handle moved, and goes back whole', () => {
    fc.assert(
      fc.property(shape, coordinate, coordinate, (one, dx, dy) => {
        const there = moved(one, dx, dy);
        expect(handlesOf(there)).toEqual(handlesOf(one).map(([x, y]) => [x + dx, y + dy]));
        expect(moved(there, -dx, -dy)).toEqual(one);
      }),
    );
  });

  it('follows the handle that is drawn, and leaves the others', () => {
    fc.assert(
      fc.property(shape, fc.nat(), point, (one, pick, to) => {
        const handles = handlesOf(one);
        const handle = pick % handles.length;
        const after = handlesOf(withHandleAt(one, handle, to));
        if ('box' in one) expect(after.map(String)).toContain(String(to));
        else expect(after).toEqual(handles.map((was, i) => (i === handle ? to : was)));
      }),
    );
  });

  it('is inside of its bounds', () => {
    fc.assert(
      fc.property(shape, (one) => {
        const [x, y, width, height] = shapeBounds(one);
        for (const [px, py] of handlesOf(one)) {
          expect(px >= x && px <= x + width && py >= y && py <= y + height).toBe(true);
        }
      }),
    );
  });
});
