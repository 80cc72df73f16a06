import fc from 'fast-check';
import { expect, it } from 'vitest';
import { boxes as cubes, type TestBox as Box } from './boxes.fixture.ts';
import { Picker, type Point } from './pick.ts';

const coordinate = fc.integer({ min: -50, max: 50 });
const length = fc.integer({ min: 1, max: 20 });
const box = fc.record({
  min: fc.tuple(coordinate, coordinate, coordinate),
  size: fc.tuple(length, length, length),
}) as fc.Arbitrary<Box>;

/** Where a ray enters a box, from the definition: the last of the three slabs that it enters before it leaves any. */
function entry({ min, size }: Box, from: Point, along: Point): number {
  const near = [0, 1, 2].map((i) =>
    Math.min((min[i]! - from[i]!) / along[i]!, (min[i]! + size[i]! - from[i]!) / along[i]!),
  );
  const far = [0, 1, 2].map((i) =>
    Math.max((min[i]! - from[i]!) / along[i]!, (min[i]! + size[i]! - from[i]!) / along[i]!),
  );
  return Math.max(...near) <= Math.min(...far) ? Math.max(...near) : Infinity;
}

it('finds what the ray enters first', () => {
  const from: Point = [-200, -210, 220];
  fc.assert(
    fc.property(
      fc.array(box, { minLength: 1, maxLength: 30 }),
      fc.tuple(coordinate, coordinate, coordinate),
      (boxes, at) => {
        const along = at.map((value, i) => value + 0.37 - from[i]!) as unknown as Point;
        const picked = new Picker(cubes(boxes)).pick(from, along, () => true);
        const nearest = Math.min(...boxes.map((one) => entry(one, from, along)));
        if (!picked) expect(nearest).toBe(Infinity);
        else expect(picked.distance).toBeCloseTo(nearest, 4);
      },
    ),
  );
});

it('passes through what is hidden and what is cut away', () => {
  const picker = new Picker(
    cubes([
      { min: [0, 0, 0], size: [1, 1, 1] },
      { min: [3, 0, 0], size: [1, 1, 1] },
    ]),
  );
  const from: Point = [-5, 0.4, 0.3];
  expect(picker.pick(from, [1, 0, 0], () => true)).toMatchObject({ instance: 0, distance: expect.closeTo(5) });
  expect(picker.pick(from, [1, 0, 0], (instance) => instance !== 0)).toMatchObject({ instance: 1 });
  const beyond = (_: number, distance?: number): boolean => distance === undefined || distance > 5.5;
  expect(picker.pick(from, [1, 0, 0], beyond)).toMatchObject({ instance: 0, distance: expect.closeTo(6) });
  expect(picker.pick(from, [-1, 0, 0], () => true)).toBeUndefined();
});

it('does not choke on an instance without volume', () => {
  expect(
    new Picker(cubes([{ min: [0, 0, 0], size: [0, 1, 1] }])).pick([-1, 0.5, 0.5], [1, 0, 0], () => true),
  ).toBeUndefined();
});

it('answers the same with trees that were made elsewhere', () => {
  const some = cubes(Array.from({ length: 40 }, (_, i) => ({ min: [i * 2, i % 3, 0], size: [1, 1, 1] })));
  const worker = new Picker(some);
  const [here, taken] = [new Picker(some), new Picker(some)];
  taken.take(structuredClone({ shapes: worker.shapes.serialise(), instances: worker.instances.serialise() }));
  for (let i = 0; i < 40; i++) {
    const from: Point = [i * 2 + 0.4, -5, 0.3];
    expect(taken.pick(from, [0, 1, 0], () => true)).toEqual(here.pick(from, [0, 1, 0], () => true));
  }
});
