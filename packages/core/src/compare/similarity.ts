/** Maps that keep shapes: turn, grow, shift. x' = a x - b y + e, y' = b x + a y + f. */
import type { Matrix } from '../drawing/vectors/matrix.ts';

export class Similarity {
  static readonly none = new Similarity(1, 0, 0, 0);

  constructor(
    readonly a: number,
    readonly b: number,
    readonly e: number,
    readonly f: number,
  ) {}

  /** The one that takes two points to two others; undefined where the two are one. */
  static between(
    [px, py]: readonly number[],
    [qx, qy]: readonly number[],
    [Px, Py]: readonly number[],
    [Qx, Qy]: readonly number[],
  ): Similarity | undefined {
    const [ux, uy, vx, vy] = [qx! - px!, qy! - py!, Qx! - Px!, Qy! - Py!];
    const square = ux * ux + uy * uy;
    if (!square) return undefined;
    const [a, b] = [(ux * vx + uy * vy) / square, (ux * vy - uy * vx) / square];
    return new Similarity(a, b, Px! - a * px! + b * py!, Py! - b * px! - a * py!);
  }

  /** A turn (radians, with the clock) and a scale about a point, then a shift of that point to another. */
  static about([px, py]: readonly number[], [Px, Py]: readonly number[], angle: number, scale: number): Similarity {
    const [a, b] = [scale * Math.cos(angle), scale * Math.sin(angle)];
    return new Similarity(a, b, Px! - a * px! + b * py!, Py! - b * px! - a * py!);
  }

  get scale(): number {
    return Math.hypot(this.a, this.b);
  }
  /** Radians with the clock. */
  get angle(): number {
    return Math.atan2(this.b, this.a);
  }
  get matrix(): Matrix {
    return [this.a, this.b, -this.b, this.a, this.e, this.f];
  }

  /** The way back. */
  get inverse(): Similarity {
    const { a, b, e, f } = this;
    const square = a * a + b * b;
    return new Similarity(a / square, -b / square, -(a * e + b * f) / square, (b * e - a * f) / square);
  }

  readonly map = (x: number, y: number): [number, number] => [
    this.a * x - this.b * y + this.e,
    this.b * x + this.a * y + this.f,
  ];

  /** How far it moves the corners of a page from where another one moves them. */
  differs(other: Similarity, width: number, height: number): number {
    const corners = [
      [0, 0],
      [width, 0],
      [0, height],
      [width, height],
    ] as const;
    return Math.max(
      ...corners.map(([x, y]) => {
        const [p, q] = [this.map(x, y), other.map(x, y)];
        return Math.hypot(p[0] - q[0], p[1] - q[1]);
      }),
    );
  }
}

/** A point, and the line that it belongs on by a point of it and its unit normal. */
export interface PointOnLine {
  x: number;
  y: number;
  lx: number;
  ly: number;
  nx: number;
  ny: number;
  weight: number;
}

/**
 * The similarity under which points come onto lines: least
 * squares over a, b, e, f; undefined where the lines do not hold it in all directions.
 */
export function fitToLines(pairs: Iterable<PointOnLine>, [cx, cy]: readonly [number, number]): Similarity | undefined {
  // Unknowns relative to the middle of the page, so that the equations are well conditioned.
  const m = new Float64Array(20);
  for (const { x, y, lx, ly, nx, ny, weight } of pairs) {
    const [px, py] = [x - cx, y - cy];
    const row = [nx * px + ny * py, ny * px - nx * py, nx, ny, nx * (lx - cx) + ny * (ly - cy)];
    for (let i = 0; i < 4; i++) for (let j = 0; j < 5; j++) m[5 * i + j]! += weight * row[i]! * row[j]!;
  }
  const solved = solve4(m);
  if (!solved) return undefined;
  const [a, b, e, f] = solved;
  return new Similarity(a, b, e + cx - a * cx + b * cy, f + cy - b * cx - a * cy);
}

/** Gauss with pivots on four rows of five. */
function solve4(m: Float64Array): [number, number, number, number] | undefined {
  for (let k = 0; k < 4; k++) {
    let pivot = k;
    for (let i = k + 1; i < 4; i++) if (Math.abs(m[5 * i + k]!) > Math.abs(m[5 * pivot + k]!)) pivot = i;
    if (Math.abs(m[5 * pivot + k]!) < 1e-6) return undefined;
    for (let j = 0; j < 5; j++) [m[5 * k + j], m[5 * pivot + j]] = [m[5 * pivot + j]!, m[5 * k + j]!];
    for (let i = 0; i < 4; i++) {
      if (i === k) continue;
      const factor = m[5 * i + k]! / m[5 * k + k]!;
      for (let j = k; j < 5; j++) m[5 * i + j]! -= factor * m[5 * k + j]!;
    }
  }
  return [m[4]! / m[0]!, m[9]! / m[6]!, m[14]! / m[12]!, m[19]! / m[18]!];
}
