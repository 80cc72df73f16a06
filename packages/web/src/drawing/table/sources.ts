/** Files of which any part of any page can be drawn at any scale. */
import { wrap } from 'comlink';
import type { PdfWorkerSource, SheetLayer } from './pdf-worker.ts';
import { matrixOf, type SheetView, type Size } from './view.ts';

export interface SheetSource {
  /** Width and height in points, as displayed. */
  size(page: number): Promise<[number, number]>;
  /**
   * What a window of `window` pixels shows of a page, `ratio` pixels of the picture for each of its own; undefined where `signal` ended it.
   */
  draw(
    page: number,
    view: SheetView,
    window: Size,
    ratio: number,
    signal: AbortSignal,
  ): Promise<ImageBitmap | undefined>;
  /** Layers that can be shown and hidden. */
  layers(): Promise<SheetLayer[]>;
  showLayer(id: string, visible: boolean): Promise<void>;
  close(): void;
}

const mapOf = (view: SheetView, ratio: number): number[] => matrixOf(view).map((value) => value * ratio);
const pixels = ([width, height]: Size, ratio: number): [number, number] => [
  Math.max(1, Math.ceil(width * ratio)),
  Math.max(1, Math.ceil(height * ratio)),
];

let last = 0;
export async function openPdf(from: string | Blob): Promise<SheetSource> {
  const worker = new Worker(new URL('./pdf-worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<PdfWorkerSource>(worker);
  try {
    await remote.open(
      typeof from === 'string' ? new URL(from, location.href).href : from,
      new URL('/pdfjs', location.href).href,
    );
  } catch (error) {
    worker.terminate();
    throw error;
  }
  return {
    size: (page) => remote.size(page),
    async draw(page, view, window, ratio, signal) {
      if (signal.aborted) return undefined;
      const id = ++last;
      signal.addEventListener('abort', () => void remote.cancel(id), { once: true });
      return remote.draw(id, page, mapOf(view, ratio), ...pixels(window, ratio));
    },
    layers: () => remote.layers(),
    showLayer: (id, visible) => remote.showLayer(id, visible),
    close: () => worker.terminate(),
  };
}

export async function openPicture(url: string): Promise<SheetSource> {
  const picture = new Image();
  picture.src = url;
  await picture.decode();
  return {
    size: () => Promise.resolve([picture.naturalWidth, picture.naturalHeight]),
    draw(_page, view, window, ratio) {
      const canvas = new OffscreenCanvas(...pixels(window, ratio));
      const context = canvas.getContext('2d')!;
      context.setTransform(...(mapOf(view, ratio) as [number, number, number, number, number, number]));
      context.drawImage(picture, 0, 0);
      return Promise.resolve(canvas.transferToImageBitmap());
    },
    layers: () => Promise.resolve([]),
    showLayer: () => Promise.resolve(),
    close: () => undefined,
  };
}
