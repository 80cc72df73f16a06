/** Which straight pieces belong together: those that touch, and what lies within something small. */
import Flatbush from 'flatbush';
import { boundsOf } from './bounds.ts';
import { Groups } from './groups.ts';
import { LineIndex } from './line-index.ts';
import { lineworkFrom } from './linework.ts';

/** Pieces that come this near to each other belong to one change, points. */
export const TOUCH = 1.5;
/** What is no larger than this (points) is one thing with all that lies within it. */
export const SMALL = 120;

/** Pieces as x0, y0, x1, y1, by what touches: lists of their numbers. O(n log n) where few touch. */
export function piecesTouching(pieces: readonly number[][], reach = TOUCH): number[][] {
  const index = new LineIndex(lineworkFrom(pieces));
  const groups = new Groups(pieces.length);
  for (const [i, ends] of pieces.entries()) {
    const [x0, y0, x1, y1] = ends as [number, number, number, number];
    for (const k of index.near(x0, y0, x1, y1, reach))
      if (k < i && groups.root(k) !== groups.root(i) && distance(ends, pieces[k]!) <= reach) groups.join(i, k);
  }
  return nested(groups.list(), pieces);
}

/** What lies within something small is part of it: the bowl of a basin, the glass of a window. */
function nested(groups: number[][], pieces: readonly number[][]): number[][] {
  const boxes = groups.map((group) => boundsOf(group.flatMap((i) => pieces[i]!)));
  const small = boxes.flatMap(([x0, y0, x1, y1], i) => (Math.max(x1 - x0, y1 - y0) <= SMALL ? [i] : []));
  if (small.length < 2) return groups;
  const index = new Flatbush(small.length, 16, Float32Array);
  for (const i of small) index.add(...boxes[i]!);
  index.finish();
  const joined = new Groups(groups.length);
  for (const i of small) {
    const [x0, y0, x1, y1] = boxes[i]!;
    for (const hit of index.search(x0, y0, x1, y1)) {
      const inner = small[hit]!;
      const [u0, v0, u1, v1] = boxes[inner]!;
      if (inner !== i && u0 >= x0 && v0 >= y0 && u1 <= x1 && v1 <= y1) joined.join(i, inner);
    }
  }
  return joined.list().map((group) => group.flatMap((i) => groups[i]!));
}

/** Between two pieces; 0 where they cross. */
function distance(p: readonly number[], q: readonly number[]): number {
  if (cross(p, q)) return 0;
  return Math.min(
    toPiece(p[0]!, p[1]!, q),
    toPiece(p[2]!, p[3]!, q),
    toPiece(q[0]!, q[1]!, p),
    toPiece(q[2]!, q[3]!, p),
  );
}
function toPiece(x: number, y: number, [x0, y0, x1, y1]: readonly number[]): number {
  const [dx, dy] = [x1! - x0!, y1! - y0!];
  const t = Math.max(0, Math.min(1, ((x - x0!) * dx + (y - y0!) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(x - x0! - t * dx, y - y0! - t * dy);
}
function cross(p: readonly number[], q: readonly number[]): boolean {
  const side = (a: readonly number[], x: number, y: number): number =>
    (a[2]! - a[0]!) * (y - a[1]!) - (a[3]! - a[1]!) * (x - a[0]!);
  const apart = (a: readonly number[], b: readonly number[]): boolean =>
    side(a, b[0]!, b[1]!) * side(a, b[2]!, b[3]!) < 0;
  return apart(p, q) && apart(q, p);
}
