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
  // On each axis of the picture the eye lies where the outermost lines of sight to both sides cross.
  let [left, rightmost, below, above, nearest, farthest] = [
    Infinity,
    Infinity,
    Infinity,
    Infinity,
    Infinity,
    -Infinity,
  ];
  // One pass over plain numbers: a large model has very many points, and they are looked at before its first picture.
  const [rx, ry, rz] = [right.x, right.y, right.z];
  const [ux, uy, uz] = [roof.x, roof.y, roof.z];
  const [tx, ty, tz] = [towards.x, towards.y, towards.z];
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = [points[i]!, points[i + 1]!, points[i + 2]!];
    const depth = x * tx + y * ty + z * tz;
    const side = x * rx + y * ry + z * rz;
    const height = x * ux + y * uy + z * uz;
    if (depth < nearest) nearest = depth;
    if (depth > farthest) farthest = depth;
    if (depth * across + side < left) left = depth * across + side;
    if (depth * across - side < rightmost) rightmost = depth * across - side;
    if (depth * up + height < below) below = depth * up + height;
    if (depth * up - height < above) above = depth * up - height;
  }
  const back = Math.min((left + rightmost) / (2 * across), (below + above) / (2 * up));
  const on = (depth: number): Point =>
    new Vector3()
      .addScaledVector(right, (left - rightmost) / 2)
      .addScaledVector(roof, (below - above) / 2)
      .addScaledVector(towards, depth)
      .toArray();
  return { position: on(back), target: on(Math.max((nearest + farthest) / 2, back + 0.01)) };
}
