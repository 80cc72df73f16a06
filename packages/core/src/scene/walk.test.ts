import fc from 'fast-check';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { boxes, type TestBox } from './boxes.fixture.ts';
import { Picker } from './pick.ts';
import { surroundingsOf } from './surroundings.ts';
import { Walker } from './walk.ts';

const box = (min: TestBox['min'], size: TestBox['size']): TestBox => ({ min, size });
/** A room of 6 × 5 m with walls of 20 cm. */
const ROOM = [
  box([-0.2, -0.2, -0.3], [6.4, 5.4, 0.3]),
  box([-0.2, -0.2, 0], [0.2, 5.4, 3]),
  box([6, -0.2, 0], [0.2, 5.4, 3]),
  box([0, -0.2, 0], [6, 0.2, 3]),
  box([0, 5, 0], [6, 0.2, 3]),
];
function walker(all: readonly TestBox[], feet: [number, number, number], stands: (i: number) => boolean = () => true) {
  const scene = boxes(all);
  const model = { scene, picker: new Picker(scene), offset: [0, 0, 0] as const, stands };
  return new Walker(
    surroundingsOf(() => [model], -50),
    new Vector3(...feet),
  );
}

describe('somebody who walks', () => {
  it('stays in a closed room wherever they turn', () => {
    const speed = fc.double({ min: -6, max: 6, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(speed, speed), { minLength: 1, maxLength: 40 }), (turns) => {
        const me = walker([...ROOM, box([2, 2, 0], [0.15, 1.4, 3])], [1, 1, 0]);
        for (const turn of turns) {
          me.walk(0.4, turn);
          expect(me.feet.x).toBeGreaterThan(0);
          expect(me.feet.x).toBeLessThan(6);
          expect(me.feet.y).toBeGreaterThan(0);
          expect(me.feet.y).toBeLessThan(5);
          expect(me.feet.z).toBeCloseTo(0, 3);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('climbs a stair, and comes down again', () => {
    const stair = Array.from({ length: 10 }, (_, i) => box([2 + i * 0.28, 0, 0], [0.28, 1.2, (i + 1) * 0.18]));
    const landing = box([4.8, 0, 0], [3, 1.2, 1.8]);
    const me = walker([box([-5, -5, -0.3], [20, 20, 0.3]), ...stair, landing], [0, 0.6, 0]);
    for (let i = 0; i < 200; i++) me.walk(0.02, [1.4, 0]);
    expect(me.feet.x).toBeCloseTo(5.6, 1);
    expect(me.feet.z).toBeCloseTo(1.8, 3);
    for (let i = 0; i < 200; i++) me.walk(0.02, [-1.4, 0]);
    expect(me.feet.z).toBeCloseTo(0, 3);
  });

  it('does not step on a table, falls off an edge, and stands on the ground at last', () => {
    const floor = box([0, 0, -0.3], [4, 4, 0.3]);
    const beforeTable = walker([floor, box([2, 0, 0.7], [1, 4, 0.05])], [1, 2, 0]);
    for (let i = 0; i < 100; i++) beforeTable.walk(0.02, [1, 0]);
    expect(beforeTable.feet.x).toBeCloseTo(2 - 0.22, 2);
    const off = walker([floor, box([4, 0, -3], [10, 4, 0.2])], [3, 2, 0]);
    for (let i = 0; i < 120; i++) off.walk(0.02, [1, 0]);
    expect(off.feet.z).toBeCloseTo(-2.8, 3);
    const beside = walker([floor], [3, 2, 0]);
    for (let i = 0; i < 300; i++) beside.walk(0.02, [2, 0]);
    expect(beside.feet.z).toBe(-50);
  });

  it('does not climb where there is no room to stand', () => {
    const stair = Array.from({ length: 10 }, (_, i) => box([2 + i * 0.28, 0, 0], [0.28, 1.2, (i + 1) * 0.18]));
    const me = walker([box([-5, -5, -0.3], [20, 20, 0.3]), ...stair, box([2, 0, 2.4], [9, 1.2, 0.2])], [0, 0.6, 0]);
    for (let i = 0; i < 200; i++) me.walk(0.02, [1.4, 0]);
    expect(me.feet.z).toBeCloseTo(0.54, 3);
    expect(me.feet.x).toBeLessThan(3);
  });

  it('goes through what does not stand in the way', () => {
    const door = box([2, 0, 0], [0.05, 4, 2]);
    const walls = [box([0, 0, -0.3], [5, 4, 0.3]), door];
    const through = walker(walls, [1, 2, 0], (i) => walls[i] !== door);
    for (let i = 0; i < 100; i++) through.walk(0.02, [1, 0]);
    expect(through.feet.x).toBeCloseTo(3, 3);
  });
});
