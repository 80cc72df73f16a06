import { expect, it } from 'vitest';
import type { Bounds } from '../scene/bounds.ts';
import { farApart } from './apart.ts';

const house: Bounds = [0, 0, 0, 30, 20, 10];
const moved = (by: number): Bounds => [by, 0, 0, by + 30, 20, 10];

it('models that count from other origins lie far apart; those of one place do not', () => {
  expect(farApart(house, house)).toBeNull();
  expect(farApart(house, moved(100))).toBeNull();
  expect(farApart(house, moved(348_600))).toBeCloseTo(348_570);
  expect(farApart(moved(348_600), house)).toBeCloseTo(348_570);
  expect(farApart([0, 0, 0, 0, 0, 0], [0, 0, 0, 0, 0, 0])).toBeNull();
});
