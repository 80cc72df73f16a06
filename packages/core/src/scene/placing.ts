/** How a model is put to lie with others: turned about the vertical through its origin, then shifted. */
import type { Bounds } from './bounds.ts';
import type { SpatialNode } from './ifc-structure.ts';
import type { ScenePackage } from './package.ts';
import type { Point } from './pick.ts';
import type { ElementTable } from './prepare-model.ts';

export interface Placing {
  /** Degrees counter-clockwise. */
  turn: number;
  /** Metres. */
  shift: Point;
}

/** Degrees counter-clockwise about the vertical. */
export function turned([x, y]: readonly [number, number], degrees: number): [number, number] {
  const [sin, cos] = sinCos(degrees);
  return [cos * x - sin * y, sin * x + cos * y];
}

/** Quarters are exact. */
function sinCos(degrees: number): [sin: number, cos: number] {
  const quarters = degrees / 90;
  if (!Number.isInteger(quarters)) return [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)];
  const at = ((quarters % 4) + 4) % 4;
  return [[0, 1, 0, -1][at]!, [1, 0, -1, 0][at]!];
}

export function pointAt([x, y, z]: Point, { turn, shift }: Placing): Point {
  const [a, b] = turned([x, y], turn);
  return [a + shift[0], b + shift[1], z + shift[2]];
}

/** The box around what was in a box, once it is placed. */
export function boundsAt([x0, y0, z0, x1, y1, z1]: Bounds, placing: Placing): Bounds {
  const corners = [
    [x0, y0, z0],
    [x1, y0, z0],
    [x0, y1, z1],
    [x1, y1, z1],
  ].map((corner) => pointAt(corner as unknown as Point, placing));
  const along = (axis: number): number[] => corners.map((corner) => corner[axis]!);
  return [
    ...[0, 1, 2].map((axis) => Math.min(...along(axis))),
    ...[0, 1, 2].map((axis) => Math.max(...along(axis))),
  ] as unknown as Bounds;
}

/** One placing for two of which `first` comes first. */
export const placedTwice = (first: Placing, then: Placing): Placing => ({
  turn: first.turn + then.turn,
  shift: pointAt(first.shift, then),
});
/** What takes a placing back. */
export function unplaced({ turn, shift: [x, y, z] }: Placing): Placing {
  const [a, b] = turned([-x, -y], -turn);
  return { turn: -turn, shift: [a, b, -z] };
}

/** The package of the placed model; what only shifts it leaves the matrices as they are. O(instances). */
export function placeScene(scene: ScenePackage, placing: Placing): ScenePackage {
  const turn: Placing = { turn: placing.turn, shift: [0, 0, 0] };
  const { instances, parts } = scene;
  return {
    ...scene,
    origin: [...pointAt(scene.origin, placing)],
    bounds: boundsAt(scene.bounds, turn),
    instances: { ...instances, matrix: turnedMatrices(instances.matrix, placing.turn) },
    ...(parts && {
      parts: { ...parts, places: parts.places.map((part) => ({ ...part, bounds: boundsAt(part.bounds, turn) })) },
    }),
  };
}
function turnedMatrices(matrix: Float32Array, degrees: number): Float32Array {
  const [sin, cos] = sinCos(degrees);
  if (cos === 1) return matrix;
  const all = new Float32Array(matrix);
  for (let at = 0; at < all.length; at += 3) {
    const [x, y] = [matrix[at]!, matrix[at + 1]!];
    all[at] = cos * x - sin * y;
    all[at + 1] = sin * x + cos * y;
  }
  return all;
}

/** The element table of the placed model. What the model says of the map held for it as it was delivered. */
export function placeTable(table: ElementTable, placing: Placing): ElementTable {
  const raised = (node: SpatialNode): SpatialNode =>
    node.elevation === null ? node : { ...node, elevation: node.elevation + placing.shift[2] };
  const { place } = table;
  return {
    ...table,
    nodes: table.nodes.map(raised),
    survey: null,
    ...(place && { place: { ...place, trueNorth: null } }),
  };
}
