/** Where pictures lie on two pages: what they show is not looked at. */
import { apply, type Matrix } from '../drawing/vectors/matrix.ts';
import { around, boundsOf, type Box } from './bounds.ts';
import { Groups } from './groups.ts';

export interface PictureChange {
  kind: 'added' | 'removed' | 'moved';
  /** On the second page, also of what is not there any more. */
  box: Box;
  shift?: [number, number];
}
type PointMap = (x: number, y: number) => readonly [number, number];

/** Edges that are nearer than this are one, points; sizes too. */
const SAME = 1;
/** More pictures than these are strokes or letters of a program that draws with them. */
const MOST = 400;

/** `map`: from the first page to the second one. Pictures that are written in strips are one. */
export function comparePicturePlaces(
  before: readonly Matrix[],
  after: readonly Matrix[],
  map: PointMap,
): PictureChange[] {
  if (before.length > MOST || after.length > MOST) return [];
  const gone = placesOf(before, map);
  const come = placesOf(after, (x, y) => [x, y]);
  const changes: PictureChange[] = [];
  const pair = (fits: (a: Box, b: Box) => boolean, found?: (a: Box, b: Box) => void): void => {
    for (const box of [...gone]) {
      const there = come.findIndex((other) => fits(box, other));
      if (there < 0) continue;
      found?.(box, come[there]!);
      gone.splice(gone.indexOf(box), 1);
      come.splice(there, 1);
    }
  };
  pair((a, b) => a.every((value, i) => Math.abs(value - b[i]!) < SAME));
  pair(
    (a, b) => Math.abs(a[2] - a[0] - b[2] + b[0]) < SAME && Math.abs(a[3] - a[1] - b[3] + b[1]) < SAME,
    (a, b) => changes.push({ kind: 'moved', box: b, shift: [b[0] - a[0], b[1] - a[1]] }),
  );
  changes.push(...gone.map((box): PictureChange => ({ kind: 'removed', box })));
  changes.push(...come.map((box): PictureChange => ({ kind: 'added', box })));
  return changes;
}

function placesOf(pictures: readonly Matrix[], map: PointMap): Box[] {
  const boxes = pictures.map((unit): Box => {
    const corners = [apply(unit, 0, 0), apply(unit, 1, 0), apply(unit, 0, 1), apply(unit, 1, 1)] as const;
    return boundsOf(corners.flatMap(([x, y]) => map(x, y)));
  });
  const groups = new Groups(boxes.length);
  for (const [i, a] of boxes.entries())
    for (const [k, b] of boxes.slice(0, i).entries()) {
      const touch = a[0] < b[2] + SAME && a[2] > b[0] - SAME && a[1] < b[3] + SAME && a[3] > b[1] - SAME;
      if (touch) groups.join(i, k);
    }
  return groups.list().map((group) => group.map((i) => boxes[i]!).reduce(around));
}
