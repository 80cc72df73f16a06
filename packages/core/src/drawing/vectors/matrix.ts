/** An affine map as PDF writes it: x' = a x + c y + e, y' = b x + d y + f. */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

/** First `inner`, then `outer`. */
export const multiply = (o: Matrix, i: ArrayLike<number>): Matrix => [
  o[0] * i[0]! + o[2] * i[1]!,
  o[1] * i[0]! + o[3] * i[1]!,
  o[0] * i[2]! + o[2] * i[3]!,
  o[1] * i[2]! + o[3] * i[3]!,
  o[0] * i[4]! + o[2] * i[5]! + o[4],
  o[1] * i[4]! + o[3] * i[5]! + o[5],
];

export const apply = ([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];

/** How much a length grows, on the average of both directions. */
export const scaleOf = ([a, b, c, d]: Matrix): number => Math.sqrt(Math.abs(a * d - b * c));

/** The map back; undefined where a map has no extent. */
export function inverse([a, b, c, d, e, f]: Matrix): Matrix | undefined {
  const size = a * d - b * c;
  if (!size) return undefined;
  return [d / size, -b / size, -c / size, a / size, (c * f - d * e) / size, (b * e - a * f) / size];
}
