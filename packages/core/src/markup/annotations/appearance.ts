/** What an annotation looks like, as a form that every reader draws the same. Points, origin lower left. */
import { PDFDocument, PDFName, StandardFontEmbedder, StandardFonts, type PDFRef } from '@cantoo/pdf-lib';
import { figureOf, LINE_HEIGHT, type Figure, type Piece } from '../figures.ts';
import type { Box, MarkupShape, Point } from '../shapes.ts';
import type { Loose } from './annotation.ts';
import { partsOf } from './pdf-values.ts';

const number = (value: number): string => String(Number(value.toFixed(3)));

/** How far the arcs of a cloud stand out, points. */
const CLOUD_HEIGHT = 8;

/** The shape in the space of markups, whose y goes down: the page's own, turned over. */
export function shapeOf({
  kind,
  box,
  points,
  width,
}: Pick<Loose, 'kind' | 'box' | 'points' | 'width'>): MarkupShape | undefined {
  const pairs = (list: readonly number[]): Point[] =>
    Array.from({ length: Math.floor(list.length / 2) }, (_, i): Point => [list[2 * i]!, -list[2 * i + 1]!]);
  // The line along the edge of a box stands inside of it.
  const inner = kind === 'cloud' && !points.length ? width / 2 + CLOUD_HEIGHT : width / 2;
  const edge = Math.min(inner, (box[2] - box[0]) / 2, (box[3] - box[1]) / 2);
  const [x0, y0, x1, y1] = [box[0] + edge, box[1] + edge, box[2] - edge, box[3] - edge];
  const inside: Box = [x0, -y1, x1 - x0, y1 - y0];
  const first = pairs(points[0] ?? []);
  const corners: [Point, Point] = [
    [x0, -y1],
    [x1, -y0],
  ];
  switch (kind) {
    case 'rectangle':
    case 'ellipse':
      return { kind, points: corners };
    case 'line':
    case 'arrow':
    case 'dimension':
      return first.length === 2 ? { kind, points: first as [Point, Point] } : undefined;
    case 'polyline':
    case 'polygon':
      return first.length > 1 ? { kind, points: first } : undefined;
    case 'cloud':
      return { kind, points: first.length > 2 ? first : corners };
    case 'text':
    case 'stamp':
      return { kind, box: inside };
    case 'callout':
      return first.length ? { kind, target: first[0]!, box: calloutBox(inside, first) } : { kind: 'text', box: inside };
    case 'note':
      return { kind, points: [[(x0 + x1) / 2, -(y0 + y1) / 2]] };
    default:
      return undefined;
  }
}

/** The box around a callout holds its line too: the words stand on the side where the line ends. */
function calloutBox([x, y, width, height]: Box, line: readonly Point[]): Box {
  const [tip, end] = [line[0]!, line.at(-1)!];
  const [left, right] = [x, x + width];
  const [top, bottom] = [y, y + height];
  if (Math.abs(tip[0] - end[0]) > Math.abs(tip[1] - end[1]))
    return tip[0] < end[0]
      ? [end[0], top, Math.max(1, right - end[0]), height]
      : [left, top, Math.max(1, end[0] - left), height];
  return tip[1] < end[1]
    ? [left, end[1], width, Math.max(1, bottom - end[1])]
    : [left, top, width, Math.max(1, end[1] - top)];
}

/** A picture in the file, sizes in pixels. */
export interface Picture {
  ref: PDFRef;
  width: number;
  height: number;
}

/** A form that draws the annotation; `turn`: of the page, in degrees, so that words and pictures stand upright where it is shown. */
export function appearanceOf(pdf: PDFDocument, mark: Loose, turn: number, picture?: Picture): PDFRef {
  const [x0, y0, x1, y1] = mark.box;
  const highlights = mark.kind === 'highlighter';
  const content = picture ? pictured(mark, turn, picture) : highlights ? highlighted(mark) : drawn(mark, turn);
  const state = pdf.context.obj({
    Type: 'ExtGState',
    CA: mark.opacity,
    ca: mark.opacity,
    ...(highlights && { BM: 'Multiply' }),
  });
  const font = pdf.context.obj({ Type: 'Font', Subtype: 'Type1', BaseFont: 'Helvetica', Encoding: 'WinAnsiEncoding' });
  const form = pdf.context.flateStream(`/G gs\n${content}`, {
    Type: 'XObject',
    Subtype: 'Form',
    BBox: [x0, y0, x1, y1],
    Matrix: [1, 0, 0, 1, -x0, -y0],
    Resources: { ExtGState: { G: state }, Font: { F: font }, ...(picture && { XObject: { P: picture.ref } }) },
  });
  form.dict.set(PDFName.of('FormType'), pdf.context.obj(1));
  return pdf.context.register(form);
}

const colour = (hex: string, operator: 'rg' | 'RG'): string => `${partsOf(hex).map(number).join(' ')} ${operator}`;
const INK = '#1d2a2f';

/** The quadrilaterals that are marked: upper left, upper right, lower left, lower right. */
function highlighted({ points, box: [x0, y0, x1, y1], colour: paint }: Loose): string {
  const quads = points.length ? points : [[x0, y1, x1, y1, x0, y0, x1, y0]];
  const areas = quads.map(([ax, ay, bx, by, cx, cy, dx, dy]) =>
    [`${ax} ${ay} m`, `${bx} ${by} l`, `${dx} ${dy} l`, `${cx} ${cy} l`, 'h f'].join(' '),
  );
  return [colour(paint ?? '#ffe066', 'rg'), ...areas].join('\n');
}

function drawn(mark: Loose, turn: number): string {
  const paint = mark.colour ?? INK;
  const lines = [colour(paint, 'RG'), `${number(mark.width)} w 1 j 1 J`];
  if (mark.kind === 'freehand') return [...lines, ...mark.points.map((stroke) => `${alongPairs(stroke)} S`)].join('\n');
  const shape = shapeOf(mark);
  if (!shape) return '';
  const figure = figureOf(shape, mark.kind === 'note' ? '' : mark.contents);
  for (const { pieces, line, area } of figure.paths) {
    const filled = area === 'solid' ? paint : area === 'paper' ? '#ffffff' : mark.fill;
    if (filled) lines.push(colour(filled, 'rg'));
    const paints = filled ? (line ? 'B*' : 'f*') : line ? 'S' : 'n';
    lines.push(`${pieces.map(operator).join(' ')} ${paints}`);
  }
  return [...lines, ...words(figure, mark, turn)].join('\n');
}

/** As large as it goes into the box, in its middle. */
function pictured({ box: [x0, y0, x1, y1] }: Loose, turn: number, { width, height }: Picture): string {
  const { cos, sin } = quarterTurn(turn);
  const [across, up] = sin ? [y1 - y0, x1 - x0] : [x1 - x0, y1 - y0];
  const scale = Math.min(across / width, up / height);
  const [w, h] = [width * scale, height * scale];
  const [x, y] = [(x0 + x1 - w * cos + h * sin) / 2, (y0 + y1 - w * sin - h * cos) / 2];
  return `q ${[w * cos, w * sin, -h * sin, h * cos, x, y].map(number).join(' ')} cm /P Do Q`;
}

function quarterTurn(degrees: number): { cos: number; sin: number } {
  const angle = (degrees * Math.PI) / 180;
  return { cos: Math.round(Math.cos(angle)), sin: Math.round(Math.sin(angle)) };
}

const alongPairs = (list: readonly number[]): string =>
  Array.from(
    { length: Math.floor(list.length / 2) },
    (_, i) => `${number(list[2 * i]!)} ${number(list[2 * i + 1]!)} ${i ? 'l' : 'm'}`,
  ).join(' ');

const OPERATORS = { move: 'm', line: 'l', curve: 'c', close: 'h' } as const;
/** Figures have their y downwards. */
const operator = ([what, ...values]: Piece): string =>
  [...(values as number[]).map((value, i) => number(i % 2 ? -value : value)), OPERATORS[what]].join(' ');

const helvetica = StandardFontEmbedder.for(StandardFonts.Helvetica as never);
/** Letters that the font has no glyph for stand as a question mark: the words themselves are kept in the annotation. */
function encoded(text: string): string {
  return Array.from(text, (letter) => {
    try {
      return helvetica.encodeText(letter).toString();
    } catch {
      return helvetica.encodeText('?').toString();
    }
  })
    .map((hex) => hex.slice(1, -1))
    .join('');
}

function words({ words: set }: Figure, { kind, colour: paint, box: [x0, y0, x1, y1] }: Loose, turn: number): string[] {
  if (!set) return [];
  const { lines, size, at } = set;
  const { cos, sin } = quarterTurn(turn);
  // Words of a turned page turn about the middle of their box.
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const [dx, dy] = [at[0] - mx, -at[1] - my];
  const [x, y] = [mx + cos * dx - sin * dy, my + sin * dx + cos * dy];
  const ink = kind === 'text' || kind === 'stamp' ? (paint ?? INK) : INK;
  return [
    `BT ${colour(ink, 'rg')} /F ${number(size * 0.92)} Tf ${number(size * LINE_HEIGHT)} TL`,
    `${cos} ${sin} ${-sin} ${cos} ${number(x)} ${number(y)} Tm`,
    ...lines.map((line, i) => `${i ? 'T* ' : ''}<${encoded(line)}> Tj`),
    'ET',
  ];
}
