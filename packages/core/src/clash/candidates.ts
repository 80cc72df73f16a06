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
  for (let at = 0; at < boxes.length; at += 6) {
    boxes[at] = boxes[at + 1] = boxes[at + 2] = Infinity;
    boxes[at + 3] = boxes[at + 4] = boxes[at + 5] = -Infinity;
  }
  const box = emptyBounds();
  for (let i = 0; i < element.length; i++) {
    if (!isWanted(element[i]!)) continue;
    const at = element[i]! * 6;
    box[0] = box[1] = box[2] = Infinity;
    box[3] = box[4] = box[5] = -Infinity;
    addInstance(box, matrix, i);
    for (let axis = 0; axis < 3; axis++) {
      const [low, high] = [box[axis]! + origin[axis]!, box[axis + 3]! + origin[axis]!];
      if (low < boxes[at + axis]!) boxes[at + axis] = low;
      if (high > boxes[at + 3 + axis]!) boxes[at + 3 + axis] = high;
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
  all: Uint32Array,
  reach: number,
  visit: (few: number, many: number) => void,
): void {
  const [x, y] = longestAxes(many, all);
  // Only what is near one of the few needs a place in the tree.
  const among = rows.length * FEWER < all.length ? nearSome(few, rows, many, all, [x, y], reach) : all;
  if (!among.length) return;
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

/** So many times fewer are worth a look at where they are first, on a grid of so many cells each way. */
const [FEWER, CELLS] = [8, 128];

/** Those of `among` that lie in a cell with one of the few. O(n + cells that they cover). */
function nearSome(
  few: Boxes,
  rows: Uint32Array,
  many: Boxes,
  among: Uint32Array,
  [x, y]: readonly [number, number],
  reach: number,
): Uint32Array {
  const [left, low, right, high] = around(few, rows, x, y);
  const [across, up] = [CELLS / (right - left + 2 * reach || 1), CELLS / (high - low + 2 * reach || 1)];
  const cell = (value: number): number => Math.max(0, Math.min(CELLS - 1, Math.floor(value)));
  const column = (value: number): number => cell((value - left + reach) * across);
  const row = (value: number): number => cell((value - low + reach) * up);
  const taken = new Uint8Array(CELLS * CELLS);
  for (const one of rows) {
    const at = one * 6;
    const [from, to] = [column(few[at + x]! - reach), column(few[at + 3 + x]! + reach)];
    const top = row(few[at + 3 + y]! + reach);
    for (let r = row(few[at + y]! - reach); r <= top; r++) taken.fill(1, r * CELLS + from, r * CELLS + to + 1);
  }
  return among.filter((one) => {
    const at = one * 6;
    const [from, to] = [column(many[at + x]!), column(many[at + 3 + x]!)];
    const top = row(many[at + 3 + y]!);
    for (let r = row(many[at + y]!); r <= top; r++)
      for (let c = from; c <= to; c++) if (taken[r * CELLS + c]) return true;
    return false;
  });
}

/** Left, low, right and high of boxes along two axes. */
function around(boxes: Boxes, rows: Uint32Array, x: number, y: number): [number, number, number, number] {
  let [left, low, right, high] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const row of rows) {
    const at = row * 6;
    if (boxes[at + x]! < left) left = boxes[at + x]!;
    if (boxes[at + y]! < low) low = boxes[at + y]!;
    if (boxes[at + 3 + x]! > right) right = boxes[at + 3 + x]!;
    if (boxes[at + 3 + y]! > high) high = boxes[at + 3 + y]!;
  }
  return [left, low, right, high];
}

function longestAxes(boxes: Boxes, rows: Uint32Array): [number, number] {
  const [x0, y0, x1, y1] = around(boxes, rows, 0, 1);
  const [, z0, , z1] = around(boxes, rows, 0, 2);
  const span = [x1 - x0, y1 - y0, z1 - z0];
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
