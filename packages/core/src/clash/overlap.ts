/**
 * How deep two bodies reach into each other: the diameter of the largest ball that lies in both. Bodies that only touch hold none, however
 * much of their surfaces meets; neither does a notch around what stands in it.
 */
import { Vector3 } from 'three';
import type { Body } from '../scene/element-body.ts';
import type { Point } from '../scene/pick.ts';

export interface Overlap {
  /** Metres. */
  depth: number;
  /** The middle of the ball, in the coordinates of the model. */
  at: Point;
}

/** As part of the whole: near enough to the deepest place. */
const NEAR_ENOUGH = 0.02;
/** So many places are looked at in a pair of bodies at most. */
const MOST_PLACES = 400;

/** Null where they reach no deeper than `tolerance` (metres) into each other, or one of them is not closed. */
export function overlapOf(a: Body, b: Body, tolerance: number): Overlap | null {
  if (a.measures.volume === null || b.measures.volume === null) return null;
  const most = commonWidth(a, b);
  if (most <= tolerance) return null;
  const offset = a.offsetTo(b);
  const inB = new Vector3();
  /** Metres that a place lies within both, negative outside of either; it counts from the middle of `a`. */
  const within = (place: Vector3): number => {
    const there = inB.subVectors(place, offset);
    const [p, q] = [a.distanceTo(place, Infinity), b.distanceTo(there, Infinity)];
    const inside = a.holds(place) && b.holds(there);
    return inside ? Math.min(p, q) : -Math.max(a.holds(place) ? 0 : p, b.holds(there) ? 0 : q);
  };
  // Cells of the box that both share, the most promising first; in no cell a place lies deeper than its middle and half its diagonal.
  const box = commonBox(a, b);
  let best = { depth: -Infinity, place: new Vector3() };
  const cells: Cell[] = [];
  const look = (min: Vector3, max: Vector3): void => {
    const place = min.clone().add(max).multiplyScalar(0.5);
    const depth = within(place);
    if (depth > best.depth) best = { depth, place };
    cells.push({ min, max, atMost: Math.min(most / 2, depth + max.distanceTo(min) / 2) });
  };
  look(box.min, box.max);
  for (let looked = 1; looked < MOST_PLACES && cells.length;) {
    const cell = takeBest(cells);
    if (cell.atMost <= Math.max(tolerance / 2, best.depth * (1 + NEAR_ENOUGH))) break;
    const [one, other] = halves(cell);
    look(...one);
    look(...other);
    looked += 2;
  }
  if (best.depth * 2 <= tolerance) return null;
  const [x, y, z] = a.measures.middle;
  return { depth: best.depth * 2, at: [best.place.x + x, best.place.y + y, best.place.z + z] };
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
  let least = Infinity;
  for (const axis of [...WORLD, ...a.axes, ...b.axes]) {
    const [p, q] = [reach(a, axis), reach(b, axis)];
    least = Math.min(least, Math.min(p[1], q[1]) - Math.max(p[0], q[0]));
    if (least <= 0) return 0;
  }
  return least;
}
const WORLD: readonly Point[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

function reach({ corners }: Body, [x, y, z]: Point): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < corners.length; i += 3) {
    const at = corners[i]! * x + corners[i + 1]! * y + corners[i + 2]! * z;
    if (at < low) low = at;
    if (at > high) high = at;
  }
  return [low, high];
}
