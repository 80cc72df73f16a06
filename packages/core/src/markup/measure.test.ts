import fc from 'fast-check';
import { expect, it } from 'vitest';
import { measureOf } from './measure.ts';
import { moved, type Point } from './shapes.ts';

const coordinate = fc.integer({ min: -2000, max: 2000 });
const points = (least: number): fc.Arbitrary<Point[]> =>
  fc.array(fc.tuple(coordinate, coordinate), { minLength: least, maxLength: 9 });

it('a length, a path, a surface less its holes, an angle, a number', () => {
  expect(
    measureOf(
      {
        kind: 'dimension',
        points: [
          [0, 0],
          [30, 40],
        ],
      },
      0.1,
    ),
  ).toEqual({ of: 'length', metres: 5 });
  expect(
    measureOf(
      {
        kind: 'polyline',
        points: [
          [0, 0],
          [30, 40],
          [30, 50],
        ],
      },
      0.1,
    ),
  ).toEqual({ of: 'length', metres: 6 });
  const hole: Point[] = [
    [2, 2],
    [4, 2],
    [4, 4],
    [2, 4],
  ];
  expect(
    measureOf(
      {
        kind: 'area',
        points: [
          [0, 0],
          [10, 0],
          [10, 10],
          [0, 10],
        ],
        holes: [hole],
      },
      0.5,
    ),
  ).toEqual({
    of: 'area',
    squareMetres: 24,
    around: 20,
  });
  expect(
    measureOf(
      {
        kind: 'angle',
        points: [
          [10, 0],
          [0, 0],
          [0, -10],
        ],
      },
      1,
    ),
  ).toEqual({ of: 'angle', degrees: 90 });
  expect(
    measureOf(
      {
        kind: 'count',
        points: [
          [0, 0],
          [1, 1],
          [2, 2],
        ],
      },
      1,
    ),
  ).toEqual({ of: 'count', count: 3 });
  expect(
    measureOf(
      {
        kind: 'cloud',
        points: [
          [0, 0],
          [1, 1],
        ],
      },
      1,
    ),
  ).toBeUndefined();
});

it('does not change with the place or with the direction that it was drawn in', () => {
  fc.assert(
    fc.property(points(3), coordinate, coordinate, (some, dx, dy) => {
      const area = measureOf({ kind: 'area', points: some }, 1) as { squareMetres: number; around: number };
      for (const other of [
        moved({ kind: 'area', points: some }, dx, dy),
        { kind: 'area', points: [...some].reverse() } as const,
      ]) {
        const measured = measureOf(other, 1) as { squareMetres: number; around: number };
        expect(measured.squareMetres).toBeCloseTo(area.squareMetres, 4);
        expect(measured.around).toBeCloseTo(area.around, 4);
      }
    }),
  );
});
