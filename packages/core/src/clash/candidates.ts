/** Pairs of elements whose boxes come near each other: only those are looked at closely. */
import Flatbush from 'flatbush';
import { addInstance, emptyBounds } from '../scene/bounds.ts';
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

/**
 * Visits rows of both whose boxes are no farther apart than `reach`, those of one row of the side with fewer one after the other.
 * O(n log n + pairs that are near along the two axes along which the larger side is longest).
 */
export function eachCandidate(a: Boxes, b: Boxes, reach: number, visit: (a: number, b: number) => void): void {
  const [left, right] = [rowsOf(a), rowsOf(b)];
  if (!left.length || !right.length) return;
  if (left.length > right.length) search(b, right, a, left, reach, (j, i) => visit(i, j));
  else search(a, left, b, right, reach, visit);
}

function search(
  few: Boxes,
  rows: Uint32Array,
  many: Boxes,
  among: Uint32Array,
  reach: number,
  visit: (few: number, many: number) => void,
): void {
  const [x, y] = longestAxes(many, among);
  const index = new Flatbush(among.length);
  for (const row of among) {
    const at = row * 6;
    index.add(many[at + x]!, many[at + y]!, many[at + 3 + x]!, many[at + 3 + y]!);
  }
  index.finish();
  for (const row of rows) {
    const at = row * 6;
    const found = index.search(
      few[at + x]! - reach,
      few[at + y]! - reach,
      few[at + 3 + x]! + reach,
      few[at + 3 + y]! + reach,
      (k) => areNear(few, row, many, among[k]!, reach),
    );
    for (const k of found) visit(row, among[k]!);
  }
}

function longestAxes(boxes: Boxes, rows: Uint32Array): [number, number] {
  const span = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (const row of rows) {
      low = Math.min(low, boxes[row * 6 + axis]!);
      high = Math.max(high, boxes[row * 6 + 3 + axis]!);
    }
    return high - low;
  });
  const [x, y] = [0, 1, 2].sort((p, q) => span[q]! - span[p]!) as [number, number, number];
  return [x, y];
}

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
