/** Several shapes put in order: in line, evenly apart, turned together. */
import { mapped, moved, shapeBounds, type Box, type MarkupShape, type Point } from './shapes.ts';

export const EDGES = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Edge = (typeof EDGES)[number];

/** How far along an axis the edge of a box is: its beginning, half way, its end. */
const PART: Record<Edge, { axis: 0 | 1; part: number }> = {
  left: { axis: 0, part: 0 },
  centre: { axis: 0, part: 0.5 },
  right: { axis: 0, part: 1 },
  top: { axis: 1, part: 0 },
  middle: { axis: 1, part: 0.5 },
  bottom: { axis: 1, part: 1 },
};
const size = (box: Box, axis: 0 | 1): number => box[axis === 0 ? 2 : 3];
const along = (shape: MarkupShape, axis: 0 | 1, by: number): MarkupShape =>
  moved(shape, axis === 0 ? by : 0, axis === 1 ? by : 0);

/** The box that holds all of them. */
export function boundsOf(shapes: readonly MarkupShape[]): Box {
  const boxes = shapes.map(shapeBounds);
  const [left, top] = [Math.min(...boxes.map(([x]) => x)), Math.min(...boxes.map(([, y]) => y))];
  const right = Math.max(...boxes.map(([x, , w]) => x + w));
  const bottom = Math.max(...boxes.map(([, y, , h]) => y + h));
  return [left, top, right - left, bottom - top];
}

/** Each with its edge where that of all together is. */
export function aligned(shapes: readonly MarkupShape[], edge: Edge): MarkupShape[] {
  const { axis, part } = PART[edge];
  const whole = boundsOf(shapes);
  const wanted = whole[axis] + part * size(whole, axis);
  return shapes.map((shape) => {
    const box = shapeBounds(shape);
    return along(shape, axis, wanted - box[axis] - part * size(box, axis));
  });
}

/** The same room between each and the next, the outermost staying where they are. O(n log n). */
export function spread(shapes: readonly MarkupShape[], axis: 0 | 1): MarkupShape[] {
  const whole = boundsOf(shapes);
  const order = shapes.map((_, i) => i).sort((a, b) => shapeBounds(shapes[a]!)[axis] - shapeBounds(shapes[b]!)[axis]);
  const taken = shapes.reduce((sum, shape) => sum + size(shapeBounds(shape), axis), 0);
  const room = (size(whole, axis) - taken) / Math.max(1, shapes.length - 1);
  const there = [...shapes];
  let at = whole[axis];
  for (const i of order) {
    const box = shapeBounds(shapes[i]!);
    there[i] = along(shapes[i]!, axis, at - box[axis]);
    at += size(box, axis) + room;
  }
  return there;
}

/** A quarter turn with the clock, all about their common middle. */
export function quarterTurned(shapes: readonly MarkupShape[]): MarkupShape[] {
  const [x, y, w, h] = boundsOf(shapes);
  const [mx, my] = [x + w / 2, y + h / 2];
  return shapes.map((shape) => mapped(shape, ([px, py]): Point => [mx - (py - my), my + (px - mx)]));
}
