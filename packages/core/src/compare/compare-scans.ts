/** Sheets of which one at least is a picture: by their ink. */
import { comparePictures } from './compare-pictures.ts';
import { mappedBox, type SheetComparison } from './compare-sheets.ts';
import { inkOf, type InkPage } from './ink.ts';
import { Similarity } from './similarity.ts';

export interface ScannedPage {
  /** Points, as displayed. */
  width: number;
  height: number;
  /** Its pixels, red, green, blue and opacity, at so many pixels a point. */
  draw(scale: number, width: number, height: number): Promise<ArrayLike<number>>;
}

/** Pixels a point: 150 dots an inch, less for paper that would have more pixels than this. */
const SCALE = 150 / 72;
const MOST_PIXELS = 24_000_000;
/** Pages of which less than this part lies on each other have nothing in common. */
const UNLIKE = 0.3;

export async function compareScans(before: ScannedPage, after: ScannedPage): Promise<SheetComparison> {
  const largest = Math.max(...[before, after].map(({ width, height }) => width * height));
  const scale = Math.min(SCALE, Math.sqrt(MOST_PIXELS / largest));
  const found = comparePictures(await inkOn(before, scale), await inkOn(after, scale));
  const { a, b, e, f } = found.similarity;
  const similarity = new Similarity(a, b, e / scale, f / scale);
  const unlike = found.common < UNLIKE;
  return {
    similarity,
    unlike,
    pictures: false,
    unread: false,
    changes: unlike
      ? []
      : found.changes.map(({ kind, box }) => {
          const there = inPoints(box, scale);
          return { kind, box: kind === 'removed' ? mappedBox(there, similarity.inverse) : there };
        }),
  };
}

async function inkOn({ width, height, draw }: ScannedPage, scale: number): Promise<InkPage> {
  const size = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))] as const;
  return inkOf(await draw(scale, ...size), ...size);
}
const inPoints = ([x0, y0, x1, y1]: readonly [number, number, number, number], scale: number) =>
  [x0 / scale, y0 / scale, x1 / scale, y1 / scale] as const;
