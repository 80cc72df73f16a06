/** Pairs of elements whose boxes come near each other: only those are looked at closely. */
import { Box3 } from 'three';
import { addInstance, emptyBounds } from '../scene/bounds.ts';
import { InstanceTree } from '../scene/instance-tree.ts';
import type { ScenePackage } from '../scene/package.ts';

/** Six numbers each: the lower corner, the upper corner; where the lower is not below the upper there is nothing. */
export type Boxes = Float64Array;

/** Of rows of an element table, in the coordinates of the model, metres; nothing of those that are not wanted. O(instances). */
export function boxesOf(
  { origin, instances: { element, matrix } }: ScenePackage,
  rows: number,
  isWanted: (row: number) => boolean = () => true,
): Boxes {
  const boxes = new Float64Array(rows * 6);
  for (let row = 0; row < rows; row++) boxes.set(emptyBounds(), row * 6);
  const box = emptyBounds();
  for (let i = 0; i < element.length; i++) {
    if (!isWanted(element[i]!)) continue;
    const at = element[i]! * 6;
    box.fill(Infinity, 0, 3).fill(-Infinity, 3);
    addInstance(box, matrix, i);
    for (let axis = 0; axis < 3; axis++) {
      boxes[at + axis] = Math.min(boxes[at + axis]!, box[axis]! + origin[axis]!);
      boxes[at + 3 + axis] = Math.max(boxes[at + 3 + axis]!, box[axis + 3]! + origin[axis]!);
    }
  }
  return boxes;
}

/** Visits rows of both whose boxes are no farther apart than `reach`, those of one `a` one after the other. O(n log n + pairs). */
export function eachCandidate(a: Boxes, b: Boxes, reach: number, visit: (a: number, b: number) => void): void {
  const rows = rowsOf(b);
  if (!rows.length) return;
  // From a place amid them, so that floats keep what is small.
  const from = b.slice(rows[0]! * 6, rows[0]! * 6 + 3);
  const matrix = new Float32Array(rows.length * 12);
  rows.forEach((row, at) => {
    for (let axis = 0; axis < 3; axis++) {
      matrix[at * 12 + axis * 4] = b[row * 6 + 3 + axis]! - b[row * 6 + axis]!;
      matrix[at * 12 + 9 + axis] = b[row * 6 + axis]! - from[axis]!;
    }
  });
  const tree = new InstanceTree({ matrix });
  const query = new Box3();
  for (const row of rowsOf(a)) {
    const at = row * 6;
    query.min.set(a[at]! - from[0]!, a[at + 1]! - from[1]!, a[at + 2]! - from[2]!);
    query.max.set(a[at + 3]! - from[0]!, a[at + 4]! - from[1]!, a[at + 5]! - from[2]!);
    query.expandByScalar(reach + ROUNDING);
    tree.within(query, (found) => {
      const other = rows[found]!;
      if (areNear(a, row, b, other, reach)) visit(row, other);
    });
  }
}
/** Of floats over some hundred metres. */
const ROUNDING = 1e-3;

export function areNear(a: Boxes, row: number, b: Boxes, other: number, reach: number): boolean {
  for (let axis = 0; axis < 3; axis++)
    if (a[row * 6 + axis]! - reach > b[other * 6 + 3 + axis]! || b[other * 6 + axis]! - reach > a[row * 6 + 3 + axis]!)
      return false;
  return true;
}

function rowsOf(boxes: Boxes): Uint32Array {
  let count = 0;
  const rows = new Uint32Array(boxes.length / 6);
  for (let row = 0; row < rows.length; row++) if (boxes[row * 6]! <= boxes[row * 6 + 3]!) rows[count++] = row;
  return rows.subarray(0, count);
}
