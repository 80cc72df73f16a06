/** Shapes as lines, areas and words that any surface can draw: the screen, a PDF, a picture. Lengths in points, y down. */
import { getStroke } from 'perfect-freehand';
import { leaderStart, rectangleRing, signedArea, type Box, type MarkupShape, type Point } from './shapes.ts';

/** A piece of a path; angles and arcs are curves already. */
export type Piece =
  | ['move' | 'line', x: number, y: number]
  | ['curve', x1: number, y1: number, x2: number, y2: number, x: number, y: number]
  | ['close'];

export interface FigurePath {
  pieces: Piece[];
  line: boolean;
  /** `tint`: a breath of the colour; `solid`: the colour itself; `paper`: white, so that words can be read. */
  area: 'none' | 'tint' | 'solid' | 'paper';
}

/** Where the words of a shape stand. */
export interface FigureWords {
  lines: string[];
  /** Height of the letters. */
  size: number;
  /** The left end of the first base line. */
  at: Point;
}

export interface Figure {
  paths: FigurePath[];
  words?: FigureWords;
  /** Where its picture stands, if it has one. */
  picture?: Box;
}

/** A circle is four curves with control points so far along: a deviation of 0.03 %. */
const KAPPA = (4 / 3) * (Math.SQRT2 - 1);
/** Chord of an arc of a cloud, sides of an arrow head, points on paper. */
const BULGE = 14;
const HEAD = 10;
const TEXT = 11;

/** `unit`: sizes on paper grow by it, so that marks stay legible where the sheet is small. */
export function figureOf(shape: MarkupShape, text = '', unit = 1): Figure {
  const line = (pieces: Piece[], area: FigurePath['area'] = 'none'): FigurePath => ({ pieces, line: true, area });
  switch (shape.kind) {
    case 'line':
    case 'polyline':
      return { paths: [line(alongPoints(shape.points))] };
    case 'highlighter':
      return { paths: [line([shape.points, ...(shape.strokes ?? [])].flatMap(alongPoints))] };
    case 'freehand':
      return {
        paths: [shape.points, ...(shape.strokes ?? [])].map((points) => ({
          pieces: ring(stroke(points, 2.5 * unit)),
          line: false,
          area: 'solid',
        })),
      };
    case 'arrow':
      return { paths: [line([...alongPoints(shape.points), ...head(shape.points[0], shape.points[1], HEAD * unit)])] };
    case 'dimension': {
      const [a, b] = shape.points;
      const pieces = [...alongPoints([a, b]), ...head(a, b, HEAD * unit), ...head(b, a, HEAD * unit)];
      return { paths: [line(pieces)], ...wordsAt(text, middle(a, b), unit) };
    }
    case 'rectangle':
      return { paths: [line(ring(rectangleRing(...shape.points)), 'tint')] };
    case 'ellipse':
      return { paths: [line(ellipse(...shape.points), 'tint')] };
    case 'polygon':
      return { paths: [line(ring(shape.points), 'tint')] };
    case 'area':
      return {
        paths: [line([shape.points, ...(shape.holes ?? [])].flatMap(ring), 'tint')],
        ...wordsAt(text, centre(shape.points), unit),
      };
    case 'cloud': {
      const [a, b] = shape.points;
      const around = shape.points.length === 2 ? rectangleRing(a!, b!) : shape.points;
      return { paths: [line(cloud(around, BULGE * unit), 'tint')] };
    }
    case 'angle': {
      const [a, at, b] = shape.points;
      return {
        paths: [line([...alongPoints([a, at, b]), ...sweep(a, at, b)])],
        ...wordsAt(text, at, unit),
      };
    }
    case 'count':
      return { paths: [{ pieces: shape.points.flatMap((point) => dot(point, 4 * unit)), line: true, area: 'solid' }] };
    case 'note':
      return { paths: [{ pieces: dot(shape.points[0], 5 * unit), line: true, area: 'solid' }] };
    case 'callout':
      return {
        paths: [
          line(alongPoints([leaderStart(shape.target, shape.box), shape.target])),
          { pieces: dot(shape.target, 3.5 * unit), line: false, area: 'solid' },
          line(ring(corners(shape.box)), 'paper'),
        ],
        ...wordsIn(text, shape.box, unit),
      };
    case 'text':
      return { paths: [], ...wordsIn(text, shape.box, unit) };
    case 'stamp':
      return {
        paths: [line(ring(corners(shape.box)), 'tint')],
        ...wordsIn(text, shape.box, unit, (0.8 * shape.box[3]) / text.split('\n').length),
        picture: shape.box,
      };
    case 'photo':
      return { paths: [line(ring(corners(shape.box)), 'paper')], picture: shape.box };
  }
}

const corners = ([x, y, width, height]: Box): Point[] => rectangleRing([x, y], [x + width, y + height]);
const middle = ([ax, ay]: Point, [bx, by]: Point): Point => [(ax + bx) / 2, (ay + by) / 2];

function centre(points: readonly Point[]): Point {
  const sum = points.reduce(([x, y], [px, py]): Point => [x + px, y + py], [0, 0]);
  return [sum[0] / points.length, sum[1] / points.length];
}

const alongPoints = (points: readonly Point[]): Piece[] =>
  points.map(([x, y], i): Piece => [i ? 'line' : 'move', x, y]);
const ring = (points: readonly Point[]): Piece[] => (points.length ? [...alongPoints(points), ['close']] : []);

function head([ax, ay]: Point, [bx, by]: Point, length: number): Piece[] {
  const angle = Math.atan2(by - ay, bx - ax);
  const wing = (turn: number): [number, number] => [
    bx - length * Math.cos(angle + turn),
    by - length * Math.sin(angle + turn),
  ];
  return [
    ['move', ...wing(0.4)],
    ['line', bx, by],
    ['line', ...wing(-0.4)],
  ];
}

function ellipse(a: Point, b: Point): Piece[] {
  const [x, y] = middle(a, b);
  const [rx, ry] = [Math.abs(b[0] - a[0]) / 2, Math.abs(b[1] - a[1]) / 2];
  const [kx, ky] = [KAPPA * rx, KAPPA * ry];
  return [
    ['move', x + rx, y],
    ['curve', x + rx, y + ky, x + kx, y + ry, x, y + ry],
    ['curve', x - kx, y + ry, x - rx, y + ky, x - rx, y],
    ['curve', x - rx, y - ky, x - kx, y - ry, x, y - ry],
    ['curve', x + kx, y - ry, x + rx, y - ky, x + rx, y],
    ['close'],
  ];
}
const dot = ([x, y]: Point, radius: number): Piece[] => ellipse([x - radius, y - radius], [x + radius, y + radius]);

/** Equal arcs of about `bulge` points chord along a closed ring, which bulge outwards whichever way it was drawn. */
function cloud(points: readonly Point[], bulge: number): Piece[] {
  if (points.length < 2) return [];
  const out = signedArea(points) > 0 ? 1 : -1;
  const pieces: Piece[] = [['move', ...points[0]!]];
  for (let i = 0; i < points.length; i++) {
    const [ax, ay] = points[i]!;
    const [bx, by] = points[(i + 1) % points.length]!;
    const length = Math.hypot(bx - ax, by - ay);
    if (!length) continue;
    const arcs = Math.max(1, Math.round(length / bulge));
    const [stepX, stepY] = [(bx - ax) / arcs, (by - ay) / arcs];
    // A curve whose control points stand straight out over its ends, two thirds of its chord high, is half as high as long.
    const [outX, outY] = [(out * stepY * 2) / 3, (-out * stepX * 2) / 3];
    for (let k = 0; k < arcs; k++) {
      const [x, y] = [ax + stepX * k, ay + stepY * k];
      pieces.push(['curve', x + outX, y + outY, x + stepX + outX, y + stepY + outY, x + stepX, y + stepY]);
    }
  }
  return [...pieces, ['close']];
}

/** The outline of a line drawn by hand, smoothed. */
const stroke = (points: readonly Point[], size: number): Point[] =>
  getStroke(points as Point[], { size, thinning: 0.35, smoothing: 0.6, streamline: 0.5, last: true }) as Point[];

/** The arc that shows an angle, in pieces of at most a quarter. */
function sweep(a: Point, at: Point, b: Point): Piece[] {
  const radius = Math.min(Math.hypot(a[0] - at[0], a[1] - at[1]), Math.hypot(b[0] - at[0], b[1] - at[1])) / 2;
  const from = Math.atan2(a[1] - at[1], a[0] - at[0]);
  let turn = Math.atan2(b[1] - at[1], b[0] - at[0]) - from;
  if (turn > Math.PI) turn -= 2 * Math.PI;
  if (turn < -Math.PI) turn += 2 * Math.PI;
  const parts = Math.max(1, Math.ceil(Math.abs(turn) / (Math.PI / 2)));
  const reach = (4 / 3) * Math.tan(turn / parts / 4) * radius;
  const on = (angle: number, along = 0): [number, number] => [
    at[0] + radius * Math.cos(angle) - along * Math.sin(angle),
    at[1] + radius * Math.sin(angle) + along * Math.cos(angle),
  ];
  const pieces: Piece[] = [['move', ...on(from)]];
  for (let i = 0; i < parts; i++) {
    const [start, end] = [from + (turn * i) / parts, from + (turn * (i + 1)) / parts];
    pieces.push(['curve', ...on(start, reach), ...on(end, -reach), ...on(end)]);
  }
  return pieces;
}

/** A letter is about half as wide as high. */
const LETTER = 0.5;

function wordsAt(text: string, [x, y]: Point, unit: number): { words?: FigureWords } {
  if (!text) return {};
  const size = TEXT * unit;
  return { words: { lines: [text], size, at: [x - (text.length * size * LETTER) / 2, y - size * 0.5] } };
}

/** Words in lines, at the largest size up to the common one that the box holds. */
/** `largest`: letters are no higher than that, and smaller where the box has no room. */
function wordsIn(
  text: string,
  [x, y, width, height]: Box,
  unit: number,
  largest = TEXT * unit,
): { words?: FigureWords } {
  if (!text.trim()) return {};
  for (let size = largest; ; size *= 0.92) {
    const most = Math.max(4, Math.floor((width - size * 1.4) / (size * LETTER)));
    const lines = text.split('\n').flatMap((part) => inLines(part, most));
    if (lines.length * size * LINE_HEIGHT + size * 0.7 <= height || size < 4 || lines.length > 500)
      return { words: { lines, size, at: [x + size * 0.7, y + size * 1.35] } };
  }
}
/** Of the lines of words, in heights of letters. */
export const LINE_HEIGHT = 1.25;

function inLines(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    if (lines.length && `${lines.at(-1)} ${word}`.length <= most) lines[lines.length - 1] += ` ${word}`;
    else lines.push(word);
  }
  return lines;
}
