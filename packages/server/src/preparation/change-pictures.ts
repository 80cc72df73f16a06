/** Pictures of changes, as they were and as they are: each page is drawn once and cut. */
import { Similarity } from '@kindred/core/compare/similarity';
import { mappedBox } from '@kindred/core/compare/compare-sheets';
import type { ReportedSheet } from './messages.ts';
import { cut } from './cut.ts';
import { openPdf } from './pdf.ts';

/** Pixels of a picture, and of the longer side of the sheet that it is cut from. */
export const PICTURE = [320, 200] as const;
const SHEET = 3600;
/** More of them than this make a file too large to be opened. */
const MOST_PICTURES = 400;

export interface ChangePictures {
  before: Buffer;
  after: Buffer;
}

/** Of the changes of one sheet after another, in their order; none once there are too many. */
export async function openChangePictures(before: Uint8Array, after: Uint8Array) {
  const [was, is] = [await openPdf(new Uint8Array(before)), await openPdf(new Uint8Array(after))];
  let left = MOST_PICTURES;
  return async ({ beforePage, afterPage, similarity, changes }: ReportedSheet): Promise<ChangePictures[]> => {
    if (!left || !changes.length) return [];
    const [drawnBefore, drawnAfter] = [await was.draw(beforePage, SHEET), await is.draw(afterPage, SHEET)];
    const [sizeBefore, sizeAfter] = [await was.sizeOf(beforePage), await is.sizeOf(afterPage)];
    const back = new Similarity(...similarity).inverse;
    const pictures: ChangePictures[] = [];
    for (const { place } of changes.slice(0, left)) {
      const [x, y, w, h] = place;
      const [x0, y0, x1, y1] = mappedBox([x, y, x + w, y + h], back);
      pictures.push({
        before: await cut(drawnBefore, [x0, y0, x1 - x0, y1 - y0], sizeBefore, PICTURE).encode('png'),
        after: await cut(drawnAfter, place, sizeAfter, PICTURE).encode('png'),
      });
    }
    left -= pictures.length;
    return pictures;
  };
}
