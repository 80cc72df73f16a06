import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxes } from '../scene/boxes.fixture.ts';
import { placeScene } from '../scene/placing.ts';
import { wallDirection } from './wall-direction.ts';

const house = boxes([
  { min: [0, 0, 0], size: [20, 0.3, 3] },
  { min: [0, 9.7, 0], size: [20, 0.3, 3] },
  { min: [0, 0, 0], size: [0.3, 10, 3] },
]);

describe('the direction of walls', () => {
  it('is that of the model, however it was turned, with its box in that direction', () => {
    fc.assert(
      fc.property(fc.double({ min: -44, max: 44, noNaN: true }), (turn) => {
        const found = wallDirection(placeScene(house, { turn, shift: [0, 0, 0] }))!;
        expect(found.degrees).toBeCloseTo(turn, 3);
        [0, 0, 0, 20, 10, 3].forEach((value, i) => expect(found.along[i]).toBeCloseTo(value, 3));
      }),
    );
  });
  it('is none where faces run in all directions, or there are none', () => {
    const fan = [0, 1, 2, 3, 4, 5].map((i) =>
      placeScene(boxes([{ min: [0, 0, 0], size: [9, 0.3, 3] }]), { turn: i * 15, shift: [0, 0, 0] }),
    );
    const round = boxes(fan.map(() => ({ min: [0, 0, 0], size: [9, 0.3, 3] })));
    fan.forEach(({ instances }, i) => round.instances.matrix.set(instances.matrix, i * 12));
    expect(wallDirection(round)).toBeNull();
    expect(wallDirection(boxes([]))).toBeNull();
  });
});
