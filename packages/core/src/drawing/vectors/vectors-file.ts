/**
 * The vectors of all sheets of a drawing in one file: a table of where each page lies, then the pages, each by itself. A page is JSON of
 * what is little, then chains and circles as differences of hundredths of a point in bytes of seven bits, all of it deflated.
 */
import { CodedError } from '../../platform/coded-error.ts';
import type { Matrix } from './matrix.ts';
import { VectorColumns, type SheetVectors, type VectorStyle } from './sheet-vectors.ts';

const MAGIC = 0x3156534b; // “KSV1”
/** Steps a point: a hundredth of a point is 3.5 µm on paper. */
const STEPS = 100;

interface PageHead {
  width: number;
  height: number;
  styles: VectorStyle[];
  /** Text, then x, y, width, size in steps and the angle in ten-thousandths. */
  texts: [string, number, number, number, number, number][];
  pictures: Matrix[];
  cut: boolean;
  chains: number;
  circles: number;
}

/** Bytes that `pageAt` needs to find a page: the table of a file of `pages` pages. */
export const tableLength = (pages: number): number => 4 * (3 + pages);
/** Bytes of the beginning that say how many pages there are. */
export const HEAD_BYTES = 8;

/** Pages in the file, from its first `HEAD_BYTES`; throws `not-vectors`. */
export function pageCount(head: Uint8Array): number {
  const words = new DataView(head.buffer, head.byteOffset, head.byteLength);
  if (head.byteLength < HEAD_BYTES || words.getUint32(0, true) !== MAGIC) throw new CodedError('not-vectors');
  return words.getUint32(4, true);
}

/** Where page `page`, from 1, lies in the file: its first byte and how many. `table`: the first `tableLength` bytes. */
export function pageAt(table: Uint8Array, page: number): [offset: number, length: number] {
  const words = new DataView(table.buffer, table.byteOffset, table.byteLength);
  const start = words.getUint32(4 * (page + 1), true);
  return [start, words.getUint32(4 * (page + 2), true) - start];
}

/** Pages that `encodePage` made as the one file. */
export function joinPages(pages: readonly Uint8Array[]): Uint8Array {
  const table = tableLength(pages.length);
  const file = new Uint8Array(pages.reduce((sum, { length }) => sum + length, table));
  const words = new DataView(file.buffer);
  words.setUint32(0, MAGIC, true);
  words.setUint32(4, pages.length, true);
  let at = table;
  for (const [i, page] of pages.entries()) {
    words.setUint32(8 + 4 * i, at, true);
    file.set(page, at);
    at += page.length;
  }
  words.setUint32(8 + 4 * pages.length, at, true);
  return file;
}

export async function encodePage(vectors: SheetVectors): Promise<Uint8Array> {
  const { width, height, styles, texts, pictures, cut, starts, styleOf, points, circles } = vectors;
  const head: PageHead = {
    ...{ width, height, styles, pictures, cut },
    texts: texts.map(({ text, x, y, width: w, size, angle }) => [
      text,
      steps(x),
      steps(y),
      steps(w),
      steps(size),
      Math.round(angle * 10_000),
    ]),
    chains: styleOf.length,
    circles: circles.length / 4,
  };
  const json = new TextEncoder().encode(JSON.stringify(head));
  const bytes = new Writer(json.length + points.length * 2 + 64);
  bytes.number(json.length);
  bytes.all(json);
  let [x, y] = [0, 0];
  const move = (toX: number, toY: number): void => {
    bytes.difference(steps(toX) - x);
    bytes.difference(steps(toY) - y);
    [x, y] = [steps(toX), steps(toY)];
  };
  for (let chain = 0; chain < styleOf.length; chain++) {
    bytes.number(styleOf[chain]!);
    bytes.number(starts[chain + 1]! - starts[chain]!);
    for (let i = starts[chain]!; i < starts[chain + 1]!; i++) move(points[2 * i]!, points[2 * i + 1]!);
  }
  let before = 0;
  for (let i = 0; i < circles.length; i += 4) {
    move(circles[i]!, circles[i + 1]!);
    bytes.number(steps(circles[i + 2]!));
    bytes.number(circles[i + 3]! - before);
    before = circles[i + 3]!;
  }
  return through(bytes.result(), new CompressionStream('deflate-raw'));
}

export async function decodePage(page: Uint8Array): Promise<SheetVectors> {
  const bytes = new Reader(await through(page, new DecompressionStream('deflate-raw')));
  const { width, height, styles, texts, pictures, cut, chains, circles } = JSON.parse(
    new TextDecoder().decode(bytes.some(bytes.number())),
  ) as PageHead;
  const columns = new VectorColumns();
  let [x, y] = [0, 0];
  const move = (): void => {
    x += bytes.difference();
    y += bytes.difference();
  };
  for (let chain = 0; chain < chains; chain++) {
    const style = bytes.number();
    for (let left = bytes.number(); left > 0; left--) {
      move();
      columns.add(x / STEPS, y / STEPS);
    }
    columns.end(style);
  }
  const round = new Float32Array(4 * circles);
  let of = 0;
  for (let i = 0; i < round.length; i += 4) {
    move();
    round.set([x / STEPS, y / STEPS, bytes.number() / STEPS, (of += bytes.number())], i);
  }
  return {
    ...{ width, height, styles, pictures },
    ...columns.columns(),
    circles: round,
    cut,
    texts: texts.map(([text, tx, ty, w, size, angle]) => ({
      text,
      x: tx / STEPS,
      y: ty / STEPS,
      width: w / STEPS,
      size: size / STEPS,
      angle: angle / 10_000,
    })),
  };
}

const MOST_STEPS = 2 ** 30;
/** Far outside of any page is as good as its edge; what is no number is nowhere. */
const steps = (points: number): number =>
  Number.isNaN(points) ? 0 : Math.max(-MOST_STEPS, Math.min(MOST_STEPS, Math.round(points * STEPS)));

class Writer {
  private bytes: Uint8Array<ArrayBuffer>;
  private used = 0;
  constructor(capacity: number) {
    this.bytes = new Uint8Array(capacity);
  }
  private room(more: number): void {
    if (this.used + more <= this.bytes.length) return;
    const larger = new Uint8Array(2 * this.bytes.length + more);
    larger.set(this.bytes.subarray(0, this.used));
    this.bytes = larger;
  }
  all(bytes: Uint8Array): void {
    this.room(bytes.length);
    this.bytes.set(bytes, this.used);
    this.used += bytes.length;
  }
  /** A whole number from 0 to below 2³². */
  number(value: number): void {
    this.room(5);
    let rest = value >>> 0;
    while (rest > 127) {
      this.bytes[this.used++] = (rest & 127) | 128;
      rest >>>= 7;
    }
    this.bytes[this.used++] = rest;
  }
  difference(value: number): void {
    this.number((value << 1) ^ (value >> 31));
  }
  result(): Uint8Array<ArrayBuffer> {
    return this.bytes.subarray(0, this.used);
  }
}

class Reader {
  private at = 0;
  constructor(private readonly bytes: Uint8Array) {}
  some(length: number): Uint8Array {
    return this.bytes.subarray(this.at, (this.at += length));
  }
  number(): number {
    let [value, shift] = [0, 0];
    for (;;) {
      const byte = this.bytes[this.at++];
      if (byte === undefined) throw new CodedError('not-vectors');
      value |= (byte & 127) << shift;
      if (byte < 128) return value >>> 0;
      shift += 7;
    }
  }
  difference(): number {
    const value = this.number();
    return (value >>> 1) ^ -(value & 1);
  }
}

async function through(
  bytes: Uint8Array,
  stream: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  const writer = stream.writable.getWriter();
  const written = writer.write(bytes as Uint8Array<ArrayBuffer>).then(() => writer.close());
  const [result] = await Promise.all([new Response(stream.readable).arrayBuffer(), written]);
  return new Uint8Array(result);
}
