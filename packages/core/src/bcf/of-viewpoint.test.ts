import fc from 'fast-check';
import { expect, it } from 'vitest';
import { viewpointOf, type SeenState } from './of-viewpoint.ts';

const state: SeenState = {
  camera: { position: [0, 0, 10], target: [0, 5, 10], fieldOfView: 50 },
  ...{ sections: [], hidden: ['h'], isolated: null, selection: ['s'] },
};

it('says what is hidden, or what alone is there', () => {
  expect(viewpointOf('v', state, 'picture')).toMatchObject({
    ...{ guid: 'v', snapshot: 'picture', selection: [{ ifcGuid: 's' }] },
    camera: { kind: 'perspective', position: [0, 0, 10], direction: [0, 1, 0], up: [0, 0, 1], fieldOfView: 50 },
    visibility: { default: true, exceptions: [{ ifcGuid: 'h' }] },
  });
  expect(viewpointOf('v', { ...state, isolated: ['h', 'i'] }, null).visibility).toMatchObject({
    ...{ default: false, exceptions: [{ ifcGuid: 'i' }] },
  });
});

it('cuts a box by its six sides, and draws what was measured', () => {
  const { sections, lines } = viewpointOf(
    'v',
    {
      ...state,
      box: [
        [0, 0, 0],
        [4, 5, 6],
      ],
      measures: [
        {
          points: [
            [0, 0, 0],
            [1, 0, 0],
            [1, 1, 0],
          ],
        },
      ],
    },
    null,
  );
  expect(sections).toHaveLength(6);
  expect(sections).toContainEqual({ location: [4, 5, 6], direction: [0, 0, 1] });
  expect(sections).toContainEqual({ location: [0, 0, 0], direction: [-1, 0, 0] });
  expect(lines).toEqual([
    [
      [0, 0, 0],
      [1, 0, 0],
    ],
    [
      [1, 0, 0],
      [1, 1, 0],
    ],
  ]);
});

it('looks along a way of length one, with what is above at a right angle to it', () => {
  const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });
  const point = fc.tuple(number, number, number);
  fc.assert(
    fc.property(point, point, (position, target) => {
      fc.pre(Math.hypot(...position.map((value, i) => value - target[i]!)) > 1e-3);
      const { direction, up } = viewpointOf(
        'v',
        { ...state, camera: { position, target, fieldOfView: 50, height: 3 } },
        null,
      ).camera!;
      expect(Math.hypot(...direction)).toBeCloseTo(1);
      expect(Math.hypot(...up)).toBeCloseTo(1);
      expect(direction.reduce((sum, value, i) => sum + value * up[i]!, 0)).toBeCloseTo(0);
      expect(up[2]).toBeGreaterThanOrEqual(0);
    }),
  );
});
