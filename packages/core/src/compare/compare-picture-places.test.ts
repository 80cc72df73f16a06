import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Matrix } from '../drawing/vectors/matrix.ts';
import { comparePicturePlaces } from './compare-picture-places.ts';

const here = (x: number, y: number): [number, number] => [x, y];
const picture = (x: number, y: number, width = 80, height = 60): Matrix => [width, 0, 0, height, x, y];

it('a picture that moved is told with its shift, whatever other ones there are', () => {
  const far = fc.integer({ min: -90, max: 90 });
  fc.assert(
    fc.property(far, far, (dx, dy) => {
      fc.pre(Math.abs(dx) > 1 || Math.abs(dy) > 1);
      const before = [picture(100, 100), picture(400, 400, 30, 30)];
      expect(comparePicturePlaces(before, [before[1]!, picture(100 + dx, 100 + dy)], here)).toEqual([
        { kind: 'moved', box: [100 + dx, 100 + dy, 180 + dx, 160 + dy], shift: [dx, dy] },
      ]);
    }),
  );
});

it('strips are one picture, what comes and goes is told', () => {
  const strips = [0, 1, 2, 3].map((i) => picture(100, 100 + 15 * i, 80, 15));
  expect(comparePicturePlaces([picture(100, 100)], strips, here)).toEqual([]);
  expect(comparePicturePlaces([], strips, here)).toEqual([{ kind: 'added', box: [100, 100, 180, 160] }]);
  expect(comparePicturePlaces(strips, [], here)).toEqual([{ kind: 'removed', box: [100, 100, 180, 160] }]);
});
