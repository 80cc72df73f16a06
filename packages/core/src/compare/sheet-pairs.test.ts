import { expect, it } from 'vitest';
import { comparePairs } from '../../../../scripts/bench/sheet-pairs.ts';

/** The bench compares 300. */
const PAIRS = 120;

it(`finds all that changed and nothing else in ${PAIRS} pairs of sheets, moves to a twentieth of a millimetre`, () => {
  const { all, worst, wrong } = comparePairs(PAIRS);
  const said = wrong.slice(0, 10).join('\n');
  expect(all.right + all.missed).toBeGreaterThan(PAIRS / 2);
  expect(all.invented, said).toBe(0);
  expect(all.missed / (all.right + all.missed), said).toBeLessThanOrEqual(0.01);
  expect(worst).toBeLessThan(0.05);
}, 240_000);
