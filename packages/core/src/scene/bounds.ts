/** An axis-aligned box in metres: [minX, minY, minZ, maxX, maxY, maxZ]. */
export type Bounds = [number, number, number, number, number, number];

export const emptyBounds = (): Bounds => [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];

/** Around boxes; empty without one. */
export const around = (all: readonly Bounds[]): Bounds =>
  emptyBounds().map((empty, i) =>
    all.reduce((found, bounds) => (i < 3 ? Math.min : Math.max)(found, bounds[i]!), empty),
  ) as unknown as Bounds;

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

/** Widens `bounds` by an instance of a scene package: three axes and a place, three numbers each. */
export function addInstance(bounds: Bounds, matrix: ArrayLike<number>, instance: number): void {
  const at = instance * 12;
  for (let axis = 0; axis < 3; axis++) {
    let low = matrix[at + 9 + axis]!;
    let high = low;
    for (let column = 0; column < 9; column += 3) {
      const edge = matrix[at + column + axis]!;
      if (edge < 0) low += edge;
      else high += edge;
    }
    if (low < bounds[axis]!) bounds[axis] = low;
    if (high > bounds[axis + 3]!) bounds[axis + 3] = high;
  }
}

/**
 * Widens `bounds` by vertices of six floats each (place, normal), placed by a matrix (column-major) with y up; what has no finite place
 * is left out.
 */
export function addVertices(bounds: Bounds, vertices: ArrayLike<number>, yUp: ArrayLike<number>): void {
  for (let i = 0; i + 2 < vertices.length; i += 6) {
    const [x, y, z] = [vertices[i]!, vertices[i + 1]!, vertices[i + 2]!];
    const at = (row: number): number => yUp[row]! * x + yUp[4 + row]! * y + yUp[8 + row]! * z + yUp[12 + row]!;
    const place = [at(0), -at(2), at(1)];
    if (!place.every(Number.isFinite)) continue;
    for (let axis = 0; axis < 3; axis++) {
      bounds[axis] = Math.min(bounds[axis]!, place[axis]!);
      bounds[axis + 3] = Math.max(bounds[axis + 3]!, place[axis]!);
    }
  }
}
