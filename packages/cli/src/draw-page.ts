/** A page of a PDF as a picture. */
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';

export interface Drawn {
  pdf: PDFDocumentProxy;
  page: number;
}
/** `transform`: from points of the page as displayed to pixels. */
export async function drawPage(
  { pdf, page }: Drawn,
  [width, height]: readonly [number, number],
  transform: number[],
): Promise<Canvas> {
  const canvas = createCanvas(width, height);
  const loaded = await pdf.getPage(page);
  await loaded.render({
    canvas: canvas as never,
    canvasContext: canvas.getContext('2d') as never,
    viewport: loaded.getViewport({ scale: 1 }),
    transform,
    background: '#FFFFFF',
  }).promise;
  return canvas;
}
