/** Our markups as annotations. */
import { figureOf } from '../figures.ts';
import {
  handlesOf,
  rectangleRing,
  type MarkupShape,
  type MarkupStatus,
  type MarkupStyle,
  type Point,
} from '../shapes.ts';
import { STATUS_COLOURS } from '../status-colours.ts';
import { stateOfStatus, type AnnotationKind, type Loose, type PageBox } from './annotation.ts';
import { toPageSpace, type PagePlace } from './page-space.ts';

/** A markup as it leaves: what it measures stands in its words. */
export interface MarkupToWrite {
  id: string;
  page: number;
  shape: MarkupShape;
  style: MarkupStyle;
  text: string;
  status: MarkupStatus;
  author: string;
  /** RFC 3339. */
  createdAt: string;
  /** In the order of time. */
  answers: readonly AnswerToWrite[];
}
export interface AnswerToWrite {
  id: string;
  author: string;
  text: string;
  /** RFC 3339. */
  at: string;
}

/** What PDF has no kind for goes as what looks like it; our id tells what it is when it comes back. */
const KINDS: Partial<Record<MarkupShape['kind'], AnnotationKind>> = {
  area: 'polygon',
  angle: 'polyline',
  count: 'freehand',
  photo: 'stamp',
};
const WIDTH = 1.6;
/** Half of the cross that stands for something counted, points. */
const CROSS = 4;

/** Markups on pages that the file does not have are left out. */
export function annotationsOf(markups: readonly MarkupToWrite[], places: readonly PagePlace[]): Loose[] {
  return markups.flatMap((markup) => {
    const place = places[markup.page - 1];
    return place ? withAnswers(annotationOf(markup, place), markup) : [];
  });
}

export function annotationOf(markup: MarkupToWrite, place: PagePlace): Loose {
  const { id, page, shape, style, text, status, author, createdAt } = markup;
  const colour = (style.colour ?? STATUS_COLOURS[status]).toLowerCase();
  const moment = toSecond(createdAt);
  const own = (point: Readonly<Point>): number[] =>
    toPageSpace(place, point).map((value) => Math.round(value * 100) / 100);
  return {
    key: id,
    id,
    page,
    kind: KINDS[shape.kind] ?? (shape.kind as AnnotationKind),
    author,
    created: moment,
    modified: moment,
    contents: text,
    colour,
    fill: null,
    box: boxOf(shape, own),
    points: pointsOf(shape, own),
    width: style.width ?? WIDTH,
    opacity: style.opacity ?? 1,
    answers: '',
    state: '',
    subject: status === 'settled' || status === 'declined' ? '' : status,
  };
}

/** Settled and declined are states that every program understands, given in an answer; they come after what was said. */
function withAnswers(mark: Loose, { answers, status }: MarkupToWrite): Loose[] {
  const answer = (id: string, over: Partial<Loose>): Loose => ({
    ...mark,
    ...{ key: id, id, kind: 'note', contents: '', points: [], answers: mark.id, subject: '', ...over },
  });
  const said = answers.map(({ id, author, text, at }) => {
    const moment = toSecond(at);
    return answer(id, { author, contents: text, created: moment, modified: moment });
  });
  const state = stateOfStatus(status);
  const last = said.at(-1)?.modified ?? mark.modified;
  return [mark, ...said, ...(state ? [answer(`${mark.id}-state`, { state, modified: last })] : [])];
}
const toSecond = (moment: string): string => `${moment.slice(0, 19)}Z`;

function pointsOf(shape: MarkupShape, own: (point: Readonly<Point>) => number[]): number[][] {
  switch (shape.kind) {
    case 'rectangle':
    case 'ellipse':
    case 'text':
    case 'stamp':
    case 'photo':
    case 'note':
      return [];
    case 'count':
      return shape.points.flatMap(([x, y]) => [
        [...own([x - CROSS, y - CROSS]), ...own([x + CROSS, y + CROSS])],
        [...own([x - CROSS, y + CROSS]), ...own([x + CROSS, y - CROSS])],
      ]);
    case 'callout':
      return [[...own(shape.target), ...own(endOfLeader(shape))]];
    case 'highlighter':
      return [shape.points, ...(shape.strokes ?? [])].flatMap(quadsAlong).map((quad) => quad.flatMap(own));
    case 'freehand':
      return [shape.points, ...(shape.strokes ?? [])].map((stroke) => stroke.flatMap(own));
    case 'cloud':
      return [
        (shape.points.length === 2 ? rectangleRing(shape.points[0]!, shape.points[1]!) : shape.points).flatMap(own),
      ];
    default:
      return [shape.points.flatMap(own)];
  }
}

const endOfLeader = (shape: MarkupShape & { kind: 'callout' }): Point => {
  const [start] = figureOf(shape).paths[0]!.pieces;
  return [start![1] as number, start![2] as number];
};

const HIGHLIGHT = 12;
/** A broad line as quadrilaterals: upper left, upper right, lower left, lower right of each piece. */
function quadsAlong(points: readonly Point[]): Point[][] {
  return points.slice(1).map(([bx, by], i) => {
    const [ax, ay] = points[i]!;
    const length = Math.hypot(bx - ax, by - ay) || 1;
    const [nx, ny] = [((by - ay) / length) * (HIGHLIGHT / 2), (-(bx - ax) / length) * (HIGHLIGHT / 2)];
    return [
      [ax + nx, ay + ny],
      [bx + nx, by + ny],
      [ax - nx, ay - ny],
      [bx - nx, by - ny],
    ];
  });
}

/** Room for heads of arrows, arcs of clouds and the width of lines. */
const ROOM: Partial<Record<MarkupShape['kind'], number>> = {
  rectangle: 0,
  ellipse: 0,
  text: 0,
  stamp: 0,
  photo: 0,
  note: 8,
  cloud: 12,
  arrow: 8,
  dimension: 14,
};
function boxOf(shape: MarkupShape, own: (point: Readonly<Point>) => number[]): PageBox {
  const room = ROOM[shape.kind] ?? 7;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const handle of handlesOf(shape)) {
    const [x, y] = own(handle) as Point;
    [x0, y0] = [Math.min(x0, x), Math.min(y0, y)];
    [x1, y1] = [Math.max(x1, x), Math.max(y1, y)];
  }
  return [x0 - room, y0 - room, x1 + room, y1 + room].map((value) => Math.round(value * 100) / 100) as PageBox;
}
