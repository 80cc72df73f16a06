/** What is measured in space; metres, square metres, radians. */
import { Vector3 } from 'three';
import type { Point } from './pick.ts';
import type { Face } from './solid.ts';

/** Metres but for: angle in radians, area in square metres, volume in cubic metres. */
export const MEASURE_KINDS = [
  'distance',
  'square to face',
  'between faces',
  'height',
  'angle',
  'area',
  'volume',
] as const;
export type MeasureKind = (typeof MEASURE_KINDS)[number];
/** What one draws on a view. */
export const MARK_KINDS = ['line', 'arrow', 'cloud', 'dimension', 'text'] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

export interface Distance {
  length: number;
  /** Along x, y and z. */
  parts: Point;
  /** On the plan. */
  level: number;
}

/** Faces that turn less from one another are parallel: half a degree. */
const PARALLEL = Math.PI / 360;
const vector = (point: Point): Vector3 => new Vector3(...point);

export function distanceBetween(a: Point, b: Point): Distance {
  const [x, y, z] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  return { length: Math.hypot(x, y, z), parts: [x, y, z], level: Math.hypot(x, y) };
}

/** The point of the plane of a face that lies square to `from`. */
export function footOn({ at, normal }: Pick<Face, 'at' | 'normal'>, from: Point): Point {
  const away = vector(from).sub(vector(at)).dot(vector(normal));
  return vector(from).addScaledVector(vector(normal), -away).toArray();
}

/** The angle at `corner`, 0 to π; undefined where a leg has no length. */
export function angleAt(corner: Point, a: Point, b: Point): number | undefined {
  const [one, other] = [vector(a).sub(vector(corner)), vector(b).sub(vector(corner))];
  return one.lengthSq() && other.lengthSq() ? one.angleTo(other) : undefined;
}

/** Between two faces: how far apart where they are parallel, else the smaller angle between their planes. */
export function betweenFaces(
  a: Pick<Face, 'at' | 'normal'>,
  b: Pick<Face, 'at' | 'normal'>,
): { apart: number } | { angle: number } {
  const turn = vector(a.normal).angleTo(vector(b.normal));
  const angle = Math.min(turn, Math.PI - turn);
  return angle < PARALLEL ? { apart: Math.abs(vector(b.at).sub(vector(a.at)).dot(vector(a.normal))) } : { angle };
}
