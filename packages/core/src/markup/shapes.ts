/** What can be drawn on a sheet, and how it is taken hold of. */

/** A point on a page in points (1/72 inch), origin at the upper left of the page as displayed. */
export type Point = [x: number, y: number];
/** Left, top, width, height in points. */
export type Box = [x: number, y: number, width: number, height: number];

export type MarkupShape =
  /** Between two points; the head of an arrow is at the second. A dimension says its length. */
  | { kind: 'line' | 'arrow' | 'dimension'; points: [Point, Point] }
  /** Between two opposite corners. */
  | { kind: 'rectangle' | 'ellipse'; points: [Point, Point] }
  /** A cloud of two points goes around the rectangle between them. */
  | { kind: 'cloud' | 'polygon' | 'polyline'; points: Point[] }
  /** Drawn by hand; `strokes` are further ones, begun after the pen was lifted. */
  | { kind: 'freehand' | 'highlighter'; points: Point[]; strokes?: Point[][] }
  /** A measured surface, less its holes. */
  | { kind: 'area'; points: Point[]; holes?: Point[][] }
  /** At the second point, from the first to the third. */
  | { kind: 'angle'; points: [Point, Point, Point] }
  /** Things that were counted. */
  | { kind: 'count'; points: Point[] }
  | { kind: 'callout'; target: Point; box: Box }
  | { kind: 'text' | 'stamp' | 'photo'; box: Box }
  | { kind: 'note'; points: [Point] };
export type MarkupKind = MarkupShape['kind'];

export const MARKUP_KINDS = [
  'line',
  'arrow',
  'dimension',
  'rectangle',
  'ellipse',
  'cloud',
  'polygon',
  'polyline',
  'freehand',
  'highlighter',
  'area',
  'angle',
  'count',
  'callout',
  'text',
  'stamp',
  'photo',
  'note',
] as const satisfies readonly MarkupKind[];

/** They measure what the sheet shows. */
export const MEASURING_KINDS: ReadonlySet<MarkupKind> = new Set<MarkupKind>([
  'dimension',
  'polyline',
  'area',
  'angle',
  'count',
]);

/** How it is drawn, where that differs from what its status and kind say. */
export interface MarkupStyle {
  /** `#rrggbb`. */
  colour?: string;
  /** Of lines, points on paper. */
  width?: number;
  /** Whether its inside is tinted. */
  filled?: boolean;
  /** 0 (not to be seen) to 1. */
  opacity?: number;
  /** Higher ones lie over lower ones; 0 where absent. */
  order?: number;
  /** Those of one group are chosen together. */
  group?: string;
  /** Stays where it is until it is let go. */
  locked?: boolean;
}

export const MARKUP_STATUSES = ['note', 'ask', 'act', 'settled', 'declined'] as const;
export type MarkupStatus = (typeof MARKUP_STATUSES)[number];
/** Somebody still has to do or answer something. */
export const OPEN_MARKUP_STATUSES: readonly MarkupStatus[] = ['ask', 'act'];

/** The four corners of the rectangle between two opposite corners, clockwise on the screen. */
export function rectangleRing(a: Point, b: Point): Point[] {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  return [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ];
}

/** Shoelace area; positive when the ring runs clockwise on the screen (y down). */
export function signedArea(ring: readonly Point[]): number {
  let twice = 0;
  for (let i = 0; i < ring.length; i++) {
    const [ax, ay] = ring[i]!;
    const [bx, by] = ring[(i + 1) % ring.length]!;
    twice += ax * by - bx * ay;
  }
  return twice / 2;
}

/** Where a callout's leader meets its box: the middle of the side nearest to the target. */
export function leaderStart(target: Point, [x, y, width, height]: Box): Point {
  const [centreX, centreY] = [x + width / 2, y + height / 2];
  const [dx, dy] = [target[0] - centreX, target[1] - centreY];
  if (Math.abs(dx) * height > Math.abs(dy) * width) return [dx > 0 ? x + width : x, centreY];
  return [centreX, dy > 0 ? y + height : y];
}

/** What a shape has beside its first row of points, and under which name. */
const MORE = { area: 'holes', freehand: 'strokes', highlighter: 'strokes' } as const;
function moreOf(shape: MarkupShape): Point[][] {
  if (shape.kind === 'area') return shape.holes ?? [];
  return shape.kind === 'freehand' || shape.kind === 'highlighter' ? (shape.strokes ?? []) : [];
}

/** The shape with every row of its points replaced. */
function withRows(shape: Exclude<MarkupShape, { box: Box }>, row: (points: Point[]) => Point[]): MarkupShape {
  const [points, ...more] = [shape.points, ...moreOf(shape)].map(row);
  return { ...shape, points, ...(more.length && { [MORE[shape.kind as keyof typeof MORE]]: more }) } as MarkupShape;
}

/** The points by which a shape is taken hold of, in the order of its own. A box has its four corners, a callout its target first. */
export function handlesOf(shape: MarkupShape): Point[] {
  if (!('box' in shape)) return [...shape.points, ...moreOf(shape).flat()];
  const [x, y, width, height] = shape.box;
  const corners = rectangleRing([x, y], [x + width, y + height]);
  return shape.kind === 'callout' ? [shape.target, ...corners] : corners;
}

/** The shape with one of its handles somewhere else; a corner of a box moves its two sides. */
export function withHandleAt(shape: MarkupShape, handle: number, to: Point): MarkupShape {
  if ('box' in shape) {
    if (shape.kind === 'callout' && handle === 0) return { ...shape, target: to };
    const corner = shape.kind === 'callout' ? handle - 1 : handle;
    const [x, y, width, height] = shape.box;
    const opposite = rectangleRing([x, y], [x + width, y + height])[(corner + 2) % 4]!;
    const [[left, top], , [right, bottom]] = rectangleRing(to, opposite) as [Point, Point, Point, Point];
    return { ...shape, box: [left, top, right - left, bottom - top] };
  }
  let from = 0;
  return withRows(shape, (points) => {
    const first = from;
    from += points.length;
    return points.map((point, i) => (first + i === handle ? to : point));
  });
}

/** The shape with each of its points put elsewhere; `to` keeps corners square (it shifts, mirrors, makes quarter turns). */
export function mapped(shape: MarkupShape, to: (point: Point) => Point): MarkupShape {
  if (!('box' in shape)) return withRows(shape, (points) => points.map(to));
  const [x, y, width, height] = shape.box;
  const [[left, top], , [right, bottom]] = rectangleRing(to([x, y]), to([x + width, y + height])) as [
    Point,
    Point,
    Point,
  ];
  const box: Box = [left, top, right - left, bottom - top];
  return shape.kind === 'callout' ? { ...shape, box, target: to(shape.target) } : { ...shape, box };
}

/** The shape somewhere else, points to the right and down; a box stays exactly as large as it is. */
export function moved(shape: MarkupShape, dx: number, dy: number): MarkupShape {
  const shifted = mapped(shape, ([x, y]) => [x + dx, y + dy]);
  return 'box' in shape && 'box' in shifted
    ? { ...shifted, box: [shifted.box[0], shifted.box[1], shape.box[2], shape.box[3]] }
    : shifted;
}

/** The box that holds a shape. */
export function shapeBounds(shape: MarkupShape): Box {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of handlesOf(shape)) {
    left = Math.min(left, x);
    top = Math.min(top, y);
    right = Math.max(right, x);
    bottom = Math.max(bottom, y);
  }
  return [left, top, right - left, bottom - top];
}
