import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ACTIONS, effectiveGrid, isWithin, KINDS, type Grid } from './rights.ts';

const grid: fc.Arbitrary<Grid> = fc.dictionary(fc.constantFrom(...KINDS), fc.subarray([...ACTIONS]));
const standing = (...grids: Grid[]) => ({ administrator: false, grids });

it('nobody is above themselves, administrators are above nobody, more is never within less', () => {
  fc.assert(
    fc.property(grid, grid, (one, other) => {
      expect(isWithin(standing(one), one)).toBe(true);
      expect(isWithin({ administrator: true, grids: [] }, one)).toBe(true);
      expect(isWithin(standing(one, other), one)).toBe(true);
      expect(isWithin(standing(one), effectiveGrid(standing(one, other)))).toBe(isWithin(standing(one), other));
    }),
  );
});

it('a cell that opens nothing is within everything', () => {
  expect(isWithin(standing(), { project: ['see'] })).toBe(true);
  expect(isWithin(standing(), { project: ['change'] })).toBe(false);
});
