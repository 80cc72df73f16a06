import type { Convention, Field } from './convention.ts';

export interface ConventionProblem {
  /** `separator`, or the field's number and part: `2/pattern`. */
  path: string;
  message: string;
}

const MOST_FIELDS = 20;
const MOST_VALUES = 2000;
const LONGEST = 60;

/** What keeps a convention from being used; empty when it is sound. Takes anything that was read from a file. */
export function conventionProblems(candidate: unknown): ConventionProblem[] {
  const problems: ConventionProblem[] = [];
  const say = (path: string, message: string): void => void problems.push({ path, message });
  const convention = (candidate ?? {}) as Partial<Convention>;
  if (typeof convention.name !== 'string' || !convention.name.trim()) say('name', 'A convention needs a name.');
  const { separator, fields } = convention;
  if (typeof separator !== 'string' || !/^[^\p{L}\p{N}\s\\/:*?"<>|]{1,3}$/u.test(separator))
    say('separator', 'The separator is one to three signs that may stand in a file name, no letters or digits.');
  if (!Array.isArray(fields) || !fields.length) say('fields', 'A convention needs at least one field.');
  else {
    if (fields.length > MOST_FIELDS) say('fields', `At most ${MOST_FIELDS} fields.`);
    const names = new Set<string>();
    fields.slice(0, MOST_FIELDS).forEach((field: Partial<Field> | null, i) => {
      const name = typeof field?.name === 'string' ? field.name.trim() : '';
      if (!name) say(`${i}/name`, `Field ${i + 1} needs a name.`);
      else if (names.has(name.toLowerCase())) say(`${i}/name`, `Two fields are called “${name}”.`);
      names.add(name.toLowerCase());
      for (const [part, message] of fieldProblems(field, typeof separator === 'string' ? separator : ''))
        say(`${i}/${part}`, `${name || `Field ${i + 1}`}: ${message}`);
    });
  }
  return problems;
}

function* fieldProblems(field: Partial<Field> | null, separator: string): Generator<[string, string]> {
  if (field?.kind === 'list') yield* listProblems((field as { values?: unknown }).values, separator);
  else if (field?.kind === 'number' || field?.kind === 'pattern') {
    yield* lengthProblems(field as Record<string, unknown>);
    if (field.kind === 'pattern') yield* patternProblems((field as { pattern?: unknown }).pattern);
  } else yield ['kind', 'it is a list, a number or a pattern.'];
}

function* listProblems(values: unknown, separator: string): Generator<[string, string]> {
  if (!Array.isArray(values) || !values.length) {
    yield ['values', 'a list needs at least one value.'];
    return;
  }
  if (values.length > MOST_VALUES) yield ['values', `at most ${MOST_VALUES} values.`];
  const seen = new Set<string>();
  for (const value of values as { code?: unknown; meaning?: unknown }[]) {
    const code = typeof value?.code === 'string' ? value.code : '';
    if (!code.trim() || code.length > LONGEST) yield ['values', `“${code}” is no code: 1 to ${LONGEST} characters.`];
    else if (separator && code.includes(separator))
      yield ['values', `“${code}” holds the separator “${separator}”: names with it could not be taken apart.`];
    // eslint-disable-next-line no-control-regex
    else if (/[\\/:*?"<>|\u0000-\u001f]/.test(code))
      yield ['values', `“${code}” holds a sign that no file name may have.`];
    if (seen.has(code)) yield ['values', `“${code}” is there twice.`];
    seen.add(code);
    if (value?.meaning !== undefined && typeof value.meaning !== 'string')
      yield ['values', `the meaning of “${code}” is not text.`];
  }
}

function* lengthProblems({ length, minLength, maxLength }: Record<string, unknown>): Generator<[string, string]> {
  for (const [part, value] of Object.entries({ length, minLength, maxLength }))
    if (value !== undefined && !(Number.isInteger(value) && (value as number) >= 1 && (value as number) <= LONGEST))
      yield [part, `a length is a whole number from 1 to ${LONGEST}.`];
  if (length !== undefined && (minLength !== undefined || maxLength !== undefined))
    yield ['length', 'either one fixed length, or a least and a greatest.'];
  if (typeof minLength === 'number' && typeof maxLength === 'number' && minLength > maxLength)
    yield ['minLength', 'the least length is greater than the greatest.'];
}

function* patternProblems(pattern: unknown): Generator<[string, string]> {
  if (typeof pattern !== 'string' || !pattern || pattern.length > 200) {
    yield ['pattern', 'a pattern has 1 to 200 characters.'];
    return;
  }
  try {
    new RegExp(`^(?:${pattern})$`, 'u');
  } catch {
    yield ['pattern', `“${pattern}” is not a regular expression.`];
    return;
  }
  // Repeated groups and references can take for ever on a hostile name; a field of a name needs neither.
  if (/\\[1-9]|\\k|\(\?[=!<]/.test(pattern)) yield ['pattern', 'references and look-arounds are not allowed.'];
  else if (/\)(?:[*+]|\{)/.test(pattern.replace(/\\./g, '').replace(/\[(?:[^\]])*\]/g, 'x')))
    yield ['pattern', 'a group may not be repeated: write the repetition out.'];
  else if (
    (
      pattern
        .replace(/\\./g, '')
        .replace(/\[(?:[^\]])*\]/g, 'x')
        .match(/[*+]|\{\d+,/g) ?? []
    ).length > 4
  )
    yield ['pattern', 'at most four repetitions.'];
}
