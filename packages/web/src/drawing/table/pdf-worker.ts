/** Opens a PDF and draws parts of its pages, in a worker: the page of the browser goes on meanwhile. */
import { expose, transfer } from 'comlink';
import type { PDFDocumentProxy, RenderTask } from 'pdfjs-dist';
import { openPdfHere } from './open-pdf-here.ts';

export interface SheetLayer {
  id: string;
  name: string;
  visible: boolean;
}

let pdf: PDFDocumentProxy | undefined;
let shown: OptionalContentConfig | undefined;
type OptionalContentConfig = Awaited<ReturnType<PDFDocumentProxy['getOptionalContentConfig']>>;
const running = new Map<number, RenderTask>();

const source = {
  async open(from: string | Blob, folder: string): Promise<void> {
    pdf = await openPdfHere(from, folder);
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
