/** The heavy work on one file, in a process of its own. */
import { drawThumbnail } from '@kindred/core/scene/draw-thumbnail';
import { encodePrepared, prepareModel } from '@kindred/core/scene/prepare-model';
import { StepError } from '@kindred/core/scene/step-reader';
import { sniffFile, type FileKind } from '@kindred/core/register/file-kind';
import fs from 'node:fs/promises';
import path from 'node:path';
import type { FoundSheet } from '../drawing/service.ts';
import type { PreparationAnswer, PreparationTask } from './messages.ts';
import { webIfc } from './web-ifc.ts';

interface Prepared {
  products: Record<string, Uint8Array>;
  sheets: FoundSheet[];
  note: string;
}

/** A reason why a file cannot be prepared that the person who delivered it can act on. */
class Unfit extends Error {}

const NOUN: Record<FileKind, string> = {
  model: 'an IFC model',
  drawing: 'a PDF',
  image: 'a picture',
  document: 'a document',
};
const THUMBNAIL = 480;

export async function prepareFile(
  { kind, path: file, sharedPages, output }: PreparationTask,
  progress: (answer: PreparationAnswer) => void,
): Promise<PreparationAnswer> {
  try {
    const head = await readHead(file);
    if (!head.length) throw new Unfit('This file is empty.');
    const found = sniffFile(head);
    if (found.kind !== kind)
      throw new Unfit(
        `This file is named as ${NOUN[kind]}, but its content is not one. It is kept as it is; deliver the right file as the next version.`,
      );
    progress({ state: 'preparing' });
    const { products, sheets, note } = sharedPages ? await shareCopy(file, sharedPages) : await PREPARE[kind](file);
    for (const [name, bytes] of Object.entries(products)) await fs.writeFile(path.join(output, name), bytes);
    return { state: 'ready', products: Object.keys(products), sheets, note };
  } catch (error) {
    return { state: 'failed', note: sentence(kind, error) };
  }
}

async function readHead(file: string): Promise<Uint8Array> {
  const handle = await fs.open(file);
  const { buffer, bytesRead } = await handle.read(new Uint8Array(1024), 0, 1024, 0);
  await handle.close();
  return buffer.subarray(0, bytesRead);
}

function sentence(kind: FileKind, error: unknown): string {
  if (error instanceof Unfit || error instanceof StepError) return error.message;
  const { name, message } = error as Error;
  if (name === 'PasswordException') return 'This PDF asks for a password. Save it without one and deliver it again.';
  if (name === 'InvalidPDFException') return 'This PDF is damaged and cannot be opened. Export it again.';
  return `This file could not be read as ${NOUN[kind]} (${message.split('\n')[0]}). It is kept as it is.`;
}

const PREPARE: Record<FileKind, (file: string) => Promise<Prepared>> = {
  async model(file) {
    const bytes = await fs.readFile(file);
    const prepared = prepareModel(bytes, await webIfc());
    const { scene, elements, properties } = encodePrepared(prepared);
    const { width, height, pixels } = drawThumbnail(prepared.scene);
    const { default: sharp } = await import('sharp');
    const thumbnail = await sharp(pixels, { raw: { width, height, channels: 4 } })
      .png()
      .toBuffer();
    return { products: { scene, elements, properties, thumbnail }, sheets: [], note: prepared.table.notes.join(' ') };
  },
  async drawing(file) {
    const { openPdf } = await import('./pdf.ts');
    const pdf = await openPdf(new Uint8Array(await fs.readFile(file)));
    const thumbnail = await pdf.drawPage(1, THUMBNAIL);
    return { products: { thumbnail }, sheets: await pdf.sheets(), note: '' };
  },
  async image(file) {
    const { default: sharp } = await import('sharp');
    const picture = sharp(file, { limitInputPixels: 300_000_000 }).rotate();
    const { data, info } = await picture
      .clone()
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside' })
      .png()
      .toBuffer({ resolveWithObject: true });
    const { width = info.width, height = info.height } = await sharp(file).metadata();
    return { products: { thumbnail: data }, sheets: [{ page: 1, label: 'Picture', width, height }], note: '' };
  },
  async document() {
    return { products: {}, sheets: [], note: '' };
  },
};

/** A copy of a drawing with the same pages, of which only some are drawn: places on them stay the same. */
async function shareCopy(file: string, pages: readonly number[]): Promise<Prepared> {
  const { PDFDocument } = await import('pdf-lib');
  const source = await PDFDocument.load(await fs.readFile(file), { updateMetadata: false });
  const copy = await PDFDocument.create();
  const shown = new Set(pages.map((page) => page - 1));
  const copied = await copy.copyPages(
    source,
    [...shown].sort((a, b) => a - b),
  );
  for (const index of source.getPageIndices()) {
    if (shown.has(index)) copy.addPage(copied.shift()!);
    else {
      const { width, height } = source.getPage(index).getSize();
      copy.addPage([width, height]).setRotation(source.getPage(index).getRotation());
    }
  }
  const shared = await copy.save();
  const { openPdf } = await import('./pdf.ts');
  const thumbnail = await (await openPdf(shared.slice())).drawPage(pages[0] ?? 1, THUMBNAIL);
  return { products: { shared, 'shared-thumbnail': thumbnail }, sheets: [], note: '' };
}
