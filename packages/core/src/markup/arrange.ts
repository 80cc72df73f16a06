/** Several shapes put in order: in line, evenly apart, turned together. */
import { mapped, moved, rectangleRing, shapeBounds, type Box, type MarkupShape, type Point } from './shapes.ts';

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

/** Sides by which a turned ellipse is drawn: it leaves itself by less than 0.2 % of its length. */
const ELLIPSE_SIDES = 72;

/**
 * Turned with the clock by any angle (radians), all about their common middle. Words, stamps and pictures are carried around and stay
 * upright; rectangles, ellipses and clouds around a rectangle become the ring that they looked like.
 */
export function turned(shapes: readonly MarkupShape[], angle: number): MarkupShape[] {
  const [left, top, w, h] = boundsOf(shapes);
  const [mx, my] = [left + w / 2, top + h / 2];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const to = ([x, y]: Point): Point => [mx + cos * (x - mx) - sin * (y - my), my + sin * (x - mx) + cos * (y - my)];
  return shapes.map((shape) => {
    if (!('box' in shape)) return mapped(ringOf(shape), to);
    const [x, y, width, height] = shape.box;
    const [cx, cy] = to([x + width / 2, y + height / 2]);
    const box: Box = [cx - width / 2, cy - height / 2, width, height];
    return shape.kind === 'callout' ? { ...shape, box, target: to(shape.target) } : { ...shape, box };
  });
}

/** What is said by two corners only, said by its ring. */
function ringOf(shape: Exclude<MarkupShape, { box: Box }>): Exclude<MarkupShape, { box: Box }> {
  const [a, b] = shape.points as [Point, Point];
  if (shape.kind === 'rectangle') return { kind: 'polygon', points: rectangleRing(a, b) };
  if (shape.kind === 'cloud' && shape.points.length === 2) return { kind: 'cloud', points: rectangleRing(a, b) };
  if (shape.kind !== 'ellipse') return shape;
  const [cx, cy, rx, ry] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (b[0] - a[0]) / 2, (b[1] - a[1]) / 2];
  const points = Array.from({ length: ELLIPSE_SIDES }, (_, i): Point => {
    const at = (2 * Math.PI * i) / ELLIPSE_SIDES;
    return [cx + rx * Math.cos(at), cy + ry * Math.sin(at)];
  });
  return { kind: 'polygon', points };
}
