/** Compares two PDFs beside the page, without sending them anywhere. */
import { compareScans, type ScannedPage } from '@kindred/core/compare/compare-scans';
import { compareSheets, isScan, type SheetComparison } from '@kindred/core/compare/compare-sheets';
import { matchPages, sheetOfSet, type SheetOfSet } from '@kindred/core/compare/match-pages';
import { numbered, type NumberedComparison } from '@kindred/core/compare/numbered';
import { readPageText } from '@kindred/core/drawing/page-text';
import { readVectors } from '@kindred/core/drawing/vectors/read-vectors';
import { expose } from 'comlink';
import { OPS, type PDFDocumentProxy } from 'pdfjs-dist';
import { openPdfHere } from '../drawing/table/open-pdf-here.ts';

export interface PagePair {
  before: number | null;
  after: number | null;
  name: string;
  split: boolean;
}
/** As it is handed over: a similarity by its four numbers. */
export interface ComparedPages extends Omit<NumberedComparison, 'similarity'> {
  similarity: [a: number, b: number, e: number, f: number];
}

let files: [before: PDFDocumentProxy, after: PDFDocumentProxy];

const comparing = {
  /** Opens both, and says which page of one is which of the other; rejects as pdf.js does. */
  async open(before: Blob, after: Blob, folder: string): Promise<PagePair[]> {
    files = [await openPdfHere(before, folder), await openPdfHere(after, folder)];
    const pairs = matchPages(await sheetsOf(files[0]), await sheetsOf(files[1]));
    return pairs.map(({ before: was, after: is, split = false }) => {
      const { number, title, page } = (is ?? was)!;
      const name = [number, title].filter(Boolean).join(' ') || `Page ${page}`;
      return { before: was?.page ?? null, after: is?.page ?? null, name, split };
    });
  },
  async compare(before: number, after: number, split: boolean): Promise<ComparedPages> {
    const [was, is] = [await vectorsOf(files[0], before), await vectorsOf(files[1], after)];
    const found: SheetComparison =
      isScan(was) || isScan(is)
        ? await compareScans(await scanned(files[0], before), await scanned(files[1], after))
        : compareSheets(was, is);
    const { a, b, e, f } = found.similarity;
    return { ...numbered(found, split), similarity: [a, b, e, f] };
  },
};
export type FilesWorker = typeof comparing;
expose(comparing);

async function sheetsOf(pdf: PDFDocumentProxy): Promise<SheetOfSet[]> {
  const sheets: SheetOfSet[] = [];
  for (let page = 1; page <= pdf.numPages; page++) {
    const loaded = await pdf.getPage(page);
    const { items } = await loaded.getTextContent();
    sheets.push(sheetOfSet(page, readPageText(loaded, items)));
    loaded.cleanup();
  }
  return sheets;
}

async function vectorsOf(pdf: PDFDocumentProxy, page: number) {
  const loaded = await pdf.getPage(page);
  const { items } = await loaded.getTextContent();
  const vectors = await readVectors(loaded, OPS as unknown as Record<string, number>, items);
  loaded.cleanup();
  return vectors;
}

async function scanned(pdf: PDFDocumentProxy, page: number): Promise<ScannedPage> {
  const loaded = await pdf.getPage(page);
  const { width, height } = loaded.getViewport({ scale: 1 });
  return {
    ...{ width, height },
    async draw(scale, ...size) {
      const canvas = new OffscreenCanvas(...size);
      const context = canvas.getContext('2d', { alpha: false })!;
      await loaded.render({
        canvas: canvas as never,
        canvasContext: context as never,
        viewport: loaded.getViewport({ scale }),
        background: '#FFFFFF',
      }).promise;
      return context.getImageData(0, 0, ...size).data;
    },
  };
}
