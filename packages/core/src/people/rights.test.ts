import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ACTIONS, allows, effectiveGrid, KINDS, type Grid } from './rights.ts';

const right = fc.record({ kind: fc.constantFrom(...KINDS), action: fc.constantFrom(...ACTIONS) });
const grid: fc.Arbitrary<Grid> = fc.dictionary(fc.constantFrom(...KINDS), fc.subarray([...ACTIONS]));

it('allows what any role grants, and nothing else', () => {
  fc.assert(
    fc.property(fc.array(grid, { maxLength: 4 }), right, (grids, { kind, action }) => {
      const granted = grids.some((one) => one[kind]?.includes(action));
      expect(allows({ administrator: false, grids }, { kind, action })).toBe(Boolean(granted));
      expect(effectiveGrid({ administrator: false, grids })[kind]?.includes(action) ?? false).toBe(Boolean(granted));
    }),
  );
});

it('an administrator has every right without any role', () => {
  fc.assert(fc.property(right, (wanted) => allows({ administrator: true, grids: [] }, wanted)));
});
