/** Boxes around points and around other boxes. */
export type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** Around points as x, y, x, y …; of none: turned inside out. */
export function boundsOf(points: ArrayLike<number>): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 2) {
    box[0] = Math.min(box[0], points[i]!);
    box[1] = Math.min(box[1], points[i + 1]!);
    box[2] = Math.max(box[2], points[i]!);
    box[3] = Math.max(box[3], points[i + 1]!);
  }
  return box;
}
export const around = (a: Box, b: Box): Box => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
];
