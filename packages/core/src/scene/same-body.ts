/** Whether two bodies are the same solid, however it was written, and how it was moved and turned. */
import { Matrix4, Quaternion, Vector3 } from 'three';
import type { Body } from './element-body.ts';
import type { Point } from './pick.ts';

/** Metres: nearer places are one place. */
export const NEAR = 1e-3;
/** As part of the whole: less is written differently, not built differently. */
const LIKE = 2e-3;
/** As part of the whole: two tessellations of something round differ by no more. */
const ROUND_LIKE = 0.08;
/** Of a large body so many places are looked at. */
const SAMPLES = 1500;

export interface Motion {
  /** Of the middle, metres. */
  moved: Point;
  /** Axis of length one and degrees; null where it is not turned. */
  turned: { axis: Point; degrees: number } | null;
}

/** How `before` has to be moved to become `after`; null where it is another solid. */
export function motionBetween(before: Body, after: Body): Motion | null {
  const [a, b] = [before.measures, after.measures];
  const moved = a.middle.map((value, i) => b.middle[i]! - value) as unknown as Point;
  const written = sameTriangles(before, after);
  if (!mayBeAlike(before, after, written)) return null;
  const still = new Quaternion();
  if (fits(before, after, still, written)) return { moved, turned: null };
  for (const turn of written ? [turnOfCorners(before, after)] : turnsOfAxes(before, after))
    if (turn && fits(before, after, turn, written)) return { moved, turned: sayTurn(turn) };
  return null;
}

const sameTriangles = ({ indices: a, corners: p }: Body, { indices: b, corners: q }: Body): boolean =>
  a.length === b.length && p.length === q.length && a.every((vertex, i) => vertex === b[i]);

function mayBeAlike(before: Body, after: Body, written: boolean): boolean {
  const [a, b] = [before.measures, after.measures];
  const like = written ? LIKE : ROUND_LIKE;
  const near = (x: number, y: number): boolean => Math.abs(x - y) <= like * Math.max(Math.abs(x), Math.abs(y)) + 1e-9;
  if (!near(a.area, b.area) || Math.abs(a.length - b.length) > NEAR + like * a.length) return false;
  return a.volume === null || b.volume === null || near(a.volume, b.volume);
}

function fits(before: Body, after: Body, turn: Quaternion, written: boolean): boolean {
  if (written) return farthestCorners(before, after, turn) <= NEAR;
  const [round, other] = [before.roundness(), after.roundness()];
  const flat = round === 0 && other === 0;
  const [a, b] = [before.measures, after.measures];
  // Where nothing is round, two ways to write a solid agree in all that is measured.
  if (flat && Math.abs(a.area - b.area) > LIKE * a.area) return false;
  if (flat && a.volume !== null && b.volume !== null && Math.abs(a.volume - b.volume) > LIKE * a.volume) return false;
  if (!flat && Math.abs(before.girth() - after.girth()) > NEAR + Math.min(round, other) / 4) return false;
  return (
    liesOn(before, after, turn, other, round + other) &&
    liesOn(after, before, turn.clone().invert(), round, round + other)
  );
}

function farthestCorners(before: Body, after: Body, turn: Quaternion): number {
  const [a, b] = [before.measures.middle, after.measures.middle];
  const at = new Vector3();
  let most = 0;
  for (let i = 0; i < before.corners.length; i += 3) {
    at.set(before.corners[i]! - a[0], before.corners[i + 1]! - a[1], before.corners[i + 2]! - a[2]).applyQuaternion(
      turn,
    );
    at.x -= after.corners[i]! - b[0];
    at.y -= after.corners[i + 1]! - b[1];
    at.z -= after.corners[i + 2]! - b[2];
    most = Math.max(most, at.length());
    if (most > NEAR) break;
  }
  return most;
}

/** Corners lie on the true surface, facets of something round within it. */
function liesOn(one: Body, other: Body, turn: Quaternion, corners: number, facets: number): boolean {
  const { corners: p, indices } = one;
  const m = one.measures.middle;
  const at = new Vector3();
  const isNear = (allowed: number): boolean =>
    other.distanceTo(at.applyQuaternion(turn), NEAR * 2 + allowed) <= NEAR + allowed;
  const step = 3 * Math.max(1, Math.floor(p.length / 3 / SAMPLES));
  for (let i = 0; i < p.length; i += step) {
    at.set(p[i]! - m[0], p[i + 1]! - m[1], p[i + 2]! - m[2]);
    if (!isNear(corners)) return false;
  }
  const triangleStep = 3 * Math.max(1, Math.floor(indices.length / 3 / SAMPLES));
  for (let t = 0; t < indices.length; t += triangleStep) {
    at.set(0, 0, 0);
    for (let k = 0; k < 3; k++) {
      const corner = indices[t + k]! * 3;
      at.x += (p[corner]! - m[0]) / 3;
      at.y += (p[corner + 1]! - m[1]) / 3;
      at.z += (p[corner + 2]! - m[2]) / 3;
    }
    if (!isNear(facets)) return false;
  }
  return true;
}

/** From three corners that lie far apart, the same of both. */
function turnOfCorners(before: Body, after: Body): Quaternion | null {
  const count = before.corners.length / 3;
  const at = ({ corners }: Body, i: number): Vector3 => new Vector3().fromArray(corners, i * 3);
  const farthest = (score: (i: number) => number): number => {
    let [best, most] = [0, -1];
    for (let i = 0; i < count; i++) {
      const value = score(i);
      if (value > most) [best, most] = [i, value];
    }
    return best;
  };
  const first = at(before, 0);
  const second = farthest((i) => at(before, i).distanceToSquared(first));
  const along = at(before, second).sub(first);
  const third = farthest((i) => at(before, i).sub(first).cross(along).lengthSq());
  const frame = (body: Body): Matrix4 => {
    const x = at(body, second).sub(at(body, 0)).normalize();
    const z = x
      .clone()
      .cross(at(body, third).sub(at(body, 0)))
      .normalize();
    return new Matrix4().makeBasis(x, z.clone().cross(x), z);
  };
  const [a, b] = [frame(before), frame(after)];
  if (!a.determinant() || !b.determinant()) return null;
  return new Quaternion().setFromRotationMatrix(b.multiply(a.transpose()));
}

/** A body looks the same when its axes are turned half about: four ways to lay one over the other. */
function turnsOfAxes(before: Body, after: Body): Quaternion[] {
  const frame = ({ axes }: Body, [sx, sy]: readonly [number, number]): Matrix4 => {
    const [x, y, z] = axes.map((axis) => new Vector3(...axis)) as [Vector3, Vector3, Vector3];
    return new Matrix4().makeBasis(x.multiplyScalar(sx), y.multiplyScalar(sy), z.multiplyScalar(sx * sy));
  };
  const back = frame(before, [1, 1]).transpose();
  const ways = [
    [1, 1],
    [-1, -1],
    [1, -1],
    [-1, 1],
  ] as const;
  return ways
    .map((way) => new Quaternion().setFromRotationMatrix(frame(after, way).multiply(back)))
    .sort((p, q) => Math.abs(q.w) - Math.abs(p.w));
}

function sayTurn(turn: Quaternion): Motion['turned'] {
  const { x, y, z, w } = turn.w < 0 ? turn.clone().set(-turn.x, -turn.y, -turn.z, -turn.w) : turn;
  const degrees = (2 * Math.acos(Math.min(1, w)) * 180) / Math.PI;
  const length = Math.hypot(x, y, z) || 1;
  // Upwards, where it can be said so.
  const up = z < -1e-9 || (Math.abs(z) <= 1e-9 && (y < -1e-9 || (Math.abs(y) <= 1e-9 && x < 0))) ? -1 : 1;
  return { axis: [(x / length) * up, (y / length) * up, (z / length) * up], degrees: degrees * up };
}
