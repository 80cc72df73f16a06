import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxes } from './boxes.fixture.ts';
import { angleAt, betweenFaces, distanceBetween, footOn } from './measure.ts';
import { Picker, type Point } from './pick.ts';
import { snap } from './snap.ts';
import { Solid } from './solid.ts';

const size = fc.double({ min: 0.1, max: 30, noNaN: true });
const place = fc.double({ min: -200, max: 200, noNaN: true });
const solidOf = (min: Point, lengths: Point): [Solid, Picker] => {
  const scene = boxes([{ min, size: lengths }]);
  const picker = new Picker(scene);
  return [new Solid(picker.shapes, scene.instances, 0), picker];
};

describe('a solid', () => {
  it('knows the edges, faces and volume of a box, whatever its size and place', () => {
    fc.assert(
      fc.property(fc.tuple(size, size, size), fc.tuple(place, place, place), ([x, y, z], min) => {
        const [solid, picker] = solidOf(min, [x, y, z]);
        expect(solid.edges()).toHaveLength(12);
        const all = solid.edges().reduce((sum, [a, b]) => sum + distanceBetween(a, b).length, 0);
        expect(all / (4 * (x + y + z))).toBeCloseTo(1, 3);
        expect(solid.volume()! / (x * y * z)).toBeCloseTo(1, 2);
        const from: Point = [min[0] + x / 2, min[1] + y / 3, min[2] + z + 5];
        const top = solid.faceOf(picker.pick(from, [0, 0, -1], () => true)!.triangle);
        expect(top.area / (x * y)).toBeCloseTo(1, 2);
        expect(top.normal[2]).toBeCloseTo(1, 6);
        expect(footOn(top, from)[2]).toBeCloseTo(min[2] + z, 2);
      }),
    );
  });
  it('says no volume where the surface is open', () => {
    const scene = boxes([{ min: [0, 0, 0], size: [1, 1, 1] }]);
    scene.shapes.indexStarts = Uint32Array.of(0, 30);
    const solid = new Solid(new Picker(scene).shapes, scene.instances, 0);
    expect(solid.volume()).toBeUndefined();
    expect(solid.edges().length).toBeGreaterThanOrEqual(12);
  });
});

describe('what a point means', () => {
  const [solid] = solidOf([0, 0, 0], [4, 2, 1]);
  it('is the corner, else the middle of an edge, else the edge, else the place on the face', () => {
    const near = (at: Point) => snap(solid.edges(), at, 0.2);
    expect(near([0.05, 0.06, 1])).toMatchObject({ kind: 'corner', at: [0, 0, 1] });
    expect(near([2.05, 0.06, 1])).toMatchObject({ kind: 'middle', at: [expect.closeTo(2), 0, 1] });
    expect(near([1.2, 0.06, 1])).toMatchObject({ kind: 'edge', at: [expect.closeTo(1.2), 0, 1] });
    expect(near([1.2, 0.9, 1])).toEqual({ kind: 'face', at: [1.2, 0.9, 1] });
  });
});

describe('measures', () => {
  it('distance with its parts, and on the plan', () => {
    expect(distanceBetween([1, 1, 1], [4, 5, 13])).toEqual({ length: 13, parts: [3, 4, 12], level: 5 });
  });
  it('angle at a corner', () => {
    expect(angleAt([0, 0, 0], [2, 0, 0], [0, 0, 5])).toBeCloseTo(Math.PI / 2);
    expect(angleAt([0, 0, 0], [0, 0, 0], [0, 0, 5])).toBeUndefined();
  });
  it('faces: how far apart, or at which angle', () => {
    const up = { at: [3, 3, 0], normal: [0, 0, 1] } as const;
    expect(betweenFaces(up, { at: [9, 0, 2.7], normal: [0, 0, -1] })).toEqual({ apart: expect.closeTo(2.7) });
    const slope = { at: [0, 0, 0], normal: [0, Math.SQRT1_2, -Math.SQRT1_2] } as const;
    expect(betweenFaces(up, slope)).toEqual({ angle: expect.closeTo(Math.PI / 4) });
  });
});
