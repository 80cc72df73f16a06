import { nearestCode } from '../platform/nearest.ts';
import { compilePattern } from '../platform/pattern.ts';

/**
 * A naming convention (ISO 19650): an ordered list of fields joined by a separator.
 * A field is a list of allowed values, a number with padding, or a pattern; its length is fixed or lies in a range.
 */
export interface FieldValue {
  code: string;
  meaning: string;
}

interface Lengths {
  /** Fixed number of characters. */
  length?: number;
  minLength?: number;
  maxLength?: number;
}
export type Field =
  | { name: string; kind: 'list'; values: FieldValue[] }
  | ({ name: string; kind: 'number' } & Lengths)
  | ({ name: string; kind: 'pattern'; pattern: string } & Lengths);

export interface Convention {
  name: string;
  separator: string;
  fields: Field[];
}

/** What is wrong with a part of a name; lengths are numbers of characters. */
export type FieldProblem =
  | { code: 'missing' }
  | { code: 'not-allowed' }
  | { code: 'digits'; min: number; max: number }
  | { code: 'characters'; min: number; max: number }
  | { code: 'pattern'; pattern: string };

/** A name has more or fewer parts than its convention has fields; `extra`: those that belong to none. */
export interface CountProblem {
  code: 'field-count';
  parts: number;
  fields: number;
  form: string;
  extra: readonly string[];
}

export interface FieldVerdict {
  field: string;
  value: string;
  ok: boolean;
  problem?: FieldProblem;
  nearest?: string;
}

export interface NameVerdict {
  name: string;
  ok: boolean;
  fields: FieldVerdict[];
  problem?: CountProblem;
}

/** Judges `name` (without extension) field by field. Never throws on any name. */
export function checkName(convention: Convention, name: string): NameVerdict {
  const parts = name.normalize('NFC').split(convention.separator);
  const wanted = convention.fields.length;
  const [aligned, extra] = parts.length === wanted ? [parts, []] : align(convention.fields, parts);
  const fields = convention.fields.map((field, i) => checkField(field, aligned[i]));
  const problem: CountProblem | undefined =
    parts.length === wanted
      ? undefined
      : { code: 'field-count', parts: parts.length, fields: wanted, form: formOf(convention), extra };
  return { name, ok: !problem && fields.every((field) => field.ok), fields, ...(problem && { problem }) };
}

/** A name that was judged wrong, with the nearest allowed value where one is wrong; undefined when it conforms or one has none. */
export function nearestName({ separator }: Convention, { ok, fields }: NameVerdict): string | undefined {
  if (ok || fields.some((field) => !field.ok && !field.nearest)) return undefined;
  return fields.map((field) => (field.ok ? field.value : field.nearest)).join(separator);
}

/** `Project - Originator - …` */
export function formOf(convention: Convention): string {
  return convention.fields.map((field) => field.name).join(` ${convention.separator} `);
}

/** A name that conforms, from the first value of each list; patterns show their own field's name where no value is known. */
export function exampleName({ fields, separator }: Convention): string {
  return fields.map((field) => exampleOf(field) ?? `{${field.name}}`).join(separator);
}

/**
 * A test for many names, several times faster than `checkName`: says whether a name conforms, not why not.
 * Agrees with `checkName(…).ok` on every name.
 */
export function compileConvention({ separator, fields }: Convention): (name: string) => boolean {
  const tests = fields.map(compileField);
  return (raw) => {
    const parts = (ASCII.test(raw) ? raw : raw.normalize('NFC')).split(separator);
    return parts.length === tests.length && tests.every((fits, i) => fits(parts[i]!));
  };
}

// eslint-disable-next-line no-control-regex
const ASCII = /^[\u0000-\u007f]*$/;
const MOST_KNOWN = 5000;

/** Values of a field repeat over many names: what was decided is kept. */
function compileField(field: Field): (value: string) => boolean {
  if (field.kind === 'list') {
    const codes = new Set(field.values.map(({ code }) => code.normalize('NFC')));
    return (value) => value !== '' && codes.has(value);
  }
  const known = new Map<string, boolean>();
  return (value) => {
    const decided = known.get(value);
    if (decided !== undefined) return decided;
    const { ok } = checkField(field, value);
    if (known.size < MOST_KNOWN) known.set(value, ok);
    return ok;
  };
}

/** Least and greatest number of characters. A number without any length takes one digit or more. */
export function lengthsOf({ length, minLength, maxLength }: Lengths): [number, number] {
  return length !== undefined ? [length, length] : [minLength ?? 1, maxLength ?? Infinity];
}

function checkField(field: Field, value: string | undefined): FieldVerdict {
  const verdict = (problem?: FieldProblem, nearest?: string): FieldVerdict => ({
    field: field.name,
    value: value ?? '',
    ok: !problem,
    ...(problem && { problem }),
    ...(nearest && { nearest }),
  });
  if (value === undefined || value === '') return verdict({ code: 'missing' }, onlyValue(field));
  if (field.kind === 'list') {
    const codes = field.values.map((allowed) => allowed.code.normalize('NFC'));
    return codes.includes(value) ? verdict() : verdict({ code: 'not-allowed' }, nearestCode(codes, value));
  }
  const [min, max] = lengthsOf(field);
  const characters = [...value].length;
  const fits = characters >= min && characters <= max;
  if (field.kind === 'number') {
    if (fits && /^[0-9]+$/.test(value)) return verdict();
    return verdict({ code: 'digits', min, max }, paddedNumber(value, min, max));
  }
  if (!fits) return verdict({ code: 'characters', min, max });
  const pattern = compilePattern(field.pattern);
  if (pattern.ok && pattern.matches(value)) return verdict();
  const otherCase = [value.toUpperCase(), value.toLowerCase()].find((other) => pattern.ok && pattern.matches(other));
  return verdict({ code: 'pattern', pattern: field.pattern }, otherCase);
}

const onlyValue = (field: Field): string | undefined =>
  field.kind === 'list' && field.values.length === 1 ? field.values[0]!.code : undefined;

function paddedNumber(value: string, min: number, max: number): string | undefined {
  const digits = value.replace(/[^0-9]/g, '').replace(/^0+(?=[0-9])/, '');
  return digits && digits.length <= max ? digits.padStart(min, '0') : undefined;
}

function exampleOf(field: Field): string | undefined {
  if (field.kind === 'list') return field.values[0]?.code;
  return field.kind === 'number' ? '1'.padStart(lengthsOf(field)[0], '0') : undefined;
}

const FITS = 0.5;
const MISSING = 3;
const WRONG = 4;

/**
 * Which part of a name belongs to which field when their numbers differ: the cheapest way to leave out fields and parts
 * (as in Needleman and Wunsch 1970). Answers the part of each field, and the parts that belong to none.
 */
function align(fields: readonly Field[], parts: readonly string[]): [(string | undefined)[], string[]] {
  const kept = parts.slice(0, fields.length * 3);
  const columns = kept.length + 1;
  const cost = new Float64Array((fields.length + 1) * columns);
  const unlike = (field: Field, part: string): number => {
    // That a code stands in a list says more than that it fits a pattern, which much does.
    if (checkField(field, part).ok) return field.kind === 'list' ? 0 : FITS;
    return part ? WRONG : MISSING;
  };
  for (let j = 1; j < columns; j++) cost[j] = j * MISSING;
  for (let i = 1; i <= fields.length; i++) {
    cost[i * columns] = i * MISSING;
    for (let j = 1; j < columns; j++)
      cost[i * columns + j] = Math.min(
        cost[(i - 1) * columns + j - 1]! + unlike(fields[i - 1]!, kept[j - 1]!),
        cost[(i - 1) * columns + j]! + MISSING,
        cost[i * columns + j - 1]! + MISSING,
      );
  }
  const aligned: (string | undefined)[] = new Array(fields.length).fill(undefined);
  const extra = parts.slice(kept.length);
  let [i, j] = [fields.length, kept.length];
  while (i || j) {
    const here = cost[i * columns + j]!;
    if (i && j && here === cost[(i - 1) * columns + j - 1]! + unlike(fields[i - 1]!, kept[j - 1]!)) {
      aligned[--i] = kept[--j];
    } else if (i && here === cost[(i - 1) * columns + j]! + MISSING) i--;
    else extra.unshift(kept[--j]!);
  }
  return [aligned, extra];
}
