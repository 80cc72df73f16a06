import { readPageText } from '@kindred/core/drawing/page-text';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { readTitleBlock } from '@kindred/core/drawing/title-block';
import { createCanvas } from '@napi-rs/canvas';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { PreparedSheet } from '../register/sheets.ts';
import { PDFJS } from '../places.ts';

/** Points. A damaged file may name any number; the largest page that PDF knows has 14,400 units of at most 75,000 points. */
const pageLength = (points: number): number => (points > 0 ? Math.min(points, 1e9) : 1);

/** Opens a PDF without running anything in it; rejects with PasswordException or InvalidPDFException. */
export async function openPdf(data: Uint8Array) {
  const pdf = await getDocument({
    data,
    ...pdfOptions(PDFJS),
  }).promise;
  return {
    async sheets(): Promise<PreparedSheet[]> {
      const labels = (await pdf.getPageLabels()) ?? [];
      const sheets: PreparedSheet[] = [];
      for (let page = 1; page <= pdf.numPages; page++) {
        const loaded = await pdf.getPage(page);
        const { width, height } = loaded.getViewport({ scale: 1 });
        const label = labels[page - 1];
        sheets.push({
          page,
          label: label && label !== String(page) ? label : `Sheet ${page}`,
          width: pageLength(width),
          height: pageLength(height),
          titleBlock: readTitleBlock(await readPageText(loaded)),
        });
        loaded.cleanup();
      }
      return sheets;
    },
    /** PNG of a page within a square of `side` pixels. */
    async drawPage(number: number, side: number): Promise<Uint8Array> {
      const page = await pdf.getPage(number);
      const { width, height } = page.getViewport({ scale: 1 });
      const viewport = page.getViewport({ scale: side / Math.max(width, height) });
      const canvas = createCanvas(Math.max(1, Math.round(viewport.width)), Math.max(1, Math.round(viewport.height)));
      await page.render({
        canvas: canvas as never,
        canvasContext: canvas.getContext('2d') as never,
        viewport,
        background: '#FFFFFF',
      }).promise;
      return canvas.encode('png');
    },
  };
}
