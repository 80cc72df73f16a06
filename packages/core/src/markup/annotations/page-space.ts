/** From the page as it is displayed (points, y down) to the page's own space: origin lower left, its rotation undone. */
import { PDFName, type PDFDocument, type PDFPage } from '@cantoo/pdf-lib';
import type { Point } from '../shapes.ts';
import { numberOf } from './pdf-values.ts';

export interface PagePlace {
  /** What of the page is displayed: left, lower, width, height in its own space. */
  box: [x: number, y: number, width: number, height: number];
  /** Degrees with the clock, a multiple of 90. */
  turn: number;
  /** Points of the display for one of the page's own. */
  unit: number;
}

export const placesOf = (pdf: PDFDocument): PagePlace[] => pdf.getPages().map(placeOf);

function placeOf(page: PDFPage): PagePlace {
  const [media, crop] = [page.getMediaBox(), page.getCropBox()];
  const [left, lower] = [Math.max(media.x, crop.x), Math.max(media.y, crop.y)];
  const right = Math.min(media.x + media.width, crop.x + crop.width);
  const upper = Math.min(media.y + media.height, crop.y + crop.height);
  const shown = right > left && upper > lower;
  return {
    box: shown ? [left, lower, right - left, upper - lower] : [media.x, media.y, media.width, media.height],
    turn: ((page.getRotation().angle % 360) + 360) % 360,
    unit: numberOf(page.node.lookup(PDFName.of('UserUnit'))) ?? 1,
  };
}

export function toPageSpace({ box: [x, y, width, height], turn, unit }: PagePlace, [dx, dy]: Readonly<Point>): Point {
  const [across, down] = [dx / unit, dy / unit];
  switch (turn) {
    case 90:
      return [x + down, y + across];
    case 180:
      return [x + width - across, y + down];
    case 270:
      return [x + width - down, y + height - across];
    default:
      return [x + across, y + height - down];
  }
}

/** The way back: from the page's own space to where it is displayed. */
export function fromPageSpace({ box: [x, y, width, height], turn, unit }: PagePlace, [px, py]: Readonly<Point>): Point {
  const [right, up] = [px - x, py - y];
  const at: Point =
    turn === 90
      ? [up, right]
      : turn === 180
        ? [width - right, up]
        : turn === 270
          ? [height - up, width - right]
          : [right, height - up];
  return [at[0] * unit, at[1] * unit];
}
