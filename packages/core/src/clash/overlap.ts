/**
 * How deep two bodies reach into each other: the diameter of the largest ball that lies in both. Bodies that only touch hold none, however
 * much of their surfaces meets; neither does a notch around what stands in it.
 */
import { Vector3 } from 'three';
import type { Body, Crossing } from '../scene/element-body.ts';
import type { Point } from '../scene/pick.ts';

export interface Overlap {
  /** Metres. */
  depth: number;
  /** The middle of the ball, in the coordinates of the model. */
  at: Point;
}

/** As part of the whole: near enough to the deepest place. */
const NEAR_ENOUGH = 0.04;
/** So many places are looked at in a pair of bodies at most, and so many where surfaces cross. */
const [MOST_PLACES, CROSSINGS] = [400, 8];
/** Metres: nothing that is built is thinner by much. */
const THIN = 5e-4;

/** Null where they reach no deeper than `tolerance` (metres) into each other, or one of them is not closed. */
export function overlapOf(a: Body, b: Body, tolerance: number): Overlap | null {
  if (a.measures.volume === null || b.measures.volume === null) return null;
  const most = commonWidth(a, b);
  if (most <= tolerance) return null;
  const [withinA, withinB] = [depthIn(a), depthIn(b)];
  const offset = a.offsetTo(b);
  const inB = new Vector3();
  /** Metres that a place lies within both, negative outside of either; it counts from the middle of `a`. */
  const within = (place: Vector3): number => Math.min(withinA(place), withinB(inB.subVectors(place, offset)));
  const best: Deepest = { depth: -Infinity, place: new Vector3() };
  const consider = (place: Vector3): number => {
    const depth = within(place);
    if (depth > best.depth) {
      best.depth = depth;
      best.place.copy(place);
    }
    return depth;
  };
  const convex = a.planes() !== null && b.planes() !== null;
  const enough = (): number => Math.max(tolerance / 2, best.depth * (1 + NEAR_ENOUGH));
  const isDeepest = lookInCells(commonBox(a, b), most / 2, enough, consider);
  // What is thin is missed by cells: there one begins where surfaces cross.
  if (!convex && !isDeepest) {
    if (best.depth * 2 <= tolerance)
      for (const crossing of a.crossings(b, CROSSINGS)) lookBeside(crossing, Math.max(tolerance, THIN), consider);
    if (best.depth > 0) lookAround(best, consider);
  }
  if (best.depth * 2 <= tolerance) return null;
  const [x, y, z] = a.measures.middle;
  return { depth: best.depth * 2, at: [best.place.x + x, best.place.y + y, best.place.z + z] };
}

/** How far within a body a place lies that counts from its middle, metres; negative outside, and there no farther than it is away. */
function depthIn(body: Body): (place: Vector3) => number {
  const planes = body.planes();
  if (!planes)
    return (place) => {
      const distance = body.distanceTo(place, Infinity);
      return body.holds(place) ? distance : -distance;
    };
  return ({ x, y, z }) => {
    let least = Infinity;
    for (let p = 0; p < planes.length; p += 4)
      least = Math.min(least, planes[p + 3]! - planes[p]! * x - planes[p + 1]! * y - planes[p + 2]! * z);
    return least;
  };
}

interface Deepest {
  depth: number;
  place: Vector3;
}
type Consider = (place: Vector3) => number;

/** Into each of the four corners that two surfaces make where they cross, as far as it gets deeper. Metres. */
function lookBeside({ at, normals: [n, m] }: Crossing, step: number, consider: Consider): void {
  const place = new Vector3();
  for (const [p, q] of CORNERS) {
    const way = n.clone().multiplyScalar(p).addScaledVector(m, q);
    if (way.lengthSq() < 1e-6) continue;
    way.normalize();
    let before = 0;
    for (let far = step; ; far *= 2) {
      const depth = consider(place.copy(at).addScaledVector(way, far));
      if (depth <= before) break;
      before = depth;
    }
  }
}
const CORNERS = [
  [-1, -1],
  [-1, 1],
  [1, -1],
  [1, 1],
] as const;

/** Cells of a box, the most promising first: in no cell a place lies deeper than its middle and half its diagonal. False where it gave up. */
function lookInCells(
  box: { min: Vector3; max: Vector3 },
  most: number,
  enough: () => number,
  consider: Consider,
): boolean {
  const cells: Cell[] = [];
  const place = new Vector3();
  const look = (min: Vector3, max: Vector3): void => {
    const depth = consider(place.addVectors(min, max).multiplyScalar(0.5));
    const atMost = Math.min(most, depth + max.distanceTo(min) / 2);
    if (atMost > enough()) cells.push({ min, max, atMost });
  };
  look(box.min, box.max);
  for (let looked = 1; looked < MOST_PLACES && cells.length; looked += 2) {
    const cell = takeBest(cells);
    if (cell.atMost <= enough()) return true;
    const [one, other] = halves(cell);
    look(...one);
    look(...other);
  }
  return !cells.length;
}

/** Along the axes, in ever shorter steps, as long as it gets deeper. */
function lookAround(best: Deepest, consider: Consider): void {
  const place = new Vector3();
  for (let step = best.depth; step > best.depth * NEAR_ENOUGH;) {
    const { depth } = best;
    const from = best.place.clone();
    for (let axis = 0; axis < 3; axis++)
      for (const way of [step, -step]) consider(place.copy(from).setComponent(axis, from.getComponent(axis) + way));
    if (best.depth <= depth) step /= 2;
  }
}

interface Cell {
  min: Vector3;
  max: Vector3;
  atMost: number;
}

/** Lists are short: the best is looked for. */
function takeBest(cells: Cell[]): Cell {
  let at = 0;
  for (let i = 1; i < cells.length; i++) if (cells[i]!.atMost > cells[at]!.atMost) at = i;
  const [best] = cells.splice(at, 1);
  return best!;
}

function halves({ min, max }: Cell): [[Vector3, Vector3], [Vector3, Vector3]] {
  const size = max.clone().sub(min).toArray();
  const axis = size.indexOf(Math.max(...size));
  const middle = (min.getComponent(axis) + max.getComponent(axis)) / 2;
  return [
    [min, max.clone().setComponent(axis, middle)],
    [min.clone().setComponent(axis, middle), max],
  ];
}

/** From the middle of `a`. */
function commonBox(a: Body, b: Body): { min: Vector3; max: Vector3 } {
  const [p, q, m] = [a.measures.bounds, b.measures.bounds, a.measures.middle];
  const end = (axis: number, of: (x: number, y: number) => number): number => of(p[axis]!, q[axis]!) - m[axis % 3]!;
  return {
    min: new Vector3(end(0, Math.max), end(1, Math.max), end(2, Math.max)),
    max: new Vector3(end(3, Math.min), end(4, Math.min), end(5, Math.min)),
  };
}

/** No ball in both is wider than what they share of any direction: of the world and of their own sides. */
function commonWidth(a: Body, b: Body): number {
  const [p, q] = [a.measures.bounds, b.measures.bounds];
  let least = Infinity;
  for (let axis = 0; axis < 3; axis++)
    least = Math.min(least, Math.min(p[axis + 3]!, q[axis + 3]!) - Math.max(p[axis]!, q[axis]!));
  for (const axes of [a.axes, b.axes])
    for (const axis of axes) {
      if (least <= 0) return 0;
      if (isAlongWorld(axis)) continue;
      const [one, other] = [a.reachAlong(axis), b.reachAlong(axis)];
      least = Math.min(least, Math.min(one[1], other[1]) - Math.max(one[0], other[0]));
    }
  return Math.max(0, least);
}
const isAlongWorld = (axis: Point): boolean => axis.some((part) => Math.abs(part) > 1 - 1e-12);
