/** Curves of a path as points, and the circles that they are pieces of. Lengths in points (1/72 inch). */

/** How far a flattened curve may lie beside the curve: 0.018 mm on paper. */
export const CURVE_TOLERANCE = 0.05;
const MOST_PIECES = 200;

/** A cubic Bézier curve from (x0, y0) to (x3, y3). */
export type Cubic = readonly [
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  x3: number,
  y3: number,
];

const along = (a: number, b: number, c: number, d: number, t: number): number => {
  const u = 1 - t;
  return u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * c + t * t * t * d;
};

/**
 * Emits points after the first so that no piece is farther than `CURVE_TOLERANCE` from the curve. The deviation of a piece is at most
 * max |B''| / (8 n²) for n equal steps, and |B''| at most six times the larger second difference of the control points.
 */
export function flattenCubic([x0, y0, x1, y1, x2, y2, x3, y3]: Cubic, emit: (x: number, y: number) => void): void {
  const bend = Math.max(Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2), Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3));
  const pieces = Math.min(MOST_PIECES, Math.max(1, Math.ceil(Math.sqrt((6 * bend) / (8 * CURVE_TOLERANCE)))));
  for (let i = 1; i < pieces; i++) emit(along(x0, x1, x2, x3, i / pieces), along(y0, y1, y2, y3, i / pieces));
  emit(x3, y3);
}

export interface Circle {
  x: number;
  y: number;
  radius: number;
}

/** The circle that a curve follows, where it follows one within the tolerance; undefined for any other curve. */
export function circleOf(cubic: Cubic): Circle | undefined {
  const [x0, y0, x1, y1, x2, y2, x3, y3] = cubic;
  const circle = circleThrough(x0, y0, along(x0, x1, x2, x3, 0.5), along(y0, y1, y2, y3, 0.5), x3, y3);
  if (!circle) return undefined;
  const off = (t: number): number =>
    Math.abs(Math.hypot(along(x0, x1, x2, x3, t) - circle.x, along(y0, y1, y2, y3, t) - circle.y) - circle.radius);
  const allowed = Math.max(CURVE_TOLERANCE, circle.radius * 0.002);
  return off(0.25) <= allowed && off(0.75) <= allowed ? circle : undefined;
}

/** Undefined where the three points lie on a line, or nearly so. */
function circleThrough(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): Circle | undefined {
  const [ux, uy, vx, vy] = [bx - ax, by - ay, cx - ax, cy - ay];
  const twice = 2 * (ux * vy - uy * vx);
  const [u, v] = [ux * ux + uy * uy, vx * vx + vy * vy];
  if (Math.abs(twice) < 1e-6 * Math.max(u, v) || twice === 0) return undefined;
  const x = (vy * u - uy * v) / twice;
  const y = (ux * v - vx * u) / twice;
  return { x: ax + x, y: ay + y, radius: Math.hypot(x, y) };
}
