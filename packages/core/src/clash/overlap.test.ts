import fc from 'fast-check';
import { Matrix4, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { box, cylinder, joined, placed, rewritten } from '../scene/bodies.fixture.ts';
import { Body } from '../scene/element-body.ts';
import { overlapOf } from './overlap.ts';

const at = (x: number, y: number, z: number): Matrix4 => new Matrix4().makeTranslation(x, y, z);
/** A pipe of which one sees the wall: metres. */
function hollow(radius: number, thick: number, height: number): Body {
  const [outer, inner] = [cylinder(radius, height, 24), cylinder(radius - thick, height, 24)];
  const shift = outer.corners.length / 3;
  const corners = Float64Array.from([...outer.corners, ...inner.corners]);
  const indices: number[] = [];
  for (let t = 0; t < outer.indices.length; t += 3) {
    const triangle = [...outer.indices.subarray(t, t + 3)];
    // The ends are rings: their middles are left out.
    if (triangle.some((vertex) => vertex < 2)) continue;
    indices.push(...triangle, ...triangle.toReversed().map((vertex) => vertex + shift));
  }
  for (let i = 0; i < 24; i++) {
    const [a, b] = [2 + 2 * i, 2 + 2 * ((i + 1) % 24)];
    indices.push(a, a + shift, b, b, a + shift, b + shift);
    indices.push(a + 1, b + 1, a + 1 + shift, b + 1, b + 1 + shift, a + 1 + shift);
  }
  return new Body(corners, Uint32Array.from(indices));
}
const depth = (a: Body, b: Body): number | undefined => overlapOf(a, b, 0.001)?.depth;

describe('how deep two bodies reach into each other', () => {
  it('is told where they overlap, go through each other, or one holds the other', () => {
    const block = box([1, 1, 1]);
    expect(depth(block, placed(block, at(0.95, 0, 0)))).toBeCloseTo(0.05, 3);
    expect(depth(block, placed(block, at(0.9, 0.97, 0)))).toBeCloseTo(0.03, 3);
    // A duct through a wall: as deep as the wall is thick.
    expect(depth(box([5, 0.2, 3]), placed(box([0.4, 2, 0.3]), at(2, -1, 1)))).toBeCloseTo(0.2, 2);
    expect(depth(box([5, 4, 3]), placed(box([0.4, 0.2, 0.3]), at(2, 1, 1)))).toBeCloseTo(0.2, 2);
    const lying = placed(cylinder(0.05, 2, 48), new Matrix4().makeRotationY(Math.PI / 2).premultiply(at(-1, 0.08, 1)));
    expect(depth(cylinder(0.05, 2, 48), lying)).toBeCloseTo(0.02, 2);
  });

  it('is found where they are thin: a duct of sheet metal through a beam of thin flanges', () => {
    const pipe = hollow(0.2, 0.003, 3);
    const web = placed(box([4, 0.008, 0.4]), at(-2, -0.1, 1));
    expect(depth(pipe, web)).toBeCloseTo(0.003, 3);
    const flanged = joined(
      web,
      placed(box([4, 0.2, 0.012]), at(-2, -0.2, 1)),
      placed(box([4, 0.2, 0.012]), at(-2, -0.2, 1.4)),
    );
    expect(depth(pipe, flanged)).toBeGreaterThan(0.0025);
    // What stands free within it is in nobody's way.
    expect(overlapOf(pipe, placed(box([0.1, 0.1, 5]), at(-0.05, -0.05, -1)), 0.001)).toBeNull();
  });

  it('is nothing where they touch, however much, and where they are apart', () => {
    const block = box([1, 1, 1]);
    for (const other of [at(1, 0, 0), at(1, 1, 0), at(0.9995, 0, 0), at(2, 0, 0)])
      expect(overlapOf(block, placed(block, other), 0.001)).toBeNull();
    const turn = new Matrix4().makeRotationZ(0.6);
    expect(overlapOf(placed(block, turn), placed(block, turn.clone().multiply(at(1, 0.3, 0))), 0.001)).toBeNull();
    // A column in a notch that fits it: a slab around it, made of four.
    const notched = joined(
      box([3, 1, 0.2]),
      placed(box([3, 1, 0.2]), at(0, 1.5, 0)),
      placed(box([1, 0.5, 0.2]), at(0, 1, 0)),
      placed(box([1.5, 0.5, 0.2]), at(1.5, 1, 0)),
    );
    expect(overlapOf(notched, placed(box([0.5, 0.5, 3]), at(1, 1, -1)), 0.001)).toBeNull();
  });

  it('is not known of what is not closed', () => {
    const { corners, indices } = box([1, 1, 1]);
    expect(overlapOf(new Body(corners, indices.slice(6)), placed(box([1, 1, 1]), at(0.5, 0, 0)), 0.001)).toBeNull();
  });

  it('is the same whichever is asked, wherever they lie, and however they are written', () => {
    const part = fc.integer({ min: 5, max: 95 }).map((value) => value / 100);
    const turned = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(part, part, part, turned, (x, y, z, angle) => {
        const [a, b] = [box([1, 1, 1]), placed(box([1, 1, 1]), at(x, y, z))];
        const world = at(4_000, -7_000, 12).multiply(
          new Matrix4().makeRotationAxis(new Vector3(1, 2, 5).normalize(), angle),
        );
        const overlap = 1 - Math.max(x, y, z);
        const found = [
          overlapOf(a, b, 0.001),
          overlapOf(placed(b, world), placed(a, world), 0.001),
          overlapOf(placed(rewritten(a), world), placed(box([1, 1, 1], 2), world.clone().multiply(at(x, y, z))), 0.001),
        ];
        for (const one of found) expect(Math.abs(one!.depth / overlap - 1)).toBeLessThan(0.05);
        const middle = new Vector3(...found[0]!.at);
        expect(a.holds(middle.sub(new Vector3(...a.measures.middle)))).toBe(true);
      }),
      { numRuns: 25 },
    );
  });
});

describe('the gap between two bodies', () => {
  it('is the shortest way between their surfaces', () => {
    const block = box([1, 1, 1]);
    expect(block.gapTo(placed(block, at(1.05, 0.2, 0)), 0.1)).toMatchObject({ gap: expect.closeTo(0.05, 4) });
    const [x] = block.gapTo(placed(block, at(1.05, 0.2, 0)), 0.1)!.at;
    expect(x).toBeCloseTo(1.025, 4);
    expect(block.gapTo(placed(block, at(1.5, 0, 0)), 0.1)).toBeNull();
    expect(block.meets(placed(block, at(0.5, 0.5, 0.5)))).toBe(true);
    expect(block.meets(placed(block, at(1.05, 0, 0)))).toBe(false);
  });
});
