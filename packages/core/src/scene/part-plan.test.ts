import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Bounds } from './bounds.ts';
import { planParts, type PlannedPart } from './part-plan.ts';

const cube = (x: number, largest: number, bytes: number): PlannedPart => ({
  bounds: [x, 0, 0, x + 10, 10, 10],
  largest,
  bytes,
});

it('begins with what is large on the screen: near, or large and far', () => {
  const parts = [cube(1000, 2, 1), cube(50, 2, 1), cube(1000, 100, 1)];
  expect(planParts(parts, [0, 0, 0], 10)).toEqual([2, 1, 0]);
  expect(planParts(parts, [1005, 5, 5], 10)).toEqual([2, 0, 1]);
});

it('leaves out what does not fit, and takes what is less and still does', () => {
  const parts = [cube(0, 9, 6), cube(100, 9, 6), cube(200, 9, 3)];
  expect(planParts(parts, [5, 5, 5], 10)).toEqual([0, 2]);
  expect(planParts(parts, [5, 5, 5], 2)).toEqual([]);
});

it('never takes more than there is room for, and everything where there is enough', () => {
  const place = fc.integer({ min: -500, max: 500 });
  const part = fc.record({
    bounds: fc.tuple(place, place, place).map(([x, y, z]): Bounds => [x, y, z, x + 5, y + 5, z + 5]),
    largest: fc.double({ min: 0.1, max: 100, noNaN: true }),
    bytes: fc.integer({ min: 1, max: 1000 }),
  });
  fc.assert(
    fc.property(fc.array(part, { maxLength: 20 }), fc.tuple(place, place, place), fc.nat(9000), (parts, eye, room) => {
      const taken = planParts(parts, eye, room);
      const weight = (all: number[]): number => all.reduce((sum, i) => sum + parts[i]!.bytes, 0);
      expect(weight(taken)).toBeLessThanOrEqual(room);
      expect(new Set(taken).size).toBe(taken.length);
      const left = parts.map((_, i) => i).filter((i) => !taken.includes(i));
      expect(left.every((i) => weight(taken) + parts[i]!.bytes > room)).toBe(true);
    }),
  );
});
