/** Cutting lines and areas at an upright box [left, top, right, bottom]. */
export type Box = readonly [left: number, top: number, right: number, bottom: number];

export const NOTHING: Box = [Infinity, Infinity, -Infinity, -Infinity];

export const intersect = (a: Box, b: Box): Box => [
  Math.max(a[0], b[0]),
  Math.max(a[1], b[1]),
  Math.min(a[2], b[2]),
  Math.min(a[3], b[3]),
];
export const isEmpty = ([left, top, right, bottom]: Box): boolean => left > right || top > bottom;
export const contains = (outer: Box, inner: Box): boolean =>
  inner[0] >= outer[0] && inner[1] >= outer[1] && inner[2] <= outer[2] && inner[3] <= outer[3];

/** Box around x, y pairs from point `from` to before `to`. */
export function boxOf(points: ArrayLike<number>, from: number, to: number): Box {
  let [left, top, right, bottom] = NOTHING;
  for (let i = 2 * from; i < 2 * to; i += 2) {
    const [x, y] = [points[i]!, points[i + 1]!];
    if (x < left) left = x;
    if (x > right) right = x;
    if (y < top) top = y;
    if (y > bottom) bottom = y;
  }
  return [left, top, right, bottom];
}

/** The part of a segment inside the box (Liang and Barsky): its ends as fractions; undefined where none is. */
export function clipSegment(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  [left, top, right, bottom]: Box,
): [number, number] | undefined {
  let [enter, leave] = [0, 1];
  const [dx, dy] = [x1 - x0, y1 - y0];
  for (const [p, q] of [
    [-dx, x0 - left],
    [dx, right - x0],
    [-dy, y0 - top],
    [dy, bottom - y0],
  ] as const) {
    if (p === 0) {
      if (q < 0) return undefined;
    } else if (p < 0) enter = Math.max(enter, q / p);
    else leave = Math.min(leave, q / p);
  }
  return enter <= leave ? [enter, leave] : undefined;
}

/** The part of a ring inside the box (Sutherland and Hodgman), x, y pairs; empty where none is. */
export function clipRing(ring: readonly number[], [left, top, right, bottom]: Box): number[] {
  let points = ring as number[];
  const sides = [
    [0, left, 1],
    [0, right, -1],
    [1, top, 1],
    [1, bottom, -1],
  ] as const;
  for (const [axis, bound, sign] of sides) {
    if (!Number.isFinite(bound)) continue;
    const kept: number[] = [];
    for (let i = 0; i < points.length; i += 2) {
      const j = i ? i - 2 : points.length - 2;
      const [a, b] = [sign * (points[j + axis]! - bound), sign * (points[i + axis]! - bound)];
      if (a >= 0 !== b >= 0) {
        const t = a / (a - b);
        kept.push(points[j]! + t * (points[i]! - points[j]!), points[j + 1]! + t * (points[i + 1]! - points[j + 1]!));
      }
      if (b >= 0) kept.push(points[i]!, points[i + 1]!);
    }
    points = kept;
  }
  return points;
}
