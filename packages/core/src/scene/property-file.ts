/**
 * Properties of all elements in one file from which a few short reads fetch those of one element.
 * Layout, uint32 little-endian: element count, reference count, set count; starts of each element's references (count + 1);
 * set numbers; starts of each set's bytes (count + 1); then the sets as JSON in UTF-8.
 */
import { withOverrides, type PropertySet, type PropertyStore } from './ifc-properties.ts';

export function encodeProperties({ sets, numbers, starts }: PropertyStore): Uint8Array<ArrayBuffer> {
  const words = 3 + starts.length + numbers.length + sets.length + 1;
  // JSON in UTF-8 has at most three bytes for each of its UTF-16 units.
  const most = sets.reduce((sum, set) => sum + set.length * 3, 0);
  const file = new Uint8Array(words * 4 + most);
  const head = new Uint32Array(file.buffer, 0, words);
  head.set([starts.length - 1, numbers.length, sets.length]);
  head.set(starts, 3);
  head.set(numbers, 3 + starts.length);
  let at = 3 + starts.length + numbers.length;
  const encoder = new TextEncoder();
  let offset = 0;
  for (const set of sets) {
    head[at++] = offset;
    offset += encoder.encodeInto(set, file.subarray(words * 4 + offset)).written;
  }
  head[at] = offset;
  return file.slice(0, words * 4 + offset);
}

/** Reads `length` bytes at `offset` of a property file. */
export type ReadBytes = (offset: number, length: number) => Promise<Uint8Array>;

/** The property sets of the element in row `row` of the element table. Throws RangeError outside the table. */
export async function readElementProperties(read: ReadBytes, row: number): Promise<PropertySet[]> {
  const words = async (at: number, count: number): Promise<Uint32Array> => {
    const bytes = await read(at * 4, count * 4);
    return new Uint32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + count * 4));
  };
  const [elements = 0, references = 0, sets = 0] = await words(0, 3);
  if (!Number.isInteger(row) || row < 0 || row >= elements)
    throw new RangeError(`Row ${row} is outside the table of ${elements} elements`);
  const [first = 0, last = 0] = await words(3 + row, 2);
  const referencesAt = 3 + elements + 1;
  const numbers = last > first ? await words(referencesAt + first, last - first) : [];
  const setsAt = referencesAt + references;
  const blobsAt = (setsAt + sets + 1) * 4;
  const result: PropertySet[] = [];
  for (const number of numbers) {
    const [start = 0, end = 0] = await words(setsAt + number, 2);
    result.push(JSON.parse(new TextDecoder().decode(await read(blobsAt + start, end - start))) as PropertySet);
  }
  return withOverrides(result);
}

export interface DecodedProperties {
  sets: readonly PropertySet[];
  /** Of the sets of all rows, row after row, and where those of each row begin. */
  numbers: Uint32Array;
  starts: Uint32Array;
}

/** All of a property file at once; throws RangeError where it is cut short. */
export function decodeProperties(file: ArrayBuffer): DecodedProperties {
  const [elements = 0, references = 0, count = 0] = new Uint32Array(file, 0, 3);
  const starts = new Uint32Array(file, 12, elements + 1);
  const numbers = new Uint32Array(file, 12 + starts.byteLength, references);
  const setStarts = new Uint32Array(file, 12 + starts.byteLength + numbers.byteLength, count + 1);
  const first = 12 + starts.byteLength + numbers.byteLength + setStarts.byteLength;
  const decoder = new TextDecoder();
  const sets = Array.from({ length: count }, (_, i) => {
    const bytes = new Uint8Array(file, first + setStarts[i]!, setStarts[i + 1]! - setStarts[i]!);
    return JSON.parse(decoder.decode(bytes)) as PropertySet;
  });
  return { sets, numbers, starts };
}
