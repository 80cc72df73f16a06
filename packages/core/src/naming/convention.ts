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

export interface FieldVerdict {
  field: string;
  value: string;
  ok: boolean;
  problem?: string;
  nearest?: string;
}

export interface NameVerdict {
  name: string;
  ok: boolean;
  fields: FieldVerdict[];
  problem?: string;
}

/** Judges `name` (without extension) field by field. Never throws on any name. */
export function checkName(convention: Convention, name: string): NameVerdict {
  const parts = name.normalize('NFC').split(convention.separator);
  const wanted = convention.fields.length;
  const [aligned, extra] = parts.length === wanted ? [parts, []] : align(convention.fields, parts);
  const fields = convention.fields.map((field, i) => checkField(field, aligned[i]));
  const counted = `${parts.length} ${parts.length === 1 ? 'field' : 'fields'} where the convention has ${wanted}: ${shape(convention)}`;
  const problem =
    parts.length === wanted
      ? undefined
      : extra.length
        ? `${counted}. Too much: ${extra.map((part) => `“${part}”`).join(', ')}`
        : counted;
  return { name, ok: !problem && fields.every((field) => field.ok), fields, ...(problem && { problem }) };
}

/** What each field of a name stands for. */
export function decodeName(convention: Convention, name: string): { field: string; code: string; meaning: string }[] {
  const parts = name.split(convention.separator);
  return convention.fields.map((field, i) => {
    const code = parts[i] ?? '';
    const meaning = field.kind === 'list' ? (field.values.find((value) => value.code === code)?.meaning ?? '') : '';
    return { field: field.name, code, meaning };
  });
}

/** `Project - Originator - …`, as shown to people. */
/** A name that was judged wrong, with the nearest allowed value where one is wrong; undefined when it conforms or one has none. */
export function nearestName({ separator }: Convention, { ok, fields }: NameVerdict): string | undefined {
  if (ok || fields.some((field) => !field.ok && !field.nearest)) return undefined;
  return fields.map((field) => (field.ok ? field.value : field.nearest)).join(separator);
}

/** The parts of a name by field; empty when their number is not that of the fields. */
export function nameFields({ fields, separator }: Convention, name: string): Record<string, string> {
  const parts = name.split(separator);
  return parts.length === fields.length ? Object.fromEntries(fields.map((field, i) => [field.name, parts[i]!])) : {};
}

export function shape(convention: Convention): string {
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
export function compileConvention(convention: Convention): (name: string) => boolean {
  const { separator, fields } = convention;
  if (separator.length !== 1 || fields.some(looksAround)) return (name) => checkName(convention, name).ok;
  const whole = new RegExp(`^${fields.map((field) => fieldPattern(field, separator)).join(escape(separator))}$`, 'u');
  const separators = fields.length - 1;
  const mayHide = fields.some((field) => mayMatch(field, separator));
  return (raw) => {
    const name = ASCII.test(raw) ? raw : raw.normalize('NFC');
    if (!whole.test(name)) return false;
    if (!mayHide) return true;
    let count = 0;
    for (let at = name.indexOf(separator); at >= 0; at = name.indexOf(separator, at + 1)) count++;
    return count === separators;
  };
}

// eslint-disable-next-line no-control-regex
const ASCII = /^[\u0000-\u007f]*$/;

/** Whether a pattern may match the separator: then the separators of a name have to be counted, or it would hide one. */
const mayMatch = (field: Field, separator: string): boolean =>
  field.kind === 'pattern' && (/[.\\^]/.test(field.pattern) || field.pattern.replace(/\w-\w/g, '').includes(separator));

/** A pattern with anchors or word boundaries sees its neighbours, so it cannot become a part of a longer one. */
const looksAround = (field: Field): boolean =>
  field.kind === 'pattern' && /[\^$]|\\[bB]/.test(field.pattern.replace(/\[(?:\\.|[^\]])*\]/g, ''));

function fieldPattern(field: Field, separator: string): string {
  if (field.kind === 'list') return `(?:${field.values.map(({ code }) => escape(code.normalize('NFC'))).join('|')})`;
  const [min, max] = lengthsOf(field);
  const range = `{${min},${max === Infinity ? '' : max}}`;
  if (field.kind === 'number') return `[0-9]${range}`;
  const part = `[^${separator.replace(/[\\\]^-]/g, '\\$&')}]`;
  return `(?=${part}${range}(?:${escape(separator)}|$))(?:${field.pattern})`;
}

const escape = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');

/** Least and greatest number of characters. A number without any length takes one digit or more. */
export function lengthsOf({ length, minLength, maxLength }: Lengths): [number, number] {
  return length !== undefined ? [length, length] : [minLength ?? 1, maxLength ?? Infinity];
}

function checkField(field: Field, value: string | undefined): FieldVerdict {
  const verdict = (problem?: string, nearest?: string): FieldVerdict => ({
    field: field.name,
    value: value ?? '',
    ok: !problem,
    ...(problem && { problem }),
    ...(nearest && { nearest }),
  });
  if (value === undefined || value === '') return verdict('is missing', onlyValue(field));
  if (field.kind === 'list') {
    const codes = field.values.map((allowed) => allowed.code.normalize('NFC'));
    return codes.includes(value) ? verdict() : verdict(`“${value}” is not an allowed value`, nearestCode(codes, value));
  }
  const [min, max] = lengthsOf(field);
  const characters = [...value].length;
  const fits = characters >= min && characters <= max;
  if (field.kind === 'number') {
    if (fits && /^[0-9]+$/.test(value)) return verdict();
    return verdict(
      `“${value}” must be ${lengthRange(min, max)} ${max === 1 ? 'digit' : 'digits'}`,
      paddedNumber(value, min, max),
    );
  }
  if (!fits) return verdict(`“${value}” must have ${lengthRange(min, max)} characters`);
  const whole = new RegExp(`^(?:${field.pattern})$`, 'u');
  if (whole.test(value)) return verdict();
  const turned = [value.toUpperCase(), value.toLowerCase()].find((other) => whole.test(other));
  return verdict(`“${value}” does not fit ${field.pattern}`, turned);
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

function lengthRange(min: number, max: number): string {
  if (max === Infinity) return `at least ${min}`;
  return min === max ? `exactly ${min}` : `${min} to ${max}`;
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

/** The code with the smallest edit distance, if it is close enough to be a slip of the hand. */
export function nearestCode(codes: readonly string[], value: string): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.ceil(value.length / 2)) + 1;
  for (const code of codes) {
    const distance = editDistance(code.toUpperCase(), value.toUpperCase());
    if (distance < bestDistance) [best, bestDistance] = [code, distance];
  }
  return best;
}

/** Levenshtein distance, two rows, O(a·b). */
export function editDistance(a: string, b: string): number {
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++) {
      const substitution = previous[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      current.push(Math.min(substitution, previous[j]! + 1, current[j - 1]! + 1));
    }
    previous = current;
  }
  return previous[b.length]!;
}
