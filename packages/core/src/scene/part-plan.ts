/** Which parts of models are worth their memory, seen from where one looks. */
import type { Bounds } from './bounds.ts';
import type { Point } from './pick.ts';

export interface PlannedPart {
  bounds: Bounds;
  /** Diagonal of its largest element, metres. */
  largest: number;
  /** That it takes, or would take. */
  bytes: number;
}

/** Nearer than this nothing grows larger. Metres. */
const NEAREST = 1;

/** Positions of those that fit into `room` bytes, the largest on the screen first. `eye` and bounds in the same coordinates. O(n log n). */
export function planParts(parts: readonly PlannedPart[], eye: Point, room: number): number[] {
  const seen = parts.map(({ bounds, largest }) => largest / Math.max(NEAREST, distance(bounds, eye)));
  const order = parts.map((_, i) => i).sort((a, b) => seen[b]! - seen[a]! || a - b);
  let left = room;
  return order.filter((i) => {
    if (parts[i]!.bytes > left) return false;
    left -= parts[i]!.bytes;
    return true;
  });
}

function distance(bounds: Bounds, eye: Point): number {
  return Math.hypot(...eye.map((at, axis) => Math.max(bounds[axis]! - at, 0, at - bounds[axis + 3]!)));
}
