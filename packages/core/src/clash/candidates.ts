/** Pairs of elements whose boxes come near each other: only those are looked at closely. */
import { Box3, Vector3 } from 'three';
import { addInstance, emptyBounds, type Bounds } from '../scene/bounds.ts';
import { InstanceTree } from '../scene/instance-tree.ts';
import type { ScenePackage } from '../scene/package.ts';

/** Boxes of all rows in the coordinates of the model, metres; empty where a row has no shape. */
export function boxesOf({ origin, instances: { element, matrix } }: ScenePackage, rows: number): Bounds[] {
  const boxes = Array.from({ length: rows }, emptyBounds);
  for (let i = 0; i < element.length; i++) addInstance(boxes[element[i]!]!, matrix, i);
  return boxes.map((box) => box.map((value, i) => value + origin[i % 3]!) as Bounds);
}

/** Visits positions in both lists whose boxes are no farther apart than `reach`, those of one `a` one after the other. O(n log n + pairs). */
export function eachCandidate(
  a: readonly Bounds[],
  b: readonly Bounds[],
  reach: number,
  visit: (a: number, b: number) => void,
): void {
  const there = b.flatMap((box, i) => (box[0] <= box[3] ? [i] : []));
  if (!there.length) return;
  // From a place amid them, so that floats keep what is small.
  const middle = b[there[0]!]!;
  const matrix = new Float32Array(there.length * 12);
  there.forEach((i, at) => {
    const box = b[i]!;
    for (let axis = 0; axis < 3; axis++) {
      matrix[at * 12 + axis * 4] = box[axis + 3]! - box[axis]!;
      matrix[at * 12 + 9 + axis] = box[axis]! - middle[axis]!;
    }
  });
  const tree = new InstanceTree({ matrix });
  const query = new Box3();
  const from = new Vector3(middle[0], middle[1], middle[2]);
  a.forEach((box, i) => {
    if (box[0] > box[3]) return;
    query.min.set(box[0], box[1], box[2]).sub(from);
    query.max.set(box[3], box[4], box[5]).sub(from);
    query.expandByScalar(reach + ROUNDING);
    tree.within(query, (at) => {
      const other = b[there[at]!]!;
      for (let axis = 0; axis < 3; axis++)
        if (box[axis]! - reach > other[axis + 3]! || other[axis]! - reach > box[axis + 3]!) return;
      visit(i, there[at]!);
    });
  });
}
/** Of floats over some hundred metres. */
const ROUNDING = 1e-3;
