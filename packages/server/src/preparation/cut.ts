/** Pictures of places on a sheet. */
import { createCanvas, type Canvas } from '@napi-rs/canvas';

/** A box of the page with some of what stands around it. `size`: of the page, points; `picture`: pixels. */
export function cut(
  sheet: Canvas,
  [x, y, w, h]: readonly [number, number, number, number],
  [width, height]: readonly [number, number],
  [across, down]: readonly [number, number],
): Canvas {
  const scale = sheet.width / width;
  const wide = Math.max(w * 1.6, h * 1.6 * (across / down), 180);
  const high = (wide * down) / across;
  const left = Math.max(0, Math.min(width - wide, x + w / 2 - wide / 2));
  const top = Math.max(0, Math.min(height - high, y + h / 2 - high / 2));
  const picture = createCanvas(across, down);
  const context = picture.getContext('2d');
  context.fillStyle = '#fff';
  context.fillRect(0, 0, across, down);
  context.drawImage(sheet, left * scale, top * scale, wide * scale, high * scale, 0, 0, across, down);
  return picture;
}
