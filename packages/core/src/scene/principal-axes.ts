/** The axes of a body: eigenvectors of its moments, by Jacobi's rotations (Golub and Van Loan, “Matrix Computations”, 8.5). */
import type { Point } from './pick.ts';

/** A symmetric matrix: xx, yy, zz, xy, xz, yz. */
export type Moments = readonly number[];

const ROUNDS = 12;
/** As part of the largest: less is nothing. */
const NOTHING = 1e-14;

/** Three axes of length one at right angles, right-handed, that with the largest moment first. */
export function principalAxes([xx, yy, zz, xy, xz, yz]: Moments): [Point, Point, Point] {
  const a = [
    [xx!, xy!, xz!],
    [xy!, yy!, yz!],
    [xz!, yz!, zz!],
  ];
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const small = NOTHING * Math.max(Math.abs(xx!), Math.abs(yy!), Math.abs(zz!));
  for (let round = 0; round < ROUNDS; round++)
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      if (Math.abs(a[p]![q]!) <= small) continue;
      const tau = (a[q]![q]! - a[p]![p]!) / (2 * a[p]![q]!);
      const t = (tau < 0 ? -1 : 1) / (Math.abs(tau) + Math.hypot(1, tau));
      const c = 1 / Math.hypot(1, t);
      const s = t * c;
      for (let k = 0; k < 3; k++) {
        const [kp, kq] = [a[k]![p]!, a[k]![q]!];
        a[k]![p] = c * kp - s * kq;
        a[k]![q] = s * kp + c * kq;
      }
      for (let k = 0; k < 3; k++) {
        const [pk, qk] = [a[p]![k]!, a[q]![k]!];
        a[p]![k] = c * pk - s * qk;
        a[q]![k] = s * pk + c * qk;
        const [vp, vq] = [v[k]![p]!, v[k]![q]!];
        v[k]![p] = c * vp - s * vq;
        v[k]![q] = s * vp + c * vq;
      }
    }
  const [i, j] = [0, 1, 2].sort((one, other) => a[other]![other]! - a[one]![one]!) as [number, number, number];
  const column = (k: number): Point => [v[0]![k]!, v[1]![k]!, v[2]![k]!];
  const [first, second] = [column(i), column(j)];
  return [first, second, cross(first, second)];
}

const cross = ([ax, ay, az]: Point, [bx, by, bz]: Point): Point => [
  ay * bz - az * by,
  az * bx - ax * bz,
  ax * by - ay * bx,
];
