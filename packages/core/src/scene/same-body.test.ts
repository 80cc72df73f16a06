import fc from 'fast-check';
import { Matrix4, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { Body } from './element-body.ts';
import { box, cylinder, joined, placed, rewritten } from './bodies.fixture.ts';
import { motionBetween } from './same-body.ts';

const at = (x: number, y: number, z: number): Matrix4 => new Matrix4().makeTranslation(x, y, z);
const none = { moved: [0, 0, 0].map(() => expect.closeTo(0, 3)), turned: null };

describe('what is measured of a body', () => {
  it('is that of the solid, wherever it lies', () => {
    const far = placed(box([5, 0.3, 3]), at(450_000, 6_000_000, 40)).measures;
    expect(far.volume).toBeCloseTo(4.5, 6);
    expect(far.area).toBeCloseTo(2 * (1.5 + 0.9 + 15), 6);
    expect(far.length).toBeCloseTo(5, 6);
    expect(far.middle).toEqual([450_002.5, 6_000_000.15, 41.5].map((value) => expect.closeTo(value, 5)));
  });
  it('goes along its own sides, however it is turned', () => {
    const turned = placed(box([5, 0.3, 3]), new Matrix4().makeRotationAxis(new Vector3(1, 2, 3).normalize(), 0.7));
    expect(turned.measures.length).toBeCloseTo(5, 6);
    expect(turned.measures.volume).toBeCloseTo(4.5, 6);
  });
  it('has no volume where it is not closed, and knows what is round', () => {
    const { corners, indices } = box([1, 1, 1]);
    expect(new Body(corners, indices.slice(6)).measures.volume).toBeNull();
    expect(box([1, 2, 3], 3).roundness()).toBe(0);
    // Half a chord's height over its arc: r (1 − cos(π / n)).
    expect(cylinder(0.1, 2, 12).roundness()).toBeCloseTo(0.1 * (1 - Math.cos(Math.PI / 12)), 4);
    expect(cylinder(0.1, 2, 12).girth()).toBeCloseTo(0.1, 6);
  });
});

describe('two bodies', () => {
  it('are one solid however it is written: other triangles, another order, finer or coarser', () => {
    const wall = box([5, 0.3, 3]);
    for (const other of [box([5, 0.3, 3], 4), rewritten(wall), rewritten(box([5, 0.3, 3], 3))])
      expect(motionBetween(wall, other)).toEqual(none);
    expect(motionBetween(cylinder(0.1, 3, 12), cylinder(0.1, 3, 32, 0.05))).toEqual(none);
    expect(motionBetween(cylinder(0.1, 3, 48), cylinder(0.1, 3, 12, 0.2))).toEqual(none);
  });

  it('are two where one is longer, thicker, rounder, has a hole, or is cut', () => {
    const wall = box([5, 0.3, 3]);
    for (const other of [box([5.01, 0.3, 3]), box([5, 0.302, 3], 2), box([5, 0.3, 3.005], 5)])
      expect(motionBetween(wall, other)).toBeNull();
    expect(motionBetween(cylinder(0.1, 3, 12), cylinder(0.103, 3, 12))).toBeNull();
    expect(motionBetween(cylinder(0.1, 3, 12), cylinder(0.103, 3, 32))).toBeNull();
    const [slab, hole] = [box([2, 2, 0.2]), placed(box([0.1, 0.1, 0.2]), at(0.5, 0.5, 0))];
    const inside = rewritten(hole);
    for (let t = 0; t < inside.indices.length; t += 3)
      [inside.indices[t], inside.indices[t + 1]] = [inside.indices[t + 1]!, inside.indices[t]!];
    expect(motionBetween(slab, joined(slab, inside))).toBeNull();
  });

  const angle = fc.double({ min: -3, max: 3, noNaN: true });
  const axis = fc
    .tuple(angle, angle, angle)
    .filter((v) => Math.hypot(...v) > 0.1)
    .map(([x, y, z]) => new Vector3(x, y, z).normalize());
  const place = fc.integer({ min: -50_000, max: 50_000 }).map((value) => value / 100);
  const motion = fc.record({
    axis,
    angle: angle.filter((value) => Math.abs(value) > 0.05),
    to: fc.tuple(place, place, place),
  });

  it('tell by how much one was moved and turned, written alike or not', () => {
    const size = fc.tuple(
      fc.integer({ min: 10, max: 60 }),
      fc.integer({ min: 100, max: 200 }),
      fc.integer({ min: 300, max: 900 }),
    );
    fc.assert(
      fc.property(size, motion, fc.boolean(), ([x, y, z], { axis, angle, to }, otherwise) => {
        const one = box([x / 100, y / 100, z / 100]);
        const turn = new Matrix4().makeRotationAxis(axis, angle);
        const other = placed(
          otherwise ? rewritten(box([x / 100, y / 100, z / 100], 2)) : one,
          at(...to).multiply(turn),
        );
        const found = motionBetween(one, other)!;
        const middle = new Vector3(x / 200, y / 200, z / 200);
        const goes = middle
          .clone()
          .applyMatrix4(turn)
          .add(new Vector3(...to))
          .sub(middle);
        found.moved.forEach((value, i) => expect(value).toBeCloseTo(goes.getComponent(i), 4));
        const said = found.turned!;
        // A box looks the same turned half about any of its sides: what is said lays one over the other.
        const laid = new Matrix4().makeRotationAxis(new Vector3(...said.axis), (said.degrees * Math.PI) / 180);
        if (otherwise) {
          const back = placed(placed(one, at(-middle.x, -middle.y, -middle.z)), laid);
          expect(
            motionBetween(
              placed(
                back,
                at(...(found.moved.map((value, i) => value + middle.getComponent(i)) as [number, number, number])),
              ),
              other,
            )?.turned ?? null,
          ).toBeNull();
        } else laid.elements.forEach((value, i) => expect(value).toBeCloseTo(turn.elements[i]!, 4));
      }),
      { numRuns: 60 },
    );
  });

  it('of something round tell no turn about its axis, and how far it went', () => {
    const pipe = cylinder(0.1, 3, 12);
    expect(motionBetween(pipe, placed(cylinder(0.1, 3, 24), at(0.4, 0, -2)))).toEqual({
      moved: [0.4, 0, -2].map((value) => expect.closeTo(value, 3)),
      turned: null,
    });
  });
});
