/** The nearest instance that a ray meets. */
import type { ScenePackage } from './package.ts';

export type Point = readonly [number, number, number];

export interface Picked {
  instance: number;
  /** In lengths of `direction` from `origin`. */
  distance: number;
}

const UNIT = 1 / 65535;
/** A ray along the edge between two triangles must not slip through. */
const SEAM = 1e-9;

/**
 * `origin`, `direction`: metres from the origin of the package. `accepts` may refuse an instance (hidden) or a hit (cut away).
 * Each ray is carried into the unit cube of a shape, where its box is known; distances stay the same. O(instances).
 */
export function pickInstance(
  { shapes, instances }: ScenePackage,
  origin: Point,
  direction: Point,
  accepts: (instance: number, distance?: number) => boolean,
): Picked | undefined {
  let best: Picked | undefined;
  const from: [number, number, number] = [0, 0, 0];
  const along: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < instances.shape.length; i++) {
    if (!accepts(i) || !intoUnitCube(instances.matrix, i * 12, origin, direction, from, along)) continue;
    if (!meetsUnitCube(from, along, best?.distance ?? Infinity)) continue;
    const shape = instances.shape[i]!;
    const base = shapes.vertexStarts[shape]!;
    for (let t = shapes.indexStarts[shape]!; t < shapes.indexStarts[shape + 1]!; t += 3) {
      const distance = meetsTriangle(
        shapes.positions,
        (base + shapes.indices[t]!) * 3,
        (base + shapes.indices[t + 1]!) * 3,
        (base + shapes.indices[t + 2]!) * 3,
        from,
        along,
      );
      if (distance !== undefined && distance < (best?.distance ?? Infinity) && accepts(i, distance))
        best = { instance: i, distance };
    }
  }
  return best;
}

/** False when the instance has no volume to invert. */
function intoUnitCube(
  m: Float32Array,
  at: number,
  origin: Point,
  direction: Point,
  from: [number, number, number],
  along: [number, number, number],
): boolean {
  const [a, d, g] = [m[at]!, m[at + 1]!, m[at + 2]!];
  const [b, e, h] = [m[at + 3]!, m[at + 4]!, m[at + 5]!];
  const [c, f, i] = [m[at + 6]!, m[at + 7]!, m[at + 8]!];
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const determinant = a * A + b * B + c * C;
  if (!determinant) return false;
  const inverse = [A, c * h - b * i, b * f - c * e, B, a * i - c * g, c * d - a * f, C, b * g - a * h, a * e - b * d];
  const [x, y, z] = [origin[0] - m[at + 9]!, origin[1] - m[at + 10]!, origin[2] - m[at + 11]!];
  for (let row = 0; row < 3; row++) {
    const [p, q, r] = [inverse[row * 3]!, inverse[row * 3 + 1]!, inverse[row * 3 + 2]!];
    from[row] = (p * x + q * y + r * z) / determinant;
    along[row] = (p * direction[0] + q * direction[1] + r * direction[2]) / determinant;
  }
  return true;
}

function meetsUnitCube(from: Point, along: Point, nearest: number): boolean {
  let [enter, leave] = [0, nearest];
  for (let axis = 0; axis < 3; axis++) {
    const [position, speed] = [from[axis]!, along[axis]!];
    if (!speed) {
      if (position < 0 || position > 1) return false;
      continue;
    }
    const [one, other] = [-position / speed, (1 - position) / speed];
    enter = Math.max(enter, Math.min(one, other));
    leave = Math.min(leave, Math.max(one, other));
  }
  return enter <= leave;
}

/** Möller and Trumbore 1997, both sides. */
function meetsTriangle(p: Uint16Array, i: number, j: number, k: number, from: Point, along: Point): number | undefined {
  const [x, y, z] = [p[i]! * UNIT, p[i + 1]! * UNIT, p[i + 2]! * UNIT];
  const [ux, uy, uz] = [p[j]! * UNIT - x, p[j + 1]! * UNIT - y, p[j + 2]! * UNIT - z];
  const [vx, vy, vz] = [p[k]! * UNIT - x, p[k + 1]! * UNIT - y, p[k + 2]! * UNIT - z];
  const [dx, dy, dz] = along;
  const [qx, qy, qz] = [dy * vz - dz * vy, dz * vx - dx * vz, dx * vy - dy * vx];
  const determinant = ux * qx + uy * qy + uz * qz;
  if (!determinant) return undefined;
  const [sx, sy, sz] = [from[0] - x, from[1] - y, from[2] - z];
  const u = (sx * qx + sy * qy + sz * qz) / determinant;
  if (u < -SEAM || u > 1 + SEAM) return undefined;
  const [rx, ry, rz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
  const v = (dx * rx + dy * ry + dz * rz) / determinant;
  if (v < -SEAM || u + v > 1 + SEAM) return undefined;
  const distance = (vx * rx + vy * ry + vz * rz) / determinant;
  return distance > 0 ? distance : undefined;
}
