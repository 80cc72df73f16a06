import { comparePictures } from '@kindred/core/compare/compare-pictures';
import { mappedBox, type SheetComparison } from '@kindred/core/compare/compare-sheets';
import { inkOf, type InkPage } from '@kindred/core/compare/ink';
import { Similarity } from '@kindred/core/compare/similarity';
import { drawPage, type Drawn } from './draw-page.ts';

/** Pixels a point: 150 dots an inch, less for paper that would have more pixels than this. */
const SCALE = 150 / 72;
const MOST_PIXELS = 24_000_000;
/** Pages of which less than this part lies on each other have nothing in common. */
const UNLIKE = 0.3;

/** Sheets of which one at least is a picture: by their ink. */
export async function compareScans(before: Drawn, after: Drawn): Promise<SheetComparison> {
  const sizes = [await sizeOf(before), await sizeOf(after)] as const;
  const largest = Math.max(...sizes.map(([width, height]) => width * height));
  const scale = Math.min(SCALE, Math.sqrt(MOST_PIXELS / largest));
  const found = comparePictures(await inkOn(before, sizes[0], scale), await inkOn(after, sizes[1], scale));
  const { a, b, e, f } = found.similarity;
  const similarity = new Similarity(a, b, e / scale, f / scale);
  const unlike = found.common < UNLIKE;
  return {
    similarity,
    unlike,
    pictures: false,
    changes: unlike
      ? []
      : found.changes.map(({ kind, box }) => {
          const there = inPoints(box, scale);
          return { kind, box: kind === 'removed' ? mappedBox(there, similarity.inverse) : there };
        }),
  };
}

type Size = readonly [width: number, height: number];
async function sizeOf({ pdf, page }: Drawn): Promise<Size> {
  const { width, height } = (await pdf.getPage(page)).getViewport({ scale: 1 });
  return [width, height];
}
async function inkOn(drawn: Drawn, [width, height]: Size, scale: number): Promise<InkPage> {
  const size = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))] as const;
  const canvas = await drawPage(drawn, size, [scale, 0, 0, scale, 0, 0]);
  return inkOf(canvas.getContext('2d').getImageData(0, 0, ...size).data, ...size);
}
const inPoints = ([x0, y0, x1, y1]: readonly [number, number, number, number], scale: number) =>
  [x0 / scale, y0 / scale, x1 / scale, y1 / scale] as const;
