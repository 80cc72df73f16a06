/** The sheets of a PDF: what they say and draw. */
import { readPageText } from '@kindred/core/drawing/page-text';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import type { PageText } from '@kindred/core/drawing/title-block';
import type { Matrix } from '@kindred/core/drawing/vectors/matrix';
import { readVectors } from '@kindred/core/drawing/vectors/read-vectors';
import type { SheetVectors } from '@kindred/core/drawing/vectors/sheet-vectors';
import fs from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { getDocument, OPS, type PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';

const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

export const openPdf = async (file: string): Promise<PDFDocumentProxy> =>
  getDocument({ data: new Uint8Array(await fs.readFile(file)), ...pdfOptions(PDFJS) }).promise;

export interface SheetText {
  page: number;
  text: PageText;
}
/** Of each page in turn. */
export async function* readSheetTexts(pdf: PDFDocumentProxy): AsyncGenerator<SheetText> {
  for (let page = 1; page <= pdf.numPages; page++) {
    const loaded = await pdf.getPage(page);
    const { items } = await loaded.getTextContent();
    yield { page, text: readPageText(loaded, items) };
    loaded.cleanup();
  }
}

/** `view`: from the page's own points to the page as displayed. */
export async function readSheetVectors(
  pdf: PDFDocumentProxy,
  page: number,
): Promise<{ vectors: SheetVectors; view: Matrix }> {
  const loaded = await pdf.getPage(page);
  const { items } = await loaded.getTextContent();
  const vectors = await readVectors(loaded, OPS as unknown as Record<string, number>, items);
  const view = loaded.getViewport({ scale: 1 }).transform as unknown as Matrix;
  loaded.cleanup();
  return { vectors, view };
}
