/** A picture of two sheets on each other: what both have in grey, what went and what came in a colour of its own, each change framed and numbered. */
import { CHANGE_MARKS } from '@kindred/core/compare/change-marks';
import { boxOnAfter, type SheetChange, type SheetComparison } from '@kindred/core/compare/compare-sheets';
import type { Canvas } from '@napi-rs/canvas';
import { drawPage, type Drawn } from './draw-page.ts';

/** The longer side, pixels. */
const SIDE = 2400;
type Colour = readonly [number, number, number];
const [REMOVED, ADDED]: readonly Colour[] = [
  [181, 76, 44],
  [20, 112, 106],
];
export async function drawOverlay(
  before: Drawn,
  after: Drawn,
  { similarity, changes }: SheetComparison,
): Promise<Buffer> {
  const page = await after.pdf.getPage(after.page);
  const { width, height } = page.getViewport({ scale: 1 });
  const scale = SIDE / Math.max(width, height);
  const size = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))] as const;
  const [a, b, c, d, e, f] = similarity.matrix;
  const was = await drawPage(before, size, [a * scale, b * scale, c * scale, d * scale, e * scale, f * scale]);
  const is = await drawPage(after, size, [scale, 0, 0, scale, 0, 0]);
  const canvas = blended(was, is);
  frame(
    canvas,
    changes.map((change) => ({ ...change, box: boxOnAfter(change, similarity) })),
    scale,
  );
  return canvas.encode('png');
}

/** Where both are dark grey; where one is, its colour. */
function blended(before: Canvas, after: Canvas): Canvas {
  const { width, height } = after;
  const was = before.getContext('2d').getImageData(0, 0, width, height).data;
  const context = after.getContext('2d');
  const picture = context.getImageData(0, 0, width, height);
  const is = picture.data;
  const ink = (pixels: Uint8ClampedArray, i: number): number =>
    1 - (0.3 * pixels[i]! + 0.59 * pixels[i + 1]! + 0.11 * pixels[i + 2]!) / 255;
  for (let i = 0; i < is.length; i += 4) {
    const [old, now] = [ink(was, i), ink(is, i)];
    const both = Math.min(old, now);
    const [gone, come] = [old - both, now - both];
    for (let k = 0; k < 3; k++) is[i + k] = 255 - 150 * both - gone * (255 - REMOVED![k]!) - come * (255 - ADDED![k]!);
    is[i + 3] = 255;
  }
  context.putImageData(picture, 0, 0);
  return after;
}

function frame(canvas: Canvas, changes: readonly SheetChange[], scale: number): void {
  const context = canvas.getContext('2d');
  context.lineWidth = 2;
  context.font = '600 18px sans-serif';
  changes.forEach(({ kind, box, routine }, i) => {
    if (routine) return;
    const [x0, y0, x1, y1] = box.map((value) => value * scale) as unknown as SheetChange['box'];
    const { colour, sign } = CHANGE_MARKS[kind];
    context.strokeStyle = context.fillStyle = colour;
    context.strokeRect(x0 - 6, y0 - 6, x1 - x0 + 12, y1 - y0 + 12);
    context.fillText(`${sign} ${i + 1}`, x0 - 6, y0 - 11);
  });
}
