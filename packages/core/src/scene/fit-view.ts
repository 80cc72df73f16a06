/** From where things are seen whole, as large as they can be. */
import { Vector3 } from 'three';
import type { Point } from './pick.ts';

/** How far a view reaches to both sides and up and down: tangents of half the angles. */
export interface Opening {
  across: number;
  up: number;
}
export interface FittedView {
  position: Point;
  target: Point;
}

/**
 * `points`: x, y, z of what is to be seen, one after the other; `towards`: from the eye to them; `roof`: what is up on the picture, at
 * right angles to it. Both of length one. O(points).
 */
export function fitView(
  points: ArrayLike<number>,
  towards: Vector3,
  roof: Vector3,
  { across, up }: Opening,
): FittedView {
  const right = new Vector3().crossVectors(towards, roof);
  const dot = (i: number, { x, y, z }: Vector3): number => points[i]! * x + points[i + 1]! * y + points[i + 2]! * z;
  // On each axis of the picture the eye lies where the outermost lines of sight to both sides cross.
  const along = (axis: Vector3, opening: number): { middle: number; back: number } => {
    let [low, high] = [Infinity, Infinity];
    for (let i = 0; i < points.length; i += 3) {
      const [side, depth] = [dot(i, axis), dot(i, towards)];
      low = Math.min(low, depth * opening + side);
      high = Math.min(high, depth * opening - side);
    }
    return { middle: (low - high) / 2, back: (low + high) / (2 * opening) };
  };
  const [level, upright] = [along(right, across), along(roof, up)];
  let [nearest, farthest] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    nearest = Math.min(nearest, dot(i, towards));
    farthest = Math.max(farthest, dot(i, towards));
  }
  const back = Math.min(level.back, upright.back);
  const on = (depth: number): Point =>
    new Vector3()
      .addScaledVector(right, level.middle)
      .addScaledVector(roof, upright.middle)
      .addScaledVector(towards, depth)
      .toArray();
  return { position: on(back), target: on(Math.max((nearest + farthest) / 2, back + 0.01)) };
}
