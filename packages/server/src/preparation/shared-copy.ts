/** A copy of a drawing for those who get only some of its sheets: the same pages, of which the others are blank, and nothing of them. */
import {
  decodePDFRawStream,
  PDFArray,
  PDFContentStream,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFStream,
  type PDFContext,
  type PDFObject,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { openPdf } from '@kindred/core/markup/annotations/read-pdf';

const name = (text: string): PDFName => PDFName.of(text);
const names = (texts: string): PDFName[] => texts.split(' ').map(name);

/** What a page is drawn from (ISO 32000-2, table 31); all else may lead to other pages. */
const PAGE_KEYS = new Set(
  names('Type Parent MediaBox CropBox BleedBox TrimBox ArtBox Rotate UserUnit Group Resources Contents Annots'),
);
/** What tells of a file and its structure, or leads elsewhere, wherever it stands. */
const LEADS_ELSEWHERE = names(
  'Metadata PieceInfo StructParent StructParents Thumb AA A Dest B P Popup IRT OPI Alternates AF Names JS PresSteps DPart',
);
const RESOURCE_KINDS = names('ExtGState ColorSpace Pattern Shading XObject Font Properties');
/** Annotations that draw something of their own and do nothing. */
const DRAWN_ANNOTATIONS = new Set(
  names('Text FreeText Line Square Circle Polygon PolyLine Highlight Underline Squiggly StrikeOut Stamp Caret Ink'),
);

/** `shown`: numbers of the pages that others get, from 1. */
export async function sharedCopy(file: Uint8Array, shown: readonly number[]): Promise<Uint8Array> {
  const source = await openPdf(file);
  const copy = await PDFDocument.create({ updateMetadata: false });
  const wanted = new Set(shown.map((page) => page - 1));
  const hiddenLayers = layersOff(source);
  const pages = source.getPages();
  const indices = [...wanted].filter((index) => index < pages.length).sort((a, b) => a - b);
  for (const index of indices) reduce(source.context, pages[index]!);
  const copied = await copy.copyPages(source, indices);
  const off = indices.flatMap((index, i) => layersUsed(pages[index]!, copied[i]!, hiddenLayers));
  for (const [index, page] of pages.entries()) {
    if (wanted.has(index)) copy.addPage(copied.shift()!);
    else {
      const { width, height } = page.getSize();
      copy.addPage([width, height]).setRotation(page.getRotation());
    }
  }
  if (off.length) keepHidden(copy, off);
  return copy.save();
}

/** Leaves of a page only what draws it. */
function reduce(context: PDFContext, page: PDFPage): void {
  const { node } = page;
  node.normalize();
  for (const key of node.keys()) if (!PAGE_KEYS.has(key)) node.delete(key);
  const annotations = (node.Annots()?.asArray() ?? []).flatMap((one) => drawnAlone(context, context.lookup(one)));
  node.set(name('Annots'), context.obj(annotations));
  const resources = node.Resources();
  if (resources) {
    const own = ownCopy(context, resources);
    node.set(name('Resources'), own);
    prune(own, contentOf(context, node.Contents()));
  }
  const seen = new Set<PDFObject>();
  for (const [key, value] of node.entries()) if (key !== name('Parent')) strip(context, value, seen);
}

function drawnAlone(context: PDFContext, annotation: PDFObject | undefined): PDFObject[] {
  if (!(annotation instanceof PDFDict)) return [];
  const kind = annotation.lookup(name('Subtype'));
  const appearance = annotation.lookup(name('AP'));
  const drawn = appearance instanceof PDFDict ? appearance.get(name('N')) : undefined;
  const rectangle = annotation.lookup(name('Rect'));
  if (!(kind instanceof PDFName) || !DRAWN_ANNOTATIONS.has(kind) || !drawn || !rectangle) return [];
  const reduced = { Type: name('Annot'), Subtype: kind, Rect: rectangle, AP: context.obj({ N: drawn }) };
  const flags = annotation.lookup(name('F'));
  return [context.obj(flags ? { ...reduced, F: flags } : reduced)];
}

/** Resources are often one dictionary for all pages: each page that is shown gets one of its own. */
function ownCopy(context: PDFContext, resources: PDFDict): PDFDict {
  const own = context.obj({});
  for (const [key, value] of resources.entries()) {
    const kind = context.lookup(value);
    if (kind instanceof PDFDict && RESOURCE_KINDS.includes(key)) {
      const entries = context.obj({});
      for (const [entry, what] of kind.entries()) entries.set(entry, what);
      own.set(key, entries);
    } else if (key === name('ProcSet')) own.set(key, value);
  }
  return own;
}

/** Takes out of resources what a content does not name, and of what it draws the same. */
function prune(resources: PDFDict, content: string): void {
  const used = namesIn(content);
  const drawn = resources.lookup(name('XObject'));
  // Forms without resources of their own draw with those of the page.
  if (drawn instanceof PDFDict) {
    const visited = new Set<PDFObject>();
    const visit = (one: string): void => {
      const form = drawn.lookup(name(one));
      if (!(form instanceof PDFStream) || visited.has(form) || form.dict.has(name('Resources'))) return;
      visited.add(form);
      for (const inner of namesIn(decoded(form))) {
        used.add(inner);
        visit(inner);
      }
    };
    for (const one of [...used]) visit(one);
  }
  for (const kind of RESOURCE_KINDS) {
    const entries = resources.lookup(kind);
    if (entries instanceof PDFDict)
      for (const key of entries.keys()) if (!used.has(key.decodeText())) entries.delete(key);
  }
}

/** Goes through everything that is reached, takes out what leads elsewhere, and prunes the resources of whatever has its own. */
function strip(context: PDFContext, start: PDFObject, seen: Set<PDFObject>): void {
  const open: PDFObject[] = [start];
  for (let next = open.pop(); next; next = open.pop()) {
    const object = next instanceof PDFRef ? context.lookup(next) : next;
    if (!object || seen.has(object)) continue;
    seen.add(object);
    if (object instanceof PDFArray) open.push(...object.asArray());
    const dict = object instanceof PDFDict ? object : object instanceof PDFStream ? object.dict : undefined;
    if (!dict) continue;
    for (const key of LEADS_ELSEWHERE) dict.delete(key);
    const resources = dict.lookup(name('Resources'));
    if (object instanceof PDFStream && resources instanceof PDFDict) {
      const own = ownCopy(context, resources);
      dict.set(name('Resources'), own);
      prune(own, decoded(object));
    }
    for (const [key, value] of dict.entries()) if (key !== name('Parent')) open.push(value);
  }
}

const decoded = (stream: PDFStream): string =>
  Buffer.from(
    stream instanceof PDFRawStream
      ? decodePDFRawStream(stream).decode()
      : stream instanceof PDFContentStream
        ? stream.getUnencodedContents()
        : stream.getContents(),
  ).toString('latin1');

function contentOf(context: PDFContext, contents: PDFObject | undefined): string {
  const parts = contents instanceof PDFArray ? contents.asArray() : contents ? [contents] : [];
  return parts
    .map((part) => context.lookup(part))
    .flatMap((part) => (part instanceof PDFStream ? [decoded(part)] : []))
    .join('\n');
}

/** Names that stand in a content, those in texts too: one too many does no harm but keep something. */
function namesIn(content: string): Set<string> {
  const found = new Set<string>();
  for (const [, raw] of content.matchAll(/\/([^\s()<>[\]{}/%]+)/g)) found.add(name(raw!).decodeText());
  return found;
}

/** Layers that are off when a drawing is opened (ISO 32000-2, 8.11.4). */
function layersOff(source: PDFDocument): Set<PDFObject> {
  const properties = source.catalog.lookup(name('OCProperties'));
  const config = properties instanceof PDFDict ? properties.lookup(name('D')) : undefined;
  if (!(config instanceof PDFDict)) return new Set();
  const list = (dict: PDFDict, key: string): PDFObject[] => {
    const array = dict.lookup(name(key));
    return array instanceof PDFArray ? array.asArray() : [];
  };
  const off = new Set(list(config, 'OFF'));
  if (config.lookup(name('BaseState')) === name('OFF')) {
    const on = new Set(list(config, 'ON'));
    for (const layer of list(properties as PDFDict, 'OCGs')) if (!on.has(layer)) off.add(layer);
  }
  return off;
}

/** References, in the copy, of the layers that a page uses and that are off: source and copy are walked side by side. */
function layersUsed(page: PDFPage, copied: PDFPage, off: Set<PDFObject>): PDFRef[] {
  if (!off.size) return [];
  const found: PDFRef[] = [];
  const seen = new Set<PDFObject>();
  const open: [PDFObject | undefined, PDFObject | undefined][] = [[page.node.Resources(), copied.node.Resources()]];
  for (let pair = open.pop(); pair; pair = open.pop()) {
    const [from, to] = pair;
    if (from instanceof PDFRef && off.has(from) && to instanceof PDFRef) found.push(to);
    const source = from instanceof PDFRef ? page.doc.context.lookup(from) : from;
    const target = to instanceof PDFRef ? copied.doc.context.lookup(to) : to;
    if (!source || seen.has(source)) continue;
    seen.add(source);
    const dicts = [source, target].map((one) => (one instanceof PDFStream ? one.dict : one));
    const [a, b] = dicts;
    if (a instanceof PDFDict && b instanceof PDFDict)
      for (const [key, value] of a.entries()) if (key !== name('Parent')) open.push([value, b.get(key)]);
    if (a instanceof PDFArray && b instanceof PDFArray) a.asArray().forEach((value, i) => open.push([value, b.get(i)]));
  }
  return found;
}

function keepHidden(copy: PDFDocument, layers: PDFRef[]): void {
  copy.catalog.set(name('OCProperties'), copy.context.obj({ OCGs: layers, D: { OFF: layers } }));
}
