/** Pictures of a place on a sheet. */
import type { SheetSource } from './table/sources.ts';
import type { SheetView, Size } from './table/view.ts';

/** What stands in a window on a page. */
export async function drawPlace(
  source: SheetSource,
  page: number,
  view: SheetView,
  size: Size,
): Promise<HTMLCanvasElement> {
  const bitmap = await source.draw(page, view, [...size], 1, new AbortController().signal);
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = size;
  canvas.getContext('2d')!.drawImage(bitmap!, 0, 0);
  bitmap!.close();
  return canvas;
}

/** The view that has a point in its middle. */
export const around = ([x, y]: readonly [number, number], zoom: number, [width, height]: Size): SheetView => ({
  ...{ x: width / 2 - x * zoom, y: height / 2 - y * zoom, zoom, turn: 0 },
});

export const asPng = (canvas: HTMLCanvasElement): Promise<Blob> =>
  new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.')))),
  );
