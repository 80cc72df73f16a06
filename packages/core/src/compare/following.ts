/** Where something that was said of a place on a sheet belongs on the sheet after. */
import type { Fate } from '../markup/fate.ts';
import { mapped, moved, shapeBounds, type MarkupShape, type Point } from '../markup/shapes.ts';
import { mappedBox, type SheetChange } from './compare-sheets.ts';
import type { Similarity } from './similarity.ts';
import type { Box } from './bounds.ts';

/** A point is about what stands within so many points of it. */
const REACH = 6;

/** The shape where its content went. */
export function followed(
  shape: MarkupShape,
  similarity: Similarity,
  changes: readonly Pick<SheetChange, 'kind' | 'box' | 'shift' | 'turn' | 'mirrored'>[],
): { shape: MarkupShape; fate: Fate } {
  const there = mapped(shape, ([x, y]): Point => similarity.map(x, y));
  const about = mappedBox(pointedAt(shape), similarity);
  let fate: Fate = 'same';
  let gone = false;
  let came = false;
  for (const { kind, box, shift, turn, mirrored } of changes) {
    if (kind === 'look') continue;
    if (kind === 'removed') {
      const was = mappedBox(box, similarity);
      if (belongs(about, was)) gone = true;
      else if (overlap(about, was)) fate = 'changed';
      continue;
    }
    const [dx, dy] = shift ?? [0, 0];
    const was: Box = [box[0] - dx, box[1] - dy, box[2] - dx, box[3] - dy];
    if (kind === 'moved' && shift && !turn && !mirrored && belongs(about, was))
      return { shape: moved(there, dx, dy), fate: 'moved' };
    if (!overlap(about, was)) continue;
    if (kind === 'added') came = true;
    fate = 'changed';
  }
  if (gone && !came) fate = 'gone';
  else if (gone) fate = 'changed';
  return { shape: there, fate };
}

/** A leader is about its end, a note about its point, all others about what they lie on or go around. */
function pointedAt(shape: MarkupShape): Box {
  const tip =
    shape.kind === 'callout'
      ? shape.target
      : shape.kind === 'arrow'
        ? shape.points[1]
        : shape.kind === 'note'
          ? shape.points[0]
          : undefined;
  if (tip) return [tip[0] - REACH, tip[1] - REACH, tip[0] + REACH, tip[1] + REACH];
  const [x, y, width, height] = shapeBounds(shape);
  return [x, y, x + width, y + height];
}

const overlap = (a: Box, b: Box): boolean => a[0] <= b[2] && b[0] <= a[2] && a[1] <= b[3] && b[1] <= a[3];
const holds = ([x0, y0, x1, y1]: Box, [ax, ay, bx, by]: Box): boolean => {
  const [x, y] = [(ax + bx) / 2, (ay + by) / 2];
  return x >= x0 && x <= x1 && y >= y0 && y <= y1;
};
/** The middle of one of them lies in the other. */
const belongs = (a: Box, b: Box): boolean => holds(a, b) || holds(b, a);
