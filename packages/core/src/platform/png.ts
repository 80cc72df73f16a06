import { CodedError } from './coded-error.ts';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** What draws the picture; texts, profiles and whatever else others put into it are left out. */
const DRAWING_CHUNKS = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

/**
 * A PNG with only the chunks that draw it (PNG, third edition, 5), found without decoding any pixel. Throws CodedError `no-picture`
 * where the bytes are no whole PNG, `picture-too-large` where its header names more than `mostPixels`.
 */
export function cleanPng(bytes: Uint8Array, mostPixels: number): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 8 || SIGNATURE.some((byte, i) => bytes[i] !== byte)) throw new CodedError('no-picture');
  const kept: Uint8Array[] = [bytes.subarray(0, 8)];
  const names: string[] = [];
  for (let at = 8; names.at(-1) !== 'IEND';) {
    if (at + 12 > bytes.length) throw new CodedError('no-picture');
    const length = view.getUint32(at);
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const end = at + 12 + length;
    if (end > bytes.length || (names.length === 0) !== (name === 'IHDR')) throw new CodedError('no-picture');
    if (name === 'IHDR') requireSize(view, at + 8, length, mostPixels);
    names.push(name);
    if (DRAWING_CHUNKS.has(name)) kept.push(bytes.subarray(at, end));
    at = end;
  }
  if (!names.includes('IDAT')) throw new CodedError('no-picture');
  return joined(kept);
}

function requireSize(view: DataView, at: number, length: number, mostPixels: number): void {
  if (length !== 13) throw new CodedError('no-picture');
  const [width, height] = [view.getUint32(at), view.getUint32(at + 4)];
  if (!width || !height) throw new CodedError('no-picture');
  if (width * height > mostPixels) throw new CodedError('picture-too-large', { width, height, most: mostPixels });
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
