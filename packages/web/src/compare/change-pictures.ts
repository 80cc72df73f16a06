/** Pictures of a place on a sheet, as it was and as it is. */
import { mappedBox } from '@kindred/core/compare/compare-sheets';
import type { Place } from '@kindred/core/compare/numbered';
import type { Similarity } from '@kindred/core/compare/similarity';
import { drawPlace } from '../drawing/place-picture.ts';
import type { SheetSource } from '../drawing/table/sources.ts';
import { toWindow, type SheetView } from '../drawing/table/view.ts';

export interface PictureAsked {
  source: SheetSource;
  page: number;
  place: Place;
  /** Of the change, on that page: x0, y0, x1, y1 by piece. */
  ends: readonly number[];
  /** Any CSS colour. */
  colour: string;
}
/** Points around a place that are seen with it, at least. */
const LEAST = 120;
const AROUND = 1.7;
/** Pixels around what has no lines. */
const FRAME = 4;

/** The view that shows a place in the middle of a window, with some of what stands around it. */
export function viewOf([x, y, w, h]: Place, [width, height]: readonly [number, number]): SheetView {
  const zoom = Math.min(width / Math.max(w * AROUND, LEAST), height / Math.max(h * AROUND, (LEAST * height) / width));
  return { x: width / 2 - (x + w / 2) * zoom, y: height / 2 - (y + h / 2) * zoom, zoom, turn: 0 };
}

/** Where a place on the sheet after was on the one before. */
export function placeBefore([x, y, w, h]: Place, similarity: Similarity): Place {
  const [x0, y0, x1, y1] = mappedBox([x, y, x + w, y + h], similarity.inverse);
  return [x0, y0, x1 - x0, y1 - y0];
}

export async function pictureOf(
  { source, page, place, ends, colour }: PictureAsked,
  size: readonly [number, number],
): Promise<HTMLCanvasElement> {
  const view = viewOf(place, size);
  const canvas = await drawPlace(source, page, view, size);
  const context = canvas.getContext('2d')!;
  context.strokeStyle = colour;
  context.lineWidth = Math.max(1.5, size[0] / 260);
  context.beginPath();
  for (let i = 0; i < ends.length; i += 4) {
    context.moveTo(...toWindow(view, [ends[i]!, ends[i + 1]!]));
    context.lineTo(...toWindow(view, [ends[i + 2]!, ends[i + 3]!]));
  }
  if (!ends.length) {
    const [[x0, y0], [x1, y1]] = [
      toWindow(view, [place[0], place[1]]),
      toWindow(view, [place[0] + place[2], place[1] + place[3]]),
    ];
    context.rect(x0 - FRAME, y0 - FRAME, x1 - x0 + 2 * FRAME, y1 - y0 + 2 * FRAME);
  }
  context.stroke();
  return canvas;
}
