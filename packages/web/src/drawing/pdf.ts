import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import * as pdfjs from 'pdfjs-dist';
import workerUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import type { PDFDocumentProxy, RenderTask } from 'pdfjs-dist';

pdfjs.GlobalWorkerOptions.workerSrc = workerUrl;

/** A drawing of which any part of any page can be drawn at any scale. */
export interface SheetSource {
  /** Width and height in points, as displayed. */
  size(page: number): Promise<[number, number]>;
  /** Draws the part of a page that begins at (x, y) points, `scale` pixels a point, onto the whole canvas. */
  draw(
    page: number,
    canvas: HTMLCanvasElement,
    x: number,
    y: number,
    scale: number,
    signal: AbortSignal,
  ): Promise<void>;
  close(): void;
}

export async function openPdf(url: string): Promise<SheetSource> {
  const loading = pdfjs.getDocument({
    url,
    ...pdfOptions('/pdfjs'),
  });
  const pdf: PDFDocumentProxy = await loading.promise;
  return {
    async size(page) {
      const { width, height } = (await pdf.getPage(page)).getViewport({ scale: 1 });
      return [width, height];
    },
    async draw(page, canvas, x, y, scale, signal) {
      const loaded = await pdf.getPage(page);
      if (signal.aborted) return;
      const viewport = loaded.getViewport({ scale, offsetX: -x * scale, offsetY: -y * scale });
      const task: RenderTask = loaded.render({ canvas, viewport, background: '#FFFFFF' });
      signal.addEventListener('abort', () => task.cancel(), { once: true });
      await task.promise.catch((error: Error) => {
        if (error.name !== 'RenderingCancelledException') throw error;
      });
    },
    close: () => void loading.destroy(),
  };
}

export async function openPicture(url: string): Promise<SheetSource> {
  const picture = new Image();
  picture.src = url;
  await picture.decode();
  return {
    async size() {
      return [picture.naturalWidth, picture.naturalHeight];
    },
    async draw(_page, canvas, x, y, scale) {
      const context = canvas.getContext('2d')!;
      context.fillStyle = '#FFFFFF';
      context.fillRect(0, 0, canvas.width, canvas.height);
      context.setTransform(scale, 0, 0, scale, -x * scale, -y * scale);
      context.drawImage(picture, 0, 0);
      context.resetTransform();
    },
    close: () => undefined,
  };
}
