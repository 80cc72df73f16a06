/** An axis-aligned box in metres: [minX, minY, minZ, maxX, maxY, maxZ]. */
export type Bounds = [number, number, number, number, number, number];

export const emptyBounds = (): Bounds => [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];

export const isEmpty = (bounds: Bounds): boolean => bounds[0] > bounds[3];

/** Widens `bounds` by the unit cube placed by the matrix (column-major) that begins at `at`. */
export function addUnitCube(bounds: Bounds, m: ArrayLike<number>, at = 0): void {
  for (let axis = 0; axis < 3; axis++) {
    let low = m[at + 12 + axis]!;
    let high = low;
    for (let column = 0; column < 3; column++) {
      const edge = m[at + column * 4 + axis]!;
      if (edge < 0) low += edge;
      else high += edge;
    }
    if (low < bounds[axis]!) bounds[axis] = low;
    if (high > bounds[axis + 3]!) bounds[axis + 3] = high;
  }
}
