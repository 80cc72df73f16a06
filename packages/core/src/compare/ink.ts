/** Pages as pictures: where there is ink on them. */

export interface InkPage {
  width: number;
  height: number;
  /** 1 where there is ink, row by row from above. */
  ink: Uint8Array;
}

/** Less than this darker than the paper is no ink: shades of a scan. */
const LEAST_CONTRAST = 40;
/** Of the way from the paper to the darkest ink. */
const PART = 0.4;

/** From pixels as a canvas has them; the paper may be grey or yellow. */
export function inkOf(pixels: ArrayLike<number>, width: number, height: number): InkPage {
  const count = width * height;
  const light = new Uint8Array(count);
  const histogram = new Uint32Array(256);
  for (let i = 0; i < count; i++) {
    light[i] = 0.3 * pixels[4 * i]! + 0.59 * pixels[4 * i + 1]! + 0.11 * pixels[4 * i + 2]!;
    histogram[light[i]!]!++;
  }
  const paper = lightestOften(histogram);
  const dark = darkest(histogram, count / 1000);
  const limit = paper - Math.max(LEAST_CONTRAST, PART * (paper - dark));
  return { width, height, ink: Uint8Array.from(light, (value) => Number(value < limit)) };
}

/** Paper is what most of a page is. */
function lightestOften(histogram: Uint32Array): number {
  let best = 255;
  for (let value = 254; value >= 60; value--) if (histogram[value]! > histogram[best]!) best = value;
  return best;
}
function darkest(histogram: Uint32Array, atLeast: number): number {
  let seen = 0;
  for (let value = 0; value < 256; value++) {
    seen += histogram[value]!;
    if (seen >= atLeast) return value;
  }
  return 255;
}

/** Ink and what is within `reach` pixels of it, along the axes. O(pixels). */
export function widened({ width, height, ink }: InkPage, reach: number): InkPage {
  const across = new Uint8Array(ink.length);
  const both = new Uint8Array(ink.length);
  spread(ink, across, width, height, 1, width, reach);
  spread(across, both, height, width, width, 1, reach);
  return { width, height, ink: both };
}
/** Along rows of `length` values that lie `step` apart, `rows` of them `next` apart. */
function spread(
  from: Uint8Array,
  to: Uint8Array,
  length: number,
  rows: number,
  step: number,
  next: number,
  reach: number,
): void {
  for (let row = 0; row < rows; row++) {
    let last = -Infinity;
    for (let i = 0; i < length; i++) {
      if (from[row * next + i * step]) last = i;
      if (i - last <= reach) to[row * next + i * step] = 1;
    }
    last = Infinity;
    for (let i = length - 1; i >= 0; i--) {
      if (from[row * next + i * step]) last = i;
      if (last - i <= reach) to[row * next + i * step] = 1;
    }
  }
}

/** Pixels with ink, spread over the page: x, y in turn. */
export function inkPoints({ width, ink }: InkPage, most: number): Float64Array {
  let count = 0;
  for (const one of ink) count += one;
  const every = Math.max(1, count / most);
  const points = new Float64Array(2 * Math.min(count, most));
  let [seen, used, wanted] = [0, 0, every / 2];
  for (let i = 0; i < ink.length && used < points.length; i++) {
    if (!ink[i]) continue;
    if (seen++ < wanted) continue;
    points[used++] = i % width;
    points[used++] = Math.floor(i / width);
    wanted += every;
  }
  return points.subarray(0, used);
}
