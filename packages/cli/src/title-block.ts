import { readPageText } from '@kindred/core/drawing/page-text';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { readTitleBlock, TITLE_BLOCK_FIELDS } from '@kindred/core/drawing/title-block';
import fs from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
type SheetText = { page: number } & Record<(typeof TITLE_BLOCK_FIELDS)[number], string | null>;

/** What the title block of each page says; null where nothing was found. */
export async function titleBlocks(file: string): Promise<SheetText[]> {
  const pdf = await getDocument({
    data: new Uint8Array(await fs.readFile(file)),
    ...pdfOptions(PDFJS),
  }).promise;
  const pages: SheetText[] = [];
  for (let page = 1; page <= pdf.numPages; page++) {
    const loaded = await pdf.getPage(page);
    const { items } = await loaded.getTextContent();
    const block = readTitleBlock(readPageText(loaded, items));
    const fields = Object.fromEntries(TITLE_BLOCK_FIELDS.map((field) => [field, block[field] || null]));
    pages.push({ page, ...fields } as SheetText);
    loaded.cleanup();
  }
  return pages;
}
