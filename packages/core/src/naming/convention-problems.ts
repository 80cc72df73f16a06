import type { Values } from '../platform/coded-error.ts';
import { compilePattern } from '../platform/pattern.ts';
import type { Convention, Field } from './convention.ts';

export interface ConventionProblem {
  /** `separator`, or the field's number and part: `2/pattern`. */
  path: string;
  code: string;
  /** What it takes to say it in words; `field`: the name of the field, or its number. */
  values: Values;
}

/** Part of the field, code, values. */
type Said = [part: string, code: string, values?: Values];

const MOST_FIELDS = 20;
const MOST_VALUES = 2000;
const LONGEST = 60;

/** What keeps a convention from being used; empty when it is sound. Takes anything that was read from a file. */
export function conventionProblems(candidate: unknown): ConventionProblem[] {
  const problems: ConventionProblem[] = [];
  const say = (path: string, code: string, values: Values = {}): void => void problems.push({ path, code, values });
  const convention = (candidate ?? {}) as Partial<Convention>;
  if (typeof convention.name !== 'string' || !convention.name.trim()) say('name', 'name-missing');
  const { separator, fields } = convention;
  if (typeof separator !== 'string' || !/^[^\p{L}\p{N}\s\\/:*?"<>|]{1,3}$/u.test(separator))
    say('separator', 'separator');
  if (!Array.isArray(fields) || !fields.length) say('fields', 'no-fields');
  else {
    if (fields.length > MOST_FIELDS) say('fields', 'too-many-fields', { most: MOST_FIELDS });
    const names = new Set<string>();
    fields.slice(0, MOST_FIELDS).forEach((field: Partial<Field> | null, i) => {
      const name = typeof field?.name === 'string' ? field.name.trim() : '';
      if (!name) say(`${i}/name`, 'field-name-missing', { number: i + 1 });
      else if (names.has(name.toLowerCase())) say(`${i}/name`, 'field-twice', { field: name });
      names.add(name.toLowerCase());
      for (const [part, code, values = {}] of fieldProblems(field, typeof separator === 'string' ? separator : ''))
        say(`${i}/${part}`, code, { ...values, field: name || String(i + 1) });
    });
  }
  return problems;
}

function* fieldProblems(field: Partial<Field> | null, separator: string): Generator<Said> {
  if (field?.kind === 'list') yield* listProblems((field as { values?: unknown }).values, separator);
  else if (field?.kind === 'number' || field?.kind === 'pattern') {
    yield* lengthProblems(field as Record<string, unknown>);
    if (field.kind === 'pattern') yield* patternProblems((field as { pattern?: unknown }).pattern);
  } else yield ['kind', 'kind'];
}

function* listProblems(values: unknown, separator: string): Generator<Said> {
  if (!Array.isArray(values) || !values.length) {
    yield ['values', 'no-values'];
    return;
  }
  if (values.length > MOST_VALUES) yield ['values', 'too-many-values', { most: MOST_VALUES }];
  const seen = new Set<string>();
  for (const value of values as { code?: unknown; meaning?: unknown }[]) {
    const code = typeof value?.code === 'string' ? value.code : '';
    if (!code.trim() || code.length > LONGEST) yield ['values', 'no-code', { value: code, longest: LONGEST }];
    else if (separator && code.includes(separator)) yield ['values', 'holds-separator', { value: code, separator }];
    // eslint-disable-next-line no-control-regex
    else if (/[\\/:*?"<>|\u0000-\u001f]/.test(code)) yield ['values', 'holds-forbidden-sign', { value: code }];
    if (seen.has(code)) yield ['values', 'value-twice', { value: code }];
    seen.add(code);
    if (value?.meaning !== undefined && typeof value.meaning !== 'string')
      yield ['values', 'meaning-not-text', { value: code }];
  }
}

function* lengthProblems({ length, minLength, maxLength }: Record<string, unknown>): Generator<Said> {
  for (const [part, value] of Object.entries({ length, minLength, maxLength }))
    if (value !== undefined && !(Number.isInteger(value) && (value as number) >= 1 && (value as number) <= LONGEST))
      yield [part, 'length', { longest: LONGEST }];
  if (length !== undefined && (minLength !== undefined || maxLength !== undefined))
    yield ['length', 'two-kinds-of-length'];
  if (typeof minLength === 'number' && typeof maxLength === 'number' && minLength > maxLength)
    yield ['minLength', 'least-above-greatest'];
}

function* patternProblems(pattern: unknown): Generator<Said> {
  if (typeof pattern !== 'string' || !pattern || pattern.length > 200) {
    yield ['pattern', 'pattern-length', { longest: 200 }];
    return;
  }
  const verdict = compilePattern(pattern);
  if (!verdict.ok) yield ['pattern', verdict.code, { pattern }];
}
