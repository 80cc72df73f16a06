import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addInstance, emptyBounds, type Bounds } from './bounds.ts';
import { boxes } from './boxes.fixture.ts';
import { boundsAt, placedTwice, placeScene, placeTable, pointAt, unplaced, type Placing } from './placing.ts';
import type { ElementTable } from './prepare-model.ts';

const metres = fc.double({ min: -1000, max: 1000, noNaN: true });
const points = fc.tuple(metres, metres, metres);
const placings = fc.record({ turn: fc.double({ min: -360, max: 360, noNaN: true }), shift: points });
const near = (a: readonly number[], b: readonly number[], digits = 6): void =>
  a.forEach((value, i) => expect(value).toBeCloseTo(b[i]!, digits));
/** The box of the first element in the coordinates of the model. */
function firstBox({ origin, instances }: ReturnType<typeof boxes>): Bounds {
  const bounds = emptyBounds();
  addInstance(bounds, instances.matrix, 0);
  return bounds.map((value, i) => value + origin[i % 3]!) as unknown as Bounds;
}

describe('a placing', () => {
  it('turns before it shifts, counter-clockwise; quarters are exact', () => {
    expect(pointAt([2, 1, 3], { turn: 90, shift: [10, 20, 30] })).toEqual([9, 22, 33]);
    expect(boundsAt([0, 0, 0, 4, 2, 1], { turn: 180, shift: [0, 0, 5] })).toEqual([-4, -2, 5, 0, 0, 6]);
  });
  it('is taken back by another, and two are one', () => {
    fc.assert(
      fc.property(points, placings, placings, (at, first, then) => {
        near(pointAt(pointAt(at, first), unplaced(first)), at);
        near(pointAt(at, placedTwice(first, then)), pointAt(pointAt(at, first), then));
      }),
    );
  });
  it('puts a scene where it puts its points, far from the origin too, and leaves the one that was given', () => {
    fc.assert(
      fc.property(placings, points, (placing, origin) => {
        const scene = boxes(
          [{ min: [1, 2, 3], size: [4, 5, 6] }],
          [origin[0] * 1000, origin[1] * 1000, origin[2] * 1000],
        );
        const before = firstBox(scene);
        near(firstBox(placeScene(scene, placing)), boundsAt(before, placing), 3);
        expect(firstBox(scene)).toEqual(before);
      }),
    );
  });
  it('raises storeys, and what the model says of the map does not hold any more', () => {
    const storey = { name: 'Ground', class: 'IfcBuildingStorey', elevation: 0.2, parent: -1 };
    const survey = { eastings: 1, northings: 2, height: 3, rotation: 4, grid: '' };
    const table = {
      nodes: [storey, { ...storey, elevation: null }],
      survey,
      place: { latitude: 54, longitude: 10, trueNorth: 7 },
    } as unknown as ElementTable;
    const placing: Placing = { turn: 0, shift: [0, 0, -3] };
    expect(placeTable(table, placing)).toMatchObject({
      nodes: [{ elevation: -2.8 }, { elevation: null }],
      survey: null,
      place: { latitude: 54, trueNorth: null },
    });
  });
});
