/**
 * A reader for STEP physical files (ISO 10303-21), made for IFC: one pass over the bytes finds every instance,
 * arguments are parsed only for the instances that are asked for.
 */
import { CodedError } from '../platform/coded-error.ts';
import { grown } from '../platform/grown.ts';
import {
  endsSection,
  isDigit,
  isSpace,
  nextStatement,
  skipBlank,
  skipComment,
  statementEnd,
} from './step-statements.ts';
import { decodeStepString } from './step-strings.ts';

export type StepValue = string | number | StepRef | StepEnum | StepTyped | StepValue[] | null;
export interface StepRef {
  ref: number;
}
export interface StepEnum {
  enum: string;
}
export interface StepTyped {
  type: string;
  value: StepValue;
}

/** A file that is no whole IFC file. */
export class StepError extends CodedError {
  constructor(code: 'empty' | 'no-step-file' | 'no-data-section' | 'cut-off') {
    super(code);
  }
}

const QUOTE = 0x27;
const SEMICOLON = 0x3b;
const HASH = 0x23;
const EQUALS = 0x3d;
const OPEN = 0x28;
const CLOSE = 0x29;
const COMMA = 0x2c;
const SLASH = 0x2f;
const STAR = 0x2a;
const DOLLAR = 0x24;
const DOT = 0x2e;

export interface StepFile {
  schema: string;
  application: string;
  bytes: Uint8Array;
  /** Instance numbers in file order, by upper-case entity name. */
  byType: Map<string, number[]>;
  /** Instance numbers in rising order … */
  ids: Uint32Array;
  /** … the byte offset of each one's entity name … */
  starts: Uint32Array;
  /** … and the place of that name, upper-case, among `types`. */
  typeNumbers: Uint16Array;
  types: string[];
  /** Where statements begin and end that cannot be read: start, end, start, end … */
  damage: number[];
  /** Where the data ends though the file does not say so: −1 where it does. */
  cutOffAt: number;
}

/**
 * Indexes the instances whose upper-case entity name `wanted` accepts. O(bytes), no copies.
 * Statements that cannot be read are passed over and told in `damage`. Throws StepError when the header or the data
 * section is missing, or when the file is cut off before anything wanted was said.
 */
export function indexStepFile(bytes: Uint8Array, wanted: (type: string) => boolean): StepFile {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65536));
  if (!/ISO-10303-21\s*;/.test(head.slice(0, 2048))) throw new StepError('no-step-file');
  const data = /\bDATA\s*;/.exec(head);
  if (!data) throw new StepError('no-data-section');

  const byType = new Map<string, number[]>();
  const instances = new InstanceList();
  const names = new TypeNames(wanted);
  const damage: number[] = [];
  const end = bytes.length;
  let at = data.index + data[0].length;
  let ended = false;
  while (!ended) {
    at = skipBlank(bytes, at);
    if (at >= end) break;
    if (bytes[at] !== HASH) {
      if (endsSection(bytes, at)) ended = true;
      else damage.push(at, (at = nextStatement(bytes, at)));
      continue;
    }
    const start = at;
    const after = statementEnd(bytes, start);
    if (after < 0) {
      damage.push(start, (at = nextStatement(bytes, start + 1)));
      continue;
    }
    let id = 0;
    for (at++; isDigit(bytes[at]!); at++) id = id * 10 + bytes[at]! - 0x30;
    while (isSpace(bytes[at]!) || bytes[at] === EQUALS) at++;
    const nameStart = at;
    while (bytes[at] !== OPEN) at++;
    const type = names.read(bytes, nameStart, at);
    if (type.wanted) {
      instances.add(id, nameStart, type.number);
      const list = byType.get(type.name);
      if (list) list.push(id);
      else byType.set(type.name, [id]);
    }
    at = after;
  }
  const cutOffAt = ended ? -1 : end;
  if (!ended && !byType.size) throw new StepError('cut-off');
  const schema = /FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'/.exec(head)?.[1] ?? '';
  const originating = /FILE_NAME\s*\(([\s\S]*?)\)\s*;\s*FILE_SCHEMA/.exec(head)?.[1] ?? '';
  const strings = [...originating.matchAll(/'((?:[^']|'')*)'/g)].map((match) => decodeStepString(match[1]!));
  return {
    schema,
    application: strings.at(-2) ?? '',
    bytes,
    byType,
    types: names.types,
    damage,
    cutOffAt,
    ...instances.sorted(),
  };
}

/** The arguments of an indexed instance, with its type; undefined when it is not indexed. */
export function readInstance(file: StepFile, id: number): { type: string; args: StepValue[] } | undefined {
  const place = placeOf(file, id);
  if (place < 0) return undefined;
  return { type: file.types[file.typeNumbers[place]!]!, args: readList(file.bytes, argumentAt(file, place, 0)) };
}

/** The upper-case entity name of an indexed instance. */
export function typeOf(file: StepFile, id: number): string | undefined {
  const place = placeOf(file, id);
  return place < 0 ? undefined : file.types[file.typeNumbers[place]!];
}

/** The arguments `from` to `to` (not included) of an indexed instance; those before are passed over unread. */
export function readArguments(file: StepFile, id: number, from: number, to: number): StepValue[] {
  const place = placeOf(file, id);
  if (place < 0) return [];
  const { bytes } = file;
  const cursor = argumentAt(file, place, from);
  const values: StepValue[] = [];
  while (values.length < to - from && cursor.at < bytes.length) {
    const c = bytes[cursor.at]!;
    if (c === CLOSE) break;
    if (c === COMMA || isSpace(c)) cursor.at++;
    else if (c === SLASH && bytes[cursor.at + 1] === STAR) cursor.at = skipComment(bytes, cursor.at);
    else values.push(readValue(bytes, cursor));
  }
  return values;
}

/** The instance numbers that one argument refers to, be it a reference or a list of them, in their order. */
export const readReferences = (file: StepFile, id: number, argument: number): number[] =>
  readReferenceLists(file, id, argument, 1)[0]!;

/** The same for `count` arguments side by side. */
export function readReferenceLists(file: StepFile, id: number, argument: number, count: number): number[][] {
  let list: number[] = [];
  const lists = [list];
  const place = placeOf(file, id);
  const { bytes } = file;
  const cursor = place < 0 ? { at: bytes.length } : argumentAt(file, place, argument);
  for (let depth = 0; cursor.at < bytes.length;) {
    const c = bytes[cursor.at]!;
    if (c === HASH) list.push(readNumber(bytes, cursor));
    else if (c === QUOTE) cursor.at = afterString(bytes, cursor.at);
    else if (c === SLASH && bytes[cursor.at + 1] === STAR) cursor.at = skipComment(bytes, cursor.at);
    else {
      cursor.at++;
      if (c === OPEN) depth++;
      else if (c === CLOSE && depth-- === 0) break;
      else if (c === COMMA && depth === 0) {
        if (lists.length === count) break;
        lists.push((list = []));
      }
    }
  }
  while (lists.length < count) lists.push([]);
  return lists;
}

/** Finds instances that say the same from one argument on, as programs write them that repeat a set for each element. */
export class Alike {
  private readonly firsts = new Map<number, { id: number; place: number; start: number; end: number }[]>();
  constructor(
    private readonly file: StepFile,
    private readonly from: number,
  ) {}

  /** The first instance asked for that is of the same type and has the same bytes in these arguments; `id` itself when it is the first. */
  firstOf(id: number): number {
    const { bytes, typeNumbers } = this.file;
    const place = placeOf(this.file, id);
    if (place < 0) return id;
    const start = argumentAt(this.file, place, this.from).at;
    const end = argumentsEnd(bytes, start);
    let hash = typeNumbers[place]!;
    for (let at = start; at < end; at++) hash = (Math.imul(hash, 31) + bytes[at]!) | 0;
    const firsts = this.firsts.get(hash);
    const same = firsts?.find(
      (first) =>
        typeNumbers[first.place] === typeNumbers[place] &&
        first.end - first.start === end - start &&
        sameBytes(bytes, first.start, start, end - start),
    );
    if (same) return same.id;
    const first = { id, place, start, end };
    if (firsts) firsts.push(first);
    else this.firsts.set(hash, [first]);
    return id;
  }
}

function sameBytes(bytes: Uint8Array, a: number, b: number, length: number): boolean {
  for (let i = 0; i < length; i++) if (bytes[a + i] !== bytes[b + i]) return false;
  return true;
}

/** Where argument `argument` of the instance at `place` begins, those before passed over unread. */
function argumentAt({ bytes, starts }: StepFile, place: number, argument: number): { at: number } {
  const cursor = { at: starts[place]! };
  while (cursor.at < bytes.length && bytes[cursor.at] !== OPEN) cursor.at++;
  cursor.at++;
  for (let passed = 0; passed < argument; passed++) skipArgument(bytes, cursor);
  return cursor;
}

/** Moves beyond the comma that ends an argument, or stops at the end of the list. */
function skipArgument(bytes: Uint8Array, cursor: { at: number }): void {
  for (let depth = 0; cursor.at < bytes.length; cursor.at++) {
    const c = bytes[cursor.at];
    if (c === QUOTE) cursor.at = afterString(bytes, cursor.at) - 1;
    else if (c === OPEN) depth++;
    else if (c === CLOSE && depth-- === 0) return;
    else if (c === COMMA && depth === 0) {
      cursor.at++;
      return;
    }
  }
}

/** Where the argument list ends that `at` stands in: at its closing parenthesis. */
function argumentsEnd(bytes: Uint8Array, at: number): number {
  const cursor = { at };
  while (cursor.at < bytes.length && bytes[cursor.at] !== CLOSE) skipArgument(bytes, cursor);
  return cursor.at;
}

/** The position after the quote that ends the string (or the part of it before a doubled quote) which begins at `at`. */
function afterString(bytes: Uint8Array, at: number): number {
  for (at++; at < bytes.length; at++) if (bytes[at] === QUOTE) return at + 1;
  return bytes.length;
}

/** The place of an instance in the columns of the index, −1 when it is not there. */
function placeOf({ ids }: StepFile, id: number): number {
  let low = 0;
  let high = ids.length - 1;
  while (low <= high) {
    const middle = (low + high) >>> 1;
    const found = ids[middle]!;
    if (found === id) return middle;
    if (found < id) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}

/** Growable columns of the index: ten bytes an instance. */
class InstanceList {
  private ids = new Uint32Array(1024);
  private starts = new Uint32Array(1024);
  private typeNumbers = new Uint16Array(1024);
  private length = 0;
  private rising = true;

  add(id: number, start: number, type: number): void {
    if (this.length === this.ids.length) {
      this.ids = grown(this.ids);
      this.starts = grown(this.starts);
      this.typeNumbers = grown(this.typeNumbers);
    }
    if (this.length && this.ids[this.length - 1]! >= id) this.rising = false;
    this.ids[this.length] = id;
    this.starts[this.length] = start;
    this.typeNumbers[this.length++] = type;
  }

  sorted(): Pick<StepFile, 'ids' | 'starts' | 'typeNumbers'> {
    const { length } = this;
    const ids = this.ids.subarray(0, length);
    const starts = this.starts.subarray(0, length);
    const typeNumbers = this.typeNumbers.subarray(0, length);
    if (this.rising) return { ids, starts, typeNumbers };
    const order = Uint32Array.from({ length }, (_, i) => i).sort((a, b) => ids[a]! - ids[b]!);
    return {
      ids: order.map((i) => ids[i]!),
      starts: order.map((i) => starts[i]!),
      typeNumbers: Uint16Array.from(order, (i) => typeNumbers[i]!),
    };
  }
}

const MOST_TYPES = 2 ** 16;

interface TypeName {
  name: string;
  wanted: boolean;
  number: number;
}

/** Turns entity names into upper-case strings without making one per instance: a cache keyed by length and hash. */
class TypeNames {
  readonly types: string[] = [];
  private readonly known = new Map<number, TypeName>();
  private readonly numbers = new Map<string, number>();
  constructor(private readonly wanted: (type: string) => boolean) {}

  read(bytes: Uint8Array, start: number, end: number): TypeName {
    while (end > start && isSpace(bytes[end - 1]!)) end--;
    let hash = end - start;
    for (let i = start; i < end; i++) hash = (Math.imul(hash, 31) + (bytes[i]! & 0xdf)) | 0;
    let entry = this.known.get(hash);
    if (!entry || !sameLetters(bytes, start, end, entry.name)) {
      entry = this.meet(asciiUpper(bytes, start, end));
      this.known.set(hash, entry);
    }
    return entry;
  }

  /** Some hundred names exist; of a file of nonsense that has more than there are numbers, the rest is not wanted. */
  private meet(name: string): TypeName {
    let number = this.numbers.get(name);
    const wanted = number !== undefined || (this.types.length < MOST_TYPES && this.wanted(name));
    if (wanted && number === undefined) this.numbers.set(name, (number = this.types.push(name) - 1));
    return { name, wanted, number: number ?? 0 };
  }
}

function sameLetters(bytes: Uint8Array, start: number, end: number, name: string): boolean {
  if (end - start !== name.length) return false;
  for (let i = 0; i < name.length; i++) {
    const c = bytes[start + i]!;
    if ((c >= 0x61 && c <= 0x7a ? c - 32 : c) !== name.charCodeAt(i)) return false;
  }
  return true;
}

function asciiUpper(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < end; i++) if (!isSpace(bytes[i]!)) text += String.fromCharCode(bytes[i]!);
  return text.toUpperCase();
}

function readList(bytes: Uint8Array, cursor: { at: number }): StepValue[] {
  const values: StepValue[] = [];
  while (cursor.at < bytes.length) {
    const c = bytes[cursor.at]!;
    if (c === CLOSE) {
      cursor.at++;
      return values;
    }
    if (c === COMMA || isSpace(c)) cursor.at++;
    else if (c === SLASH && bytes[cursor.at + 1] === STAR) cursor.at = skipComment(bytes, cursor.at);
    else values.push(readValue(bytes, cursor));
  }
  return values;
}

function readValue(bytes: Uint8Array, cursor: { at: number }): StepValue {
  const c = bytes[cursor.at]!;
  if (c === DOLLAR || c === STAR) {
    cursor.at++;
    return null;
  }
  if (c === QUOTE) return readString(bytes, cursor);
  if (c === OPEN) {
    cursor.at++;
    return readList(bytes, cursor);
  }
  if (c === HASH) return { ref: readNumber(bytes, cursor) };
  const start = cursor.at;
  if (c === DOT) {
    for (cursor.at++; cursor.at < bytes.length && bytes[cursor.at] !== DOT; cursor.at++);
    return { enum: asciiUpper(bytes, start + 1, cursor.at++) };
  }
  while (cursor.at < bytes.length && !isDelimiter(bytes[cursor.at]!)) cursor.at++;
  if (bytes[cursor.at] === OPEN) {
    const type = asciiUpper(bytes, start, cursor.at++);
    return { type, value: readList(bytes, cursor)[0] ?? null };
  }
  const text = asciiUpper(bytes, start, cursor.at);
  if (cursor.at === start) cursor.at++; // a stray byte: step over it
  const number = Number(text);
  return Number.isNaN(number) ? text : number;
}

/** The instance number behind the `#` at the cursor. */
function readNumber(bytes: Uint8Array, cursor: { at: number }): number {
  let number = 0;
  for (cursor.at++; isDigit(bytes[cursor.at]!); cursor.at++) number = number * 10 + bytes[cursor.at]! - 0x30;
  return number;
}

const isDelimiter = (c: number): boolean => c === COMMA || c === CLOSE || c === OPEN || c === SEMICOLON;

const latin1 = new TextDecoder('latin1');
const utf8 = new TextDecoder('utf-8', { fatal: true });

function readString(bytes: Uint8Array, cursor: { at: number }): string {
  const start = cursor.at + 1;
  let end = start;
  for (;;) {
    end = bytes.indexOf(QUOTE, end);
    if (end < 0) {
      cursor.at = bytes.length;
      return '';
    }
    if (bytes[end + 1] !== QUOTE) break;
    end += 2;
  }
  cursor.at = end + 1;
  const slice = bytes.subarray(start, end);
  return decodeStepString(isAscii(slice) ? latin1.decode(slice) : decodeBytes(slice));
}

function isAscii(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length; i++) if (bytes[i]! > 0x7e) return false;
  return true;
}

/** The standard says ASCII; many programs write UTF-8 or Latin-1 all the same. */
function decodeBytes(slice: Uint8Array): string {
  try {
    return utf8.decode(slice);
  } catch {
    return latin1.decode(slice);
  }
}
