/** The heavy work on one file, in a process of its own. */
import { drawThumbnail } from '@kindred/core/scene/draw-thumbnail';
import type { ModelPosition } from '@kindred/core/federation/positions';
import { wallDirection } from '@kindred/core/federation/wall-direction';
import { isEmpty } from '@kindred/core/scene/bounds';
import { encodePrepared, type PreparedModel } from '@kindred/core/scene/prepare-model';
import { prepareModelFile } from '@kindred/core/scene/prepare-model-file';
import { CodedError } from '@kindred/core/platform/coded-error';
import { FILE_KIND_NOUN, fileError, modelNote } from '@kindred/words/files';
import { detectContent } from '@kindred/core/register/file-content';
import type { TaughtLayout } from '@kindred/core/drawing/taught-layout';
import type { FileKind } from '@kindred/core/register/file-kind';
import fs from 'node:fs/promises';
import path from 'node:path';
import type { PreparedSheet } from '../register/sheets.ts';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import {
  COMPRESSED,
  type ComparisonReport,
  type ModelQuestion,
  type PreparationAnswer,
  type PreparationTask,
  type ReadMarks,
} from './messages.ts';
import { unpackBcf } from './unpack-bcf.ts';
import { webIfc } from './web-ifc.ts';

interface Prepared {
  products: Record<string, Uint8Array>;
  sheets: PreparedSheet[];
  note: string;
}

/** A reason why a file cannot be prepared that the person who delivered it can act on. */
class Unfit extends Error {}

const compress = promisify(gzip);
const THUMBNAIL = 480;
const PICTURES = new Set<string | undefined>(['png', 'jpeg', 'webp']);
const MOST_PIXELS = 200_000_000;

export async function prepareFile(
  task: PreparationTask,
  progress: (answer: PreparationAnswer) => void,
): Promise<PreparationAnswer> {
  const {
    kind,
    path: file,
    sharedPages,
    markups,
    readMarks,
    recognise,
    compare,
    report,
    question,
    picture,
    bcf,
    issueReport,
    layouts = [],
    output,
  } = task;
  try {
    if (question) return await answered(question, output);
    const head = await readHead(file);
    if (!head.length) throw new Unfit('This file is empty.');
    if (issueReport) {
      const { issueReportPdf } = await import('./issue-report.ts');
      return await written(output, only('report', await issueReportPdf(file)));
    }
    if (bcf) return { state: 'ready', products: await unpackBcf(file, output), sheets: [], note: '' };
    const found = await detectContent(head);
    if (found.kind !== kind && !picture)
      throw new Unfit(
        `This file is named as ${FILE_KIND_NOUN[kind]}, but its content is not one. It is kept as it is; deliver the right file as the next version.`,
      );
    progress({ state: 'preparing' });
    const { products, sheets, note } = sharedPages
      ? await shareCopy(file, sharedPages)
      : markups
        ? await markedCopy(file, markups)
        : readMarks
          ? await marksOf(file, readMarks)
          : recognise
            ? await recognised(file, recognise, layouts)
            : compare
              ? await compared(file, task.beside!, compare)
              : report
                ? await reported(file, task.beside!, report)
                : picture
                  ? await cleanPicture(file)
                  : await PREPARE[kind](file, layouts);
    return await written(output, { products, sheets, note });
  } catch (error) {
    const note = sentence(error);
    return note === undefined ? { state: 'unsound', reason: String(error) } : { state: 'failed', note };
  }
}

async function written(output: string, { products, sheets, note }: Prepared): Promise<PreparationAnswer> {
  for (const [name, bytes] of Object.entries(products)) await fs.writeFile(path.join(output, name), bytes);
  return { state: 'ready', products: Object.keys(products), sheets, note };
}

async function answered(question: ModelQuestion, output: string): Promise<PreparationAnswer> {
  const { findInModels } = await import('./prepared-models.ts');
  const found = await findInModels(question);
  return written(output, only('found', new TextEncoder().encode(JSON.stringify(found))));
}

/** Bytes that tell what a file is. */
const HEAD = 4096;

async function readHead(file: string): Promise<Uint8Array> {
  const handle = await fs.open(file);
  const { buffer, bytesRead } = await handle.read(new Uint8Array(HEAD), 0, HEAD, 0);
  await handle.close();
  return buffer.subarray(0, bytesRead);
}

/** What was foreseen says it in words; all else may have damaged more than this file. */
function sentence(error: unknown): string | undefined {
  if (error instanceof Unfit) return error.message;
  if (error instanceof CodedError) return fileError(error);
  const { name } = error as Error;
  if (name === 'PasswordException') return 'This PDF asks for a password. Save it without one and deliver it again.';
  if (name === 'InvalidPDFException') return 'This PDF is damaged and cannot be opened. Export it again.';
  return undefined;
}

const PREPARE: Record<FileKind, (file: string, layouts: readonly TaughtLayout[]) => Promise<Prepared>> = {
  async model(file) {
    const bytes = await fs.readFile(file);
    const { mediaType } = await detectContent(bytes);
    const prepared = await prepareModelFile(bytes, mediaType, webIfc);
    const { properties, ...toSend } = encodePrepared(prepared);
    const sent: Record<string, Uint8Array> = {};
    for (const [name, content] of Object.entries(toSend)) sent[name + COMPRESSED] = await compress(content);
    const { width, height, pixels } = drawThumbnail(prepared.scene);
    const { default: sharp } = await import('sharp');
    const thumbnail = await sharp(pixels, { raw: { width, height, channels: 4 } })
      .png()
      .toBuffer();
    return {
      products: { properties, thumbnail, position: positionOf(prepared), ...sent },
      sheets: [],
      note: prepared.table.notes.map(modelNote).join(' '),
    };
  },
  async drawing(file, layouts) {
    const { openPdf } = await import('./pdf.ts');
    const pdf = await openPdf(new Uint8Array(await fs.readFile(file)));
    const thumbnail = await pdf.drawPage(1, THUMBNAIL);
    const { sheets, vectors } = await pdf.read(layouts);
    return { products: { thumbnail, vectors }, sheets, note: '' };
  },
  async image(file) {
    const { default: sharp } = await import('sharp');
    // Its header alone: what it would take to decode is known before anything is decoded.
    const { width = 0, height = 0, format } = await sharp(file).metadata();
    if (!PICTURES.has(format)) throw new CodedError('no-picture');
    if (width * height > MOST_PIXELS) throw new CodedError('picture-too-large', { width, height });
    const { data } = await sharp(file, { limitInputPixels: MOST_PIXELS })
      .rotate()
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside' })
      .png()
      .toBuffer({ resolveWithObject: true });
    return { products: { thumbnail: data }, sheets: [{ page: 1, label: 'Picture', width, height }], note: '' };
  },
  async document() {
    return { products: {}, sheets: [], note: '' };
  },
};

/** Where it lies, for whoever asks that of many models at once. */
function positionOf({ table, bounds, scene }: PreparedModel): Uint8Array {
  const { lengthUnit, survey } = table;
  const box = isEmpty(bounds.elements) ? null : bounds.elements;
  const position: ModelPosition = { lengthUnit, survey, bounds: box, walls: wallDirection(scene) };
  return new TextEncoder().encode(JSON.stringify(position));
}

async function markedCopy(
  file: string,
  { list, as, pictures }: NonNullable<PreparationTask['markups']>,
): Promise<Prepared> {
  const { annotate } = await import('@kindred/core/markup/annotations/write-pdf');
  const { openPdf } = await import('@kindred/core/markup/annotations/read-pdf');
  const { placesOf } = await import('@kindred/core/markup/annotations/page-space');
  const { annotationsOf } = await import('@kindred/core/markup/annotations/of-markup');
  const { writeXfdf } = await import('@kindred/core/markup/annotations/xfdf');
  const bytes = await fs.readFile(file);
  const marks = annotationsOf(list, placesOf(await openPdf(bytes)));
  if (as === 'xfdf') return only('marked', new TextEncoder().encode(writeXfdf(marks)));
  const { pdf } = await annotate(bytes, marks, as !== 'pdf', pictures);
  if (typeof as === 'string') return only('marked', pdf);
  const { markupBook } = await import('./markup-book.ts');
  return only('marked', await markupBook(pdf, list, as));
}
const only = (name: string, bytes: Uint8Array): Prepared => ({ products: { [name]: bytes }, sheets: [], note: '' });

/** The markups of a PDF, or of an XFDF file onto the pages of this one. */
async function marksOf(file: string, { xfdf }: NonNullable<PreparationTask['readMarks']>): Promise<Prepared> {
  const { looseOf, openPdf } = await import('@kindred/core/markup/annotations/read-pdf');
  const { placesOf } = await import('@kindred/core/markup/annotations/page-space');
  const { hangReplies } = await import('@kindred/core/markup/annotations/annotation');
  const { readXfdf } = await import('@kindred/core/markup/annotations/xfdf');
  const { decodeText } = await import('@kindred/core/platform/decode-text');
  const pdf = await openPdf(await fs.readFile(file));
  const places = placesOf(pdf);
  const { marks, skipped } = xfdf
    ? readXfdf(decodeText(xfdf).text)
    : { marks: looseOf(pdf).map(({ loose }) => loose), skipped: [] };
  const hung = hangReplies(marks);
  const onPages = hung.filter(({ page }) => page <= places.length);
  const read: ReadMarks = { marks: onPages, places, left: skipped.length + hung.length - onPages.length };
  return only('marks', new TextEncoder().encode(JSON.stringify(read)));
}

async function recognised(file: string, page: number, layouts: readonly TaughtLayout[]): Promise<Prepared> {
  const { recognisePage } = await import('./recognise.ts');
  const found = await recognisePage(new Uint8Array(await fs.readFile(file)), page, layouts);
  return only('recognised', new TextEncoder().encode(JSON.stringify(found)));
}

async function compared(
  file: string,
  beside: string,
  { before, after, split }: NonNullable<PreparationTask['compare']>,
): Promise<Prepared> {
  const { comparePages } = await import('./compare.ts');
  const found = await comparePages({ ...before, path: beside }, { ...after, path: file }, split);
  return only('changes', new TextEncoder().encode(JSON.stringify(found)));
}

async function reported(file: string, beside: string, report: ComparisonReport): Promise<Prepared> {
  const [before, after] = [await fs.readFile(beside), await fs.readFile(file)];
  if (report.as === 'xlsx') {
    const { comparisonBook } = await import('./comparison-book.ts');
    return only('report', await comparisonBook(before, after, report));
  }
  const { comparisonPdf } = await import('./comparison-pdf.ts');
  return only('report', await comparisonPdf(before, after, report));
}

const PICTURE_SIDE = 1600;
/** SVG is drawn: whatever else it holds stays behind, as do the places and names that cameras write into photos. */
async function cleanPicture(file: string): Promise<Prepared> {
  const { default: sharp } = await import('sharp');
  const found = sharp(file, { limitInputPixels: MOST_PIXELS });
  const {
    width = 0,
    height = 0,
    format,
    hasAlpha,
  } = await found.metadata().catch(() => {
    throw new CodedError('no-picture');
  });
  if (format !== 'svg' && !PICTURES.has(format)) throw new CodedError('no-picture');
  if (width * height > MOST_PIXELS) throw new CodedError('picture-too-large', { width, height });
  // Pixels an inch at which the longer side of the drawing fills the picture.
  const density = Math.min(2400, Math.max(72, (72 * PICTURE_SIDE) / Math.max(1, width, height)));
  const drawn = sharp(file, { limitInputPixels: MOST_PIXELS, ...(format === 'svg' && { density }) })
    .rotate()
    .resize(PICTURE_SIDE, PICTURE_SIDE, { fit: 'inside', withoutEnlargement: true });
  return only('picture', await (hasAlpha || format === 'svg' ? drawn.png() : drawn.jpeg({ quality: 84 })).toBuffer());
}

async function shareCopy(file: string, pages: readonly number[]): Promise<Prepared> {
  const { sharedCopy } = await import('./shared-copy.ts');
  const shared = await sharedCopy(await fs.readFile(file), pages);
  const { openPdf } = await import('./pdf.ts');
  const thumbnail = await (await openPdf(shared.slice())).drawPage(pages[0] ?? 1, THUMBNAIL);
  return { products: { shared, 'shared-thumbnail': thumbnail }, sheets: [], note: '' };
}
