import fc from 'fast-check';
import { expect, it } from 'vitest';
import { zoneOf } from './zone.ts';

const POINTS = 72 / 25.4;
const A1 = [841 * POINTS, 594 * POINTS] as const;
const at = (x: number, y: number, sheet: readonly [number, number] = A1) =>
  zoneOf([x * POINTS, y * POINTS, 0, 0], sheet);

it('names the fields of an A1 sheet: sixteen across, twelve down, no I and no O', () => {
  expect([at(10, 10), at(830, 10), at(10, 590), at(830, 590)]).toEqual(['A1', 'A16', 'M1', 'M16']);
  // The middle is a corner of four fields.
  expect([at(420, 296), at(421, 298)]).toEqual(['F8', 'G9']);
  expect(at(420, 430)).toBe('J8');
});
it('an A4 sheet has six by four', () => {
  const A4 = [297 * POINTS, 210 * POINTS] as const;
  expect([at(5, 5, A4), at(290, 205, A4)]).toEqual(['A1', 'D6']);
});
it('property: what lies on the sheet, or beyond it, has a field', () => {
  const length = fc.double({ min: 1, max: 20_000, noNaN: true });
  fc.assert(
    fc.property(
      length,
      length,
      fc.double({ min: -1, max: 2, noNaN: true }),
      fc.double({ min: -1, max: 2, noNaN: true }),
      (w, h, u, v) => {
        expect(zoneOf([u * w, v * h, 0, 0], [w, h])).toMatch(/^[A-Z]{1,2}\d+$/);
      },
    ),
  );
});
