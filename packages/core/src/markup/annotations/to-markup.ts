/** Annotations of a file as markups of ours: the way back of `of-markup`. */
import { mapped, type MarkupShape, type MarkupStatus, type MarkupStyle, type Point } from '../shapes.ts';
import { STATUS_COLOURS } from '../status-colours.ts';
import type { Annotation } from './annotation.ts';
import { shapeOf } from './appearance.ts';
import { fromPageSpace, type PagePlace } from './page-space.ts';

type Drawn = Pick<Annotation, 'kind' | 'box' | 'points' | 'width'>;
/** Shapes of a file are not larger than what a markup may have. */
const MOST_POINTS = 5000;
const MOST_STROKES = 500;

/** `was`: the shape that left, where it is known: what PDF has no kind for stays what it was. */
export function markupShapeOf(mark: Drawn, place: PagePlace, was?: MarkupShape): MarkupShape {
  const flipped = flippedShape(mark) ?? {
    kind: 'note',
    points: [[(mark.box[0] + mark.box[2]) / 2, -(mark.box[1] + mark.box[3]) / 2]],
  };
  const shape = mapped(flipped, ([x, y]) => fromPageSpace(place, [x, -y]));
  return backAs(was, shape);
}

/** In the page's own space, y turned downwards. */
function flippedShape(mark: Drawn): MarkupShape | undefined {
  if (mark.kind === 'freehand') return strokes('freehand', mark.points.map(pairs));
  if (mark.kind === 'highlighter') return strokes('highlighter', mark.points.map(pairs).map(middleOfQuad));
  const shape = shapeOf(mark);
  return shape && !('box' in shape) && shape.points.length > MOST_POINTS ? undefined : shape;
}

const pairs = (list: readonly number[]): Point[] =>
  Array.from({ length: Math.floor(list.length / 2) }, (_, i): Point => [list[2 * i]!, -list[2 * i + 1]!]);

function strokes(kind: 'freehand' | 'highlighter', rows: Point[][]): MarkupShape | undefined {
  const [points, ...more] = rows
    .filter(({ length }) => length)
    .slice(0, MOST_STROKES)
    .map((row) => row.slice(0, MOST_POINTS));
  return points && { kind, points, ...(more.length && { strokes: more }) };
}

/** From the middle of its beginning to the middle of its end: upper left, upper right, lower left, lower right. */
function middleOfQuad([a, b, c, d]: Point[]): Point[] {
  if (!a || !b || !c || !d) return [];
  return [
    [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2],
    [(b[0] + d[0]) / 2, (b[1] + d[1]) / 2],
  ];
}

function backAs(was: MarkupShape | undefined, shape: MarkupShape): MarkupShape {
  if (was?.kind === 'area' && shape.kind === 'polygon' && shape.points.length > 2)
    return { ...was, points: shape.points };
  if (was?.kind === 'angle' && shape.kind === 'polyline' && shape.points.length === 3)
    return { kind: 'angle', points: shape.points as [Point, Point, Point] };
  if (was?.kind === 'count' && shape.kind === 'freehand') {
    // Each that was counted left as a cross of two strokes.
    const rows = [shape.points, ...(shape.strokes ?? [])];
    const crosses = rows.filter((row, i) => i % 2 === 0 && row.length === 2);
    if (crosses.length)
      return { kind: 'count', points: crosses.map(([a, b]) => [(a![0] + b![0]) / 2, (a![1] + b![1]) / 2]) };
  }
  return was?.kind === 'photo' && shape.kind === 'stamp' ? { ...shape, kind: 'photo' } : shape;
}

/** What differs from how a markup of this status is drawn anyway. */
export function markupStyleOf(mark: Annotation, status: MarkupStatus): MarkupStyle {
  const colour =
    mark.colour && mark.colour.toLowerCase() !== STATUS_COLOURS[status].toLowerCase() ? mark.colour : undefined;
  const [first] = mark.points;
  const quad = mark.kind === 'highlighter' && first ? pairs(first) : [];
  const high = quad[0] && quad[2] ? Math.hypot(quad[0][0] - quad[2][0], quad[0][1] - quad[2][1]) : undefined;
  const width = Math.min(50, Math.max(0.1, high ?? mark.width));
  return {
    ...(colour && { colour }),
    ...(Number.isFinite(width) && { width }),
    ...(mark.opacity < 1 && { opacity: Math.max(0, mark.opacity) }),
    ...(mark.fill === null && { filled: false }),
  };
}
