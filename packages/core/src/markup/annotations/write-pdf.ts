/** Writes markups into a PDF as real annotations, each with an appearance; one that is there already is changed, never doubled. */
import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFRef,
  PDFString,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { apply, IDENTITY, type Matrix } from '../../drawing/vectors/matrix.ts';
import type { AnnotationKind, Loose } from './annotation.ts';
import { appearanceOf, type Picture } from './appearance.ts';
import { writePdfDate } from './pdf-date.ts';
import { numberOf, numbersOf, partsOf, textOf, value } from './pdf-values.ts';
import { annotsOf, looseOf, openPdf, type Held } from './read-pdf.ts';

export interface Annotated {
  pdf: Uint8Array;
  added: number;
  updated: number;
  unchanged: number;
  skipped: { id: string; reason: 'no-such-page' | 'unknown-parent' }[];
}

const SUBTYPES: Record<AnnotationKind, string> = {
  rectangle: 'Square',
  ellipse: 'Circle',
  line: 'Line',
  arrow: 'Line',
  dimension: 'Line',
  polyline: 'PolyLine',
  polygon: 'Polygon',
  cloud: 'Polygon',
  freehand: 'Ink',
  highlighter: 'Highlight',
  text: 'FreeText',
  callout: 'FreeText',
  stamp: 'Stamp',
  note: 'Text',
};
/** Printed; what is only an answer is hidden, and neither turned nor zoomed. */
const [PRINTED, ANSWER] = [4, 30];

/**
 * `marks`: keys are ids. `flatten`: all markups become part of the drawing. `pictures`: PNG or JPEG, by ids of marks that are one.
 * Throws `pdf-encrypted`, `pdf-damaged`.
 */
export async function annotate(
  bytes: Uint8Array,
  marks: readonly Loose[],
  flatten = false,
  pictures: Readonly<Record<string, Uint8Array>> = {},
): Promise<Annotated> {
  const pdf = await openPdf(bytes);
  const embedded = await embed(pdf, pictures);
  const pages = pdf.getPages();
  const held = looseOf(pdf);
  const there = new Map(held.map((one) => [one.loose.id, one]));
  const refs = new Map<string, PDFRef>();
  for (const { loose, ref } of held) if (ref) refs.set(loose.id, ref);
  const idOfKey = new Map(held.map(({ loose }) => [loose.key, loose.id]));
  const result: Annotated = { pdf: bytes, added: 0, updated: 0, unchanged: 0, skipped: [] };
  for (const mark of parentsFirst(marks)) {
    const page = pages[mark.page - 1];
    if (!page) {
      result.skipped.push({ id: mark.id, reason: 'no-such-page' });
      continue;
    }
    if (mark.answers && !refs.has(mark.answers)) {
      result.skipped.push({ id: mark.id, reason: 'unknown-parent' });
      continue;
    }
    const known = there.get(mark.id);
    if (known && sameAs(known.loose, mark, idOfKey)) {
      result.unchanged++;
      continue;
    }
    const dict = known?.dict ?? (pdf.context.obj({ Type: 'Annot' }) as PDFDict);
    write(pdf, dict, page, mark, refs, embedded.get(mark.id));
    if (known && known.loose.page !== mark.page) detach(pages[known.loose.page - 1]!, known);
    if (!known || known.loose.page !== mark.page) refs.set(mark.id, attach(pdf, page, dict, known?.ref));
    result[known ? 'updated' : 'added']++;
  }
  if (flatten) for (const page of pages) flattenPage(pdf, page);
  if (result.added || result.updated || flatten) result.pdf = await pdf.save({ useObjectStreams: false });
  return result;
}

async function embed(pdf: PDFDocument, pictures: Readonly<Record<string, Uint8Array>>): Promise<Map<string, Picture>> {
  const embedded = new Map<string, Picture>();
  for (const [id, bytes] of Object.entries(pictures))
    embedded.set(id, await (bytes[0] === 0x89 ? pdf.embedPng(bytes) : pdf.embedJpg(bytes)));
  return embedded;
}

/** What is answered comes before its answers; rings of answers keep their order. O(n). */
function parentsFirst(marks: readonly Loose[]): Loose[] {
  const byId = new Map(marks.map((mark) => [mark.id, mark]));
  const done = new Set<string>();
  const ordered: Loose[] = [];
  for (const mark of marks) {
    const chain: Loose[] = [];
    for (let at: Loose | undefined = mark; at && !done.has(at.id); at = byId.get(at.answers)) {
      done.add(at.id);
      chain.push(at);
    }
    ordered.push(...chain.reverse());
  }
  return ordered;
}

/** Hundredths of a point, and colours as bytes, are what files keep. */
const rough = (numbers: readonly number[]): string => numbers.map((one) => one.toFixed(2)).join();
function sameAs(known: Loose, mark: Loose, idOfKey: ReadonlyMap<string, string>): boolean {
  const said = ({
    page,
    kind,
    author,
    contents,
    modified,
    created,
    colour,
    fill,
    state,
    subject,
    box,
    points,
    width,
    opacity,
  }: Loose) =>
    JSON.stringify([
      ...[page, kind, author, contents, modified, created, colour, fill, state, subject],
      ...[rough(box), points.map(rough), width.toFixed(2), opacity.toFixed(2)],
    ]);
  return said(known) === said(mark) && (idOfKey.get(known.answers) ?? '') === mark.answers;
}

function write(
  pdf: PDFDocument,
  dict: PDFDict,
  page: PDFPage,
  mark: Loose,
  refs: ReadonlyMap<string, PDFRef>,
  picture: Picture | undefined,
): void {
  const { context } = pdf;
  const set = (key: string, found: unknown): void => {
    if (found === undefined || found === null || found === '') dict.delete(PDFName.of(key));
    else
      dict.set(
        PDFName.of(key),
        found instanceof PDFRef || isObject(found) ? (found as never) : context.obj(found as never),
      );
  };
  const text = (words: string): unknown => words && PDFHexString.fromText(words);
  const date = (moment: string | null): unknown => moment && PDFString.of(writePdfDate(moment));
  const kind = mark.kind ?? 'note';
  const [first = []] = mark.points;
  const cloudOfBox = kind === 'cloud' && !first.length;
  set('Subtype', PDFName.of(cloudOfBox ? 'Square' : SUBTYPES[kind]));
  set('Rect', [...mark.box]);
  set('NM', text(mark.id));
  set('T', text(mark.author));
  set('Contents', text(mark.contents));
  dict.delete(PDFName.of('RC'));
  set('M', date(mark.modified));
  set('CreationDate', date(mark.created));
  set('Subj', text(mark.subject));
  set('C', mark.colour && partsOf(mark.colour));
  set('IC', mark.fill && partsOf(mark.fill));
  set('CA', mark.opacity === 1 ? undefined : mark.opacity);
  set('F', mark.answers ? ANSWER : PRINTED);
  set('BS', { W: mark.width });
  set('P', page.ref);
  set('IRT', mark.answers && refs.get(mark.answers));
  set('RT', mark.answers && PDFName.of('R'));
  set('State', text(mark.state));
  set('StateModel', mark.state && text('Review'));
  set('L', SUBTYPES[kind] === 'Line' ? first : undefined);
  set('LE', ends(kind));
  set('IT', intent(kind));
  set('BE', kind === 'cloud' ? { S: 'C', I: 1 } : undefined);
  set('Vertices', (kind === 'polyline' || kind === 'polygon' || kind === 'cloud') && first.length ? first : undefined);
  set('InkList', kind === 'freehand' ? mark.points : undefined);
  set('QuadPoints', kind === 'highlighter' ? quadsOf(mark) : undefined);
  set('CL', kind === 'callout' && first.length ? first : undefined);
  if (kind === 'text' || kind === 'callout') {
    const written = partsOf(mark.colour ?? '#1d2a2f').map((part) => Number(part.toFixed(3)));
    set('DA', PDFString.of(`${written.join(' ')} rg /Helv 10 Tf`));
  }
  set('AP', mark.answers ? undefined : { N: appearanceOf(pdf, mark, page.getRotation().angle, picture) });
}
const isObject = (found: unknown): boolean =>
  found instanceof PDFName || found instanceof PDFHexString || found instanceof PDFString || found instanceof PDFDict;

const ends = (kind: AnnotationKind): PDFName[] | undefined => {
  const [none, arrow] = [PDFName.of('None'), PDFName.of('OpenArrow')];
  return kind === 'arrow' ? [none, arrow] : kind === 'dimension' ? [arrow, arrow] : undefined;
};
const INTENTS: Partial<Record<AnnotationKind, string>> = {
  dimension: 'LineDimension',
  cloud: 'PolygonCloud',
  callout: 'FreeTextCallout',
};
const intent = (kind: AnnotationKind): PDFName | undefined => {
  const name = INTENTS[kind];
  return name ? PDFName.of(name) : undefined;
};
const quadsOf = ({ points, box: [x0, y0, x1, y1] }: Loose): number[] =>
  points.length ? points.flat() : [x0, y1, x1, y1, x0, y0, x1, y0];

function attach(pdf: PDFDocument, page: PDFPage, dict: PDFDict, ref = pdf.context.register(dict)): PDFRef {
  page.node.addAnnot(ref);
  return ref;
}
function detach(page: PDFPage, { dict }: Held): void {
  const list = page.node.lookup(PDFName.of('Annots'));
  if (list instanceof PDFArray) for (let i = list.size() - 1; i >= 0; i--) if (list.lookup(i) === dict) list.remove(i);
}

/** What the page's markups look like becomes part of it; links and fields stay. */
function flattenPage(pdf: PDFDocument, page: PDFPage): void {
  const kept = pdf.context.obj([]) as PDFArray;
  const list = page.node.lookup(PDFName.of('Annots'));
  if (!(list instanceof PDFArray)) return;
  page.node.wrapContentStreams(
    pdf.context.getPushGraphicsStateContentStream(),
    pdf.context.getPopGraphicsStateContentStream(),
  );
  for (const [i, { dict }] of annotsOf(page).entries()) {
    const subtype = textOf(value(dict, 'Subtype'));
    if (subtype === 'Link' || subtype === 'Widget') kept.push(list.get(i));
    else if (subtype !== 'Popup' && !((numberOf(value(dict, 'F')) ?? 0) & 2)) drawFlat(pdf, page, dict);
  }
  page.node.set(PDFName.of('Annots'), kept);
}

function drawFlat(pdf: PDFDocument, page: PDFPage, dict: PDFDict): void {
  const appearance = value(dict, 'AP');
  if (!(appearance instanceof PDFDict)) return;
  let form = appearance.get(PDFName.of('N'));
  const states = pdf.context.lookup(form);
  if (states instanceof PDFDict) form = states.get(PDFName.of(textOf(value(dict, 'AS'))));
  if (!(form instanceof PDFRef)) return;
  const [a, b, c, d, e, f] = placing(pdf, form, dict);
  const name = page.node.newXObject('Mark', form);
  const content = pdf.context.flateStream(
    `q ${[a, b, c, d, e, f].map((one) => one!.toFixed(5)).join(' ')} cm ${name} Do Q`,
  );
  page.node.addContentStream(pdf.context.register(content));
}

/** The map that brings the form's box, through its own matrix, onto the annotation's (ISO 32000-2, 12.5.5). */
function placing(pdf: PDFDocument, ref: PDFRef, dict: PDFDict): number[] {
  const form = pdf.context.lookup(ref) as unknown as { dict: PDFDict };
  const [x0 = 0, y0 = 0, x1 = 1, y1 = 1] = numbersOf(value(form.dict, 'BBox'));
  const own = numbersOf(value(form.dict, 'Matrix'));
  const matrix = (own.length === 6 ? own : [...IDENTITY]) as unknown as Matrix;
  const corners = [apply(matrix, x0, y0), apply(matrix, x1, y0), apply(matrix, x0, y1), apply(matrix, x1, y1)];
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [left, lower, right, upper] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  const [rx0 = 0, ry0 = 0, rx1 = 0, ry1 = 0] = numbersOf(value(dict, 'Rect'));
  const [a, d] = [(rx1 - rx0) / (right - left || 1), (ry1 - ry0) / (upper - lower || 1)];
  return [a, 0, 0, d, rx0 - a * left, ry0 - d * lower];
}
