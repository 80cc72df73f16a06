/**
 * Column-major 4 × 4 matrices in double precision, as web-ifc and WebGL lay them out. Writes to `out` at `at` what brings the unit
 * cube to the box (`min`, `size`) that `yUp` then places: zUp × yUp × translate(min) × scale(size).
 * web-ifc hands out Y-up coordinates; IFC and we have Z up: (x, y, z) ← (x, −z, y).
 */
export function placeUnitCube(
  out: Float64Array,
  at: number,
  yUp: ArrayLike<number>,
  [x, y, z]: readonly [number, number, number],
  [sx, sy, sz]: readonly [number, number, number],
): void {
  for (let row = 0; row < 4; row++) {
    const from = row === 1 ? 2 : row === 2 ? 1 : row;
    const sign = row === 1 ? -1 : 1;
    const a = sign * yUp[from]!;
    const b = sign * yUp[4 + from]!;
    const c = sign * yUp[8 + from]!;
    out[at + row] = a * sx;
    out[at + 4 + row] = b * sy;
    out[at + 8 + row] = c * sz;
    out[at + 12 + row] = sign * yUp[12 + from]! + a * x + b * y + c * z;
  }
}
