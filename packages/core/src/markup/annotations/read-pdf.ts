/** Reads the markups of a PDF, whoever wrote them. Links, form fields and popups are none. */
import {
  EncryptedPDFError,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFInvalidObject,
  PDFName,
  PDFRef,
  PDFStream,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { CodedError } from '../../platform/coded-error.ts';
import { hangReplies, type AnnotatedPage, type AnnotationKind, type Loose, type PageBox } from './annotation.ts';
import { readPdfDate } from './pdf-date.ts';
import { plainText } from './rich-text.ts';
import { colourOf, numberOf, numbersOf, textOf, value } from './pdf-values.ts';

/** What the reader says where the empty password does not open a file. */
const NEEDS_PASSWORD = 'NEEDS PASSWORD';

/** A file that opens for everybody but asks for a password before it is changed is read too. Throws `pdf-encrypted` and `pdf-damaged`. */
export async function openPdf(bytes: Uint8Array): Promise<PDFDocument> {
  try {
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false, throwOnInvalidObject: false, password: '' });
    pdf.getPageCount();
    if (pdf.context.isDecrypted) forgetCipher(pdf);
    return pdf;
  } catch (error) {
    const { message } = error as Error;
    if (error instanceof EncryptedPDFError || message === NEEDS_PASSWORD) throw new CodedError('pdf-encrypted');
    // Whatever else the reader says of a file is that it is none.
    throw new CodedError('pdf-damaged', { reason: String(message).slice(0, 200) });
  }
}

/** What still says that the file is encrypted would make nonsense of what is written. */
function forgetCipher({ context }: PDFDocument): void {
  for (const [ref, object] of context.enumerateIndirectObjects()) {
    const type = object instanceof PDFStream ? object.dict.get(PDFName.of('Type')) : undefined;
    if (object instanceof PDFInvalidObject || type === PDFName.of('XRef') || type === PDFName.of('ObjStm'))
      context.delete(ref);
  }
}

export async function readAnnotations(bytes: Uint8Array): Promise<AnnotatedPage[]> {
  const pdf = await openPdf(bytes);
  const found = hangReplies(looseOf(pdf).map(({ loose }) => loose));
  const pages = Array.from({ length: pdf.getPageCount() }, (_, i): AnnotatedPage => ({ page: i + 1, annotations: [] }));
  for (const { page, ...annotation } of found) pages[page - 1]!.annotations.push(annotation);
  return pages;
}

/** A markup in the file, with the object that it is. */
export interface Held {
  loose: Loose;
  dict: PDFDict;
  ref: PDFRef | undefined;
}

/** All markups and answers, page by page in the order of the file. */
export function looseOf(pdf: PDFDocument): Held[] {
  const held: { page: number; dict: PDFDict; ref: PDFRef | undefined; key: string }[] = [];
  const keys = new Map<PDFDict, string>();
  for (const [i, page] of pdf.getPages().entries())
    for (const { dict, ref } of annotsOf(page)) {
      if (keys.has(dict)) continue;
      const key = `${i + 1}/${held.length}`;
      keys.set(dict, key);
      held.push({ page: i + 1, dict, ref, key });
    }
  return held.flatMap(({ page, dict, ref, key }) => {
    const loose = readOne(dict, page, key, keys);
    return loose ? [{ loose, dict, ref }] : [];
  });
}

export function annotsOf(page: PDFPage): { dict: PDFDict; ref: PDFRef | undefined }[] {
  const list = page.node.lookup(PDFName.of('Annots'));
  if (!(list instanceof PDFArray)) return [];
  return Array.from({ length: list.size() }, (_, i) => i).flatMap((i) => {
    const [dict, ref] = [list.lookup(i), list.get(i)];
    return dict instanceof PDFDict ? [{ dict, ref: ref instanceof PDFRef ? ref : undefined }] : [];
  });
}

function readOne(dict: PDFDict, page: number, key: string, keys: ReadonlyMap<PDFDict, string>): Loose | undefined {
  const kind = kindOf(dict);
  if (!kind) return undefined;
  const text = (name: string): string => textOf(value(dict, name));
  const to = value(dict, 'IRT');
  const isAnswer = to instanceof PDFDict && text('RT') !== 'Group';
  const stateModel = text('StateModel');
  // Marked or not is nobody's answer.
  if (isAnswer && stateModel && stateModel !== 'Review') return undefined;
  const id = text('NM') || `object-${key}`;
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = numbersOf(value(dict, 'Rect'));
  const box: PageBox = [Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1)];
  const style = value(dict, 'BS');
  const width = style instanceof PDFDict ? numberOf(value(style, 'W')) : numbersOf(value(dict, 'Border'))[2];
  return {
    key,
    id,
    page,
    kind,
    author: text('T'),
    created: readPdfDate(text('CreationDate')),
    modified: readPdfDate(text('M')),
    contents: (text('Contents') || plainText(text('RC'))).replace(/\r\n?/g, '\n'),
    colour:
      colourOf(numbersOf(value(dict, 'C'))) ?? (kind === 'text' || kind === 'callout' ? writtenIn(text('DA')) : null),
    fill: colourOf(numbersOf(value(dict, 'IC'))),
    box,
    points: pointsOf(dict, kind),
    width: width ?? 1,
    opacity: numberOf(value(dict, 'CA')) ?? 1,
    answers: isAnswer ? (keys.get(to) ?? '') : '',
    state: isAnswer ? text('State') : '',
    subject: text('Subj'),
  };
}

const isCloudy = (dict: PDFDict): boolean => {
  const effect = value(dict, 'BE');
  return (
    (effect instanceof PDFDict && textOf(value(effect, 'S')) === 'C') || textOf(value(dict, 'IT')) === 'PolygonCloud'
  );
};
const KINDS: Record<string, (dict: PDFDict) => AnnotationKind> = {
  Square: (dict) => (isCloudy(dict) ? 'cloud' : 'rectangle'),
  Circle: () => 'ellipse',
  Line(dict) {
    if (textOf(value(dict, 'IT')) === 'LineDimension' || value(dict, 'Measure')) return 'dimension';
    const ends = value(dict, 'LE');
    const names = ends instanceof PDFArray ? ends.asArray().map(textOf) : [textOf(ends)];
    return names.some((name) => name.endsWith('Arrow')) ? 'arrow' : 'line';
  },
  PolyLine: () => 'polyline',
  Polygon: (dict) => (isCloudy(dict) ? 'cloud' : 'polygon'),
  Ink: () => 'freehand',
  Highlight: () => 'highlighter',
  Underline: () => 'highlighter',
  Squiggly: () => 'highlighter',
  StrikeOut: () => 'highlighter',
  FreeText: (dict) => (value(dict, 'CL') || textOf(value(dict, 'IT')) === 'FreeTextCallout' ? 'callout' : 'text'),
  Stamp: () => 'stamp',
  Text: () => 'note',
  Caret: () => 'note',
  FileAttachment: () => 'note',
};
const kindOf = (dict: PDFDict): AnnotationKind | undefined => KINDS[textOf(value(dict, 'Subtype'))]?.(dict);

function pointsOf(dict: PDFDict, kind: AnnotationKind): number[][] {
  const numbers = (name: string): number[][] => {
    const found = numbersOf(value(dict, name));
    return found.length ? [found] : [];
  };
  if (kind === 'freehand') {
    const strokes = value(dict, 'InkList');
    return strokes instanceof PDFArray
      ? Array.from({ length: strokes.size() }, (_, i) => numbersOf(strokes.lookup(i))).filter(({ length }) => length)
      : [];
  }
  if (kind === 'callout') return numbers('CL');
  if (kind === 'highlighter') return inEights(numbersOf(value(dict, 'QuadPoints')));
  const line = numbers('L');
  return line.length ? line : numbers('Vertices');
}
const inEights = (numbers: readonly number[]): number[][] =>
  Array.from({ length: Math.floor(numbers.length / 8) }, (_, i) => numbers.slice(8 * i, 8 * i + 8));

const COLOUR_PARTS: Record<string, number> = { g: 1, rg: 3, k: 4 };
/** Colour in which a default appearance writes. */
function writtenIn(appearance: string): string | null {
  const words = appearance.split(/\s+/);
  const at = words.findIndex((word) => Object.hasOwn(COLOUR_PARTS, word));
  return at < 0 ? null : colourOf(words.slice(Math.max(0, at - COLOUR_PARTS[words[at]!]!), at).map(Number));
}
