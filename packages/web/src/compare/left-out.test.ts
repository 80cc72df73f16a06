import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addressOfBoxes, boxesFrom, liesIn } from './left-out.ts';

it('property: the address brings back the boxes that it was given', () => {
  const points = fc.integer({ min: -5000, max: 5000 });
  fc.assert(
    fc.property(fc.array(fc.tuple(points, points, points, points), { maxLength: 20 }), (boxes) => {
      expect(boxesFrom(addressOfBoxes(boxes))).toEqual(boxes);
    }),
  );
});
it('what is no box is left', () => {
  expect(boxesFrom('')).toEqual([]);
  expect(boxesFrom('1,2,3;x,1,2,3;5,6,7,8')).toEqual([[5, 6, 7, 8]]);
});
it('a change lies in a region by its middle', () => {
  expect(liesIn([10, 10, 4, 4], [0, 0, 12, 12])).toBe(true);
  expect(liesIn([10, 10, 6, 6], [0, 0, 12, 12])).toBe(false);
});
