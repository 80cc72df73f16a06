/** Column-major 4 × 4 matrices in double precision, as web-ifc and WebGL lay them out. */
export type Matrix = ArrayLike<number>;

/** web-ifc hands out Y-up coordinates; IFC and we have Z up: (x, y, z) ← (x, −z, y). Applied to the left of `m`. */
export function zUp(m: Matrix): Float64Array {
  const out = new Float64Array(16);
  for (let c = 0; c < 4; c++) {
    out[c * 4] = m[c * 4]!;
    out[c * 4 + 1] = -m[c * 4 + 2]!;
    out[c * 4 + 2] = m[c * 4 + 1]!;
    out[c * 4 + 3] = m[c * 4 + 3]!;
  }
  return out;
}

/** m × translate(x, y, z) × scale(sx, sy, sz), in place. */
export function translateAndScale(
  m: Float64Array,
  [x, y, z]: readonly number[],
  [sx, sy, sz]: readonly number[],
): Float64Array {
  for (let r = 0; r < 4; r++) {
    const [a, b, c] = [m[r]!, m[4 + r]!, m[8 + r]!];
    m[12 + r]! += a * x! + b * y! + c * z!;
    m[r] = a * sx!;
    m[4 + r] = b * sy!;
    m[8 + r] = c * sz!;
  }
  return m;
}
