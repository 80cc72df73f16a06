/** Opens a PDF and draws parts of its pages, in a worker: the page of the browser goes on meanwhile. */
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { expose, transfer } from 'comlink';
import { getDocument, PDFWorker, type PDFDocumentProxy, type RenderTask } from 'pdfjs-dist';
import parserUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

export interface SheetLayer {
  id: string;
  name: string;
  visible: boolean;
}

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

let pdf: PDFDocumentProxy | undefined;
let shown: OptionalContentConfig | undefined;
type OptionalContentConfig = Awaited<ReturnType<PDFDocumentProxy['getOptionalContentConfig']>>;
const running = new Map<number, RenderTask>();

const source = {
  async open(address: string, folder: string): Promise<void> {
    const worker = PDFWorker.create({ port: new Worker(parserUrl, { type: 'module' }) as never });
    pdf = await getDocument({
      url: new URL(address),
      worker,
      ...pdfOptions(folder),
      useWorkerFetch: true,
      CanvasFactory: Canvases,
      FilterFactory: NoFilters,
      ownerDocument: { fonts: (self as unknown as { fonts: FontFaceSet }).fonts } as never,
    } as never).promise;
    shown = await pdf.getOptionalContentConfig();
  },

  /** The layers of the drawing, where it has any, in its own order. */
  layers(): SheetLayer[] {
    const groups = [...(shown as unknown as Iterable<[string, { name: string | null; visible: boolean }]>)];
    return groups.map(([id, { name, visible }]) => ({ id, name: name ?? '', visible }));
  },

  showLayer: (id: string, visible: boolean): void => shown!.setVisibility(id, visible),

  async size(page: number): Promise<[number, number]> {
    const { width, height } = (await pdf!.getPage(page)).getViewport({ scale: 1 });
    return [width, height];
  },

  /** `map`: from the page to the picture of `width` × `height` pixels; undefined where it was cancelled. */
  async draw(id: number, page: number, map: number[], width: number, height: number): Promise<ImageBitmap | undefined> {
    const loaded = await pdf!.getPage(page);
    const canvas = new OffscreenCanvas(width, height);
    const viewport = loaded.getViewport({ scale: 1 });
    const task = loaded.render({
      canvas: canvas as never,
      canvasContext: canvas.getContext('2d', { alpha: false }) as never,
      viewport,
      transform: map,
      optionalContentConfigPromise: Promise.resolve(shown!),
      background: '#FFFFFF',
    });
    running.set(id, task);
    try {
      await task.promise;
    } catch (error) {
      if ((error as Error).name !== 'RenderingCancelledException') throw error;
      return undefined;
    } finally {
      running.delete(id);
    }
    const picture = canvas.transferToImageBitmap();
    return transfer(picture, [picture]);
  },

  cancel: (id: number): void => running.get(id)?.cancel(),
};
export type PdfWorkerSource = typeof source;
expose(source);
