/** Opens a PDF within a worker. */
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { getDocument, PDFWorker, type PDFDocumentProxy } from 'pdfjs-dist';
import parserUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

/** pdf.js draws on canvases of a document; in a worker there are others. */
class Canvases {
  create(width: number, height: number) {
    const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas, context: canvas.getContext('2d') };
  }
  reset({ canvas }: { canvas: OffscreenCanvas }, width: number, height: number): void {
    canvas.width = Math.max(1, width);
    canvas.height = Math.max(1, height);
  }
  destroy({ canvas }: { canvas: OffscreenCanvas }): void {
    canvas.width = canvas.height = 0;
  }
}
/** Filters need a document: what they would do to colours (transfer maps) is left out. */
class NoFilters {
  addFilter = () => 'none';
  addHCMFilter = () => 'none';
  addAlphaFilter = () => 'none';
  addLuminosityFilter = () => 'none';
  addHighlightHCMFilter = () => 'none';
  destroy = () => undefined;
}

/** From an address, or a file of one's own; `folder`: address of what pdf.js needs besides its code. */
export async function openPdfHere(from: string | Blob, folder: string): Promise<PDFDocumentProxy> {
  const worker = PDFWorker.create({ port: new Worker(parserUrl, { type: 'module' }) as never });
  return getDocument({
    ...(typeof from === 'string' ? { url: new URL(from) } : { data: new Uint8Array(await from.arrayBuffer()) }),
    worker,
    ...pdfOptions(folder),
    useWorkerFetch: true,
    CanvasFactory: Canvases,
    FilterFactory: NoFilters,
    ownerDocument: { fonts: (self as unknown as { fonts: FontFaceSet }).fonts } as never,
  } as never).promise;
}
