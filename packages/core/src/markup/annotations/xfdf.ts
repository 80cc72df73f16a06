/** Markups as XFDF (ISO 19444-1). */
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { CodedError } from '../../platform/coded-error.ts';
import { declaresEntities, RAW_XML } from '../../platform/xml.ts';
import type { AnnotationKind, Loose, PageBox } from './annotation.ts';
import { plainText } from './rich-text.ts';
import { readPdfDate, writePdfDate } from './pdf-date.ts';

type Attributes = Record<string, unknown>;
const NAMESPACE = 'http://ns.adobe.com/xfdf/';

const KINDS: Record<string, (element: Attributes) => AnnotationKind> = {
  square: (element) => (isCloudy(element) ? 'cloud' : 'rectangle'),
  circle: () => 'ellipse',
  line(element) {
    if (text(element['@IT']) === 'LineDimension') return 'dimension';
    return [element['@head'], element['@tail']].some((end) => text(end).endsWith('Arrow')) ? 'arrow' : 'line';
  },
  polyline: () => 'polyline',
  polygon: (element) => (isCloudy(element) || text(element['@IT']) === 'PolygonCloud' ? 'cloud' : 'polygon'),
  ink: () => 'freehand',
  highlight: () => 'highlighter',
  underline: () => 'highlighter',
  squiggly: () => 'highlighter',
  strikeout: () => 'highlighter',
  freetext: (element) => (element['@callout'] || text(element['@IT']) === 'FreeTextCallout' ? 'callout' : 'text'),
  stamp: () => 'stamp',
  text: () => 'note',
  caret: () => 'note',
};
/** What a file may hold that is no markup. */
const NO_MARKUPS = new Set(['link', 'popup', 'widget', '#text']);
const isCloudy = (element: Attributes): boolean =>
  text(element['@style']) === 'cloudy' || element['@intensity'] !== undefined;

function text(found: unknown): string {
  if (typeof found === 'string') return found;
  if (Array.isArray(found)) return text(found[0]);
  if (typeof found === 'object' && found !== null) return text((found as Attributes)['#text']);
  return '';
}
const numbers = (found: unknown): number[] => {
  const all = text(found)
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  return all.every(Number.isFinite) ? all : [];
};

export interface ReadXfdf {
  marks: Loose[];
  /** What cannot be taken over, and why. */
  skipped: { id: string; reason: 'unknown-kind' | 'no-place' }[];
}

/** Throws `xfdf-damaged`, and `xfdf-entities` where it declares entities of its own: nobody needs them for markups. */
export function readXfdf(source: string): ReadXfdf {
  if (declaresEntities(source)) throw new CodedError('xfdf-entities');
  const parser = new XMLParser({
    ...RAW_XML,
    stopNodes: ['*.contents-richtext'],
    isArray: (name, path, _leaf, isAttribute) =>
      !isAttribute && (name === 'gesture' || /\.annots\.[^.]+$/.test(String(path))),
  });
  let root: Attributes;
  try {
    root = parser.parse(source, true) as Attributes;
  } catch (error) {
    throw new CodedError('xfdf-damaged', { reason: String((error as Error).message).slice(0, 200) });
  }
  const xfdf = root.xfdf as Attributes | undefined;
  if (xfdf === undefined) throw new CodedError('xfdf-damaged', { reason: 'no xfdf element' });
  const annots = ((xfdf as Attributes).annots ?? {}) as Record<string, Attributes[]>;
  const marks: Loose[] = [];
  const skipped: ReadXfdf['skipped'] = [];
  for (const [name, elements] of Object.entries(typeof annots === 'object' ? annots : {})) {
    if (NO_MARKUPS.has(name) || !Array.isArray(elements)) continue;
    for (const element of elements) {
      const id = text(element['@name']) || `object-${name}-${marks.length + skipped.length + 1}`;
      const kind = KINDS[name]?.(element);
      if (!kind) skipped.push({ id, reason: 'unknown-kind' });
      else {
        const mark = readOne(element, id, kind);
        if (mark) marks.push(mark);
        else skipped.push({ id, reason: 'no-place' });
      }
    }
  }
  return { marks, skipped };
}

function readOne(element: Attributes, id: string, kind: AnnotationKind): Loose | undefined {
  const [x0, y0, x1, y1] = numbers(element['@rect']);
  const page = Number(text(element['@page']) || '0');
  const answers = text(element['@replyType']) === 'group' ? '' : text(element['@inreplyto']);
  if (!Number.isInteger(page) || page < 0) return undefined;
  const points = pointsOf(element, kind);
  if (y1 === undefined && !points.length && !answers) return undefined;
  const box: PageBox =
    y1 === undefined ? around(points) : [Math.min(x0!, x1!), Math.min(y0!, y1), Math.max(x0!, x1!), Math.max(y0!, y1)];
  const colour = (found: unknown): string | null =>
    /^#[0-9a-f]{6}$/i.test(text(found)) ? text(found).toLowerCase() : null;
  return {
    key: id,
    id,
    page: page + 1,
    kind,
    author: text(element['@title']),
    created: readPdfDate(text(element['@creationdate'])),
    modified: readPdfDate(text(element['@date'])),
    contents: (text(element.contents) || plainText(text(element['contents-richtext']))).replace(/\r\n?/g, '\n'),
    colour: colour(element['@color']),
    fill: colour(element['@interior-color']),
    box,
    points,
    width: Number(text(element['@width']) || '1') || 1,
    opacity: Number(text(element['@opacity']) || '1'),
    answers,
    state: text(element['@statemodel']) === 'Review' || element['@state'] ? text(element['@state']) : '',
    subject: text(element['@subject']),
  };
}
function pointsOf(element: Attributes, kind: AnnotationKind): number[][] {
  const some = (list: number[]): number[][] => (list.length ? [list] : []);
  if (kind === 'freehand') {
    const gestures = ((element.inklist as Attributes | undefined)?.gesture ?? []) as unknown[];
    return gestures.map(numbers).filter(({ length }) => length >= 2);
  }
  if (kind === 'callout') return some(numbers(element['@callout']));
  if (kind === 'highlighter') {
    const all = numbers(element['@coords']);
    return Array.from({ length: Math.floor(all.length / 8) }, (_, i) => all.slice(8 * i, 8 * i + 8));
  }
  const ends = [...numbers(element['@start']), ...numbers(element['@end'])];
  return some(ends.length === 4 ? ends : numbers(element.vertices));
}

function around(points: readonly number[][]): PageBox {
  const all = points.flat();
  const [xs, ys] = [0, 1].map((axis) => all.filter((_, i) => i % 2 === axis)) as [number[], number[]];
  const least = (values: number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
  const most = (values: number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);
  return [least(xs) - 2, least(ys) - 2, most(xs) + 2, most(ys) + 2];
}

const ELEMENTS: Record<AnnotationKind, string> = {
  rectangle: 'square',
  ellipse: 'circle',
  line: 'line',
  arrow: 'line',
  dimension: 'line',
  polyline: 'polyline',
  polygon: 'polygon',
  cloud: 'polygon',
  freehand: 'ink',
  highlighter: 'highlight',
  text: 'freetext',
  callout: 'freetext',
  stamp: 'stamp',
  note: 'text',
};

export function writeXfdf(marks: readonly Loose[]): string {
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
  });
  const ids = new Map(marks.map(({ key, id }) => [key, id]));
  const annots: Record<string, Attributes[]> = {};
  for (const mark of marks) {
    const name = mark.kind === 'cloud' && !mark.points.length ? 'square' : ELEMENTS[mark.kind ?? 'note'];
    (annots[name] ??= []).push(elementOf(mark, ids));
  }
  const xfdf = { '@xmlns': NAMESPACE, '@xml:space': 'preserve', annots };
  return builder.build({ '?xml': { '@version': '1.0', '@encoding': 'UTF-8' }, xfdf });
}

const written = (list: readonly number[]): string => list.map((number) => Number(number.toFixed(4))).join(',');
/** Pairs are parted by semicolons. */
const pairs = (list: readonly number[]): string =>
  Array.from({ length: list.length / 2 }, (_, i) => written(list.slice(2 * i, 2 * i + 2))).join(';');

function elementOf(mark: Loose, ids: ReadonlyMap<string, string>): Attributes {
  const { kind, points, answers, state } = mark;
  const [first = []] = points;
  const isLine = kind === 'line' || kind === 'arrow' || kind === 'dimension';
  return {
    '@page': String(mark.page - 1),
    '@rect': written(mark.box),
    '@name': mark.id,
    ...(mark.author && { '@title': mark.author }),
    ...(mark.modified && { '@date': writePdfDate(mark.modified) }),
    ...(mark.created && { '@creationdate': writePdfDate(mark.created) }),
    ...(mark.subject && { '@subject': mark.subject }),
    ...(mark.colour && { '@color': mark.colour }),
    ...(mark.fill && { '@interior-color': mark.fill }),
    ...(mark.width !== 1 && { '@width': String(mark.width) }),
    ...(mark.opacity !== 1 && { '@opacity': String(mark.opacity) }),
    ...(answers && { '@inreplyto': ids.get(answers) ?? answers, '@replyType': 'reply' }),
    ...(state && { '@state': state, '@statemodel': 'Review' }),
    ...(kind === 'cloud' && { '@style': 'cloudy', '@intensity': '1' }),
    ...(kind === 'arrow' && { '@tail': 'OpenArrow' }),
    ...(kind === 'dimension' && { '@IT': 'LineDimension', '@head': 'OpenArrow', '@tail': 'OpenArrow' }),
    ...(isLine && first.length === 4 && { '@start': written(first.slice(0, 2)), '@end': written(first.slice(2)) }),
    ...(kind === 'callout' && { '@IT': 'FreeTextCallout', ...(first.length && { '@callout': written(first) }) }),
    ...(kind === 'highlighter' && { '@coords': written(points.flat()) }),
    ...(mark.contents && { contents: mark.contents }),
    ...((kind === 'polyline' || kind === 'polygon' || kind === 'cloud') && first.length && { vertices: pairs(first) }),
    ...(kind === 'freehand' && { inklist: { gesture: points.map(pairs) } }),
  };
}
