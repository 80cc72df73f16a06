/** What is wrong with names, conventions and lists of values. */
import type { CountProblem, FieldProblem, FieldVerdict, NameVerdict } from '@kindred/core/naming/convention';
import type { ConventionProblem } from '@kindred/core/naming/convention-problems';
import type { Values } from '@kindred/core/platform/coded-error';
import { counted, quoted, sentence, type Say } from './sentence.ts';

const lengthRange = (min: number, max: number): string =>
  max === Infinity ? `at least ${min}` : min === max ? `exactly ${min}` : `${min} to ${max}`;

/** “05” must be exactly 3 digits: what is wrong with a part of a name, to follow the name of its field. */
export function fieldProblem(problem: FieldProblem, value: string): string {
  switch (problem.code) {
    case 'missing':
      return 'is missing';
    case 'not-allowed':
      return `“${value}” is not an allowed value`;
    case 'digits':
      return `“${value}” must be ${lengthRange(problem.min, problem.max)} ${problem.max === 1 ? 'digit' : 'digits'}`;
    case 'characters':
      return `“${value}” must have ${lengthRange(problem.min, problem.max)} characters`;
    case 'pattern':
      return `“${value}” does not fit ${problem.pattern}`;
  }
}

export function countProblem({ parts, fields, form, extra }: CountProblem): string {
  const counts = `${counted(parts, 'field')} where the convention has ${fields}: ${form}`;
  return extra.length ? `${counts}. Too much: ${quoted(extra)}` : counts;
}

export interface SaidField extends Omit<FieldVerdict, 'problem'> {
  problem?: string;
}
export interface SaidName extends Omit<NameVerdict, 'fields' | 'problem'> {
  fields: SaidField[];
  problem?: string;
}

/** A verdict with sentences in place of codes. */
export const sayVerdict = ({ fields, problem, ...verdict }: NameVerdict): SaidName => ({
  ...verdict,
  fields: fields.map(({ problem: wrong, ...field }) => ({
    ...field,
    ...(wrong && { problem: fieldProblem(wrong, field.value) }),
  })),
  ...(problem && { problem: countProblem(problem) }),
});

const ofField = ({ field }: Values): string => (/^\d+$/.test(String(field)) ? `Field ${field}` : String(field));
const about =
  (say: Say): Say =>
  (values) =>
    `${ofField(values)}: ${say(values)}`;

const CONVENTION: Record<string, Say> = {
  'name-missing': () => 'A convention needs a name.',
  separator: () => 'The separator is one to three signs that may stand in a file name, no letters or digits.',
  'no-fields': () => 'A convention needs at least one field.',
  'too-many-fields': ({ most }) => `At most ${most} fields.`,
  'field-name-missing': ({ number }) => `Field ${number} needs a name.`,
  'field-twice': ({ field }) => `Two fields are called “${field}”.`,
  kind: about(() => 'it is a list, a number or a pattern.'),
  'no-values': about(() => 'a list needs at least one value.'),
  'too-many-values': about(({ most }) => `at most ${most} values.`),
  'no-code': about(({ value, longest }) => `“${value}” is no code: 1 to ${longest} characters.`),
  'holds-separator': about(
    ({ value, separator }) => `“${value}” holds the separator “${separator}”: names with it could not be taken apart.`,
  ),
  'holds-forbidden-sign': about(({ value }) => `“${value}” holds a sign that no file name may have.`),
  'value-twice': about(({ value }) => `“${value}” is there twice.`),
  'meaning-not-text': about(({ value }) => `the meaning of “${value}” is not text.`),
  length: about(({ longest }) => `a length is a whole number from 1 to ${longest}.`),
  'two-kinds-of-length': about(() => 'either one fixed length, or a least and a greatest.'),
  'least-above-greatest': about(() => 'the least length is greater than the greatest.'),
  'pattern-length': about(({ longest }) => `a pattern has 1 to ${longest} characters.`),
  'no-expression': about(
    ({ pattern }) =>
      `“${pattern}” is not a regular expression, or one with references or look-arounds: write it without.`,
  ),
  'too-many-repetitions': about(() => 'the pattern stands for too many repetitions: write smaller numbers.'),
};
export const conventionProblem = ({ code, values }: Pick<ConventionProblem, 'code' | 'values'>): string =>
  sentence(CONVENTION, code, values);

const VALUE_LINE: Record<string, Say> = {
  'code-missing': () => 'There is no code.',
  'code-too-long': ({ value, longest }) => `“${String(value).slice(0, 20)}…” is longer than ${longest} characters.`,
  'holds-separator': ({ value, separator }) => `“${value}” holds the separator “${separator}”.`,
  'value-twice': ({ value }) => `“${value}” is there twice.`,
};
export const valueLineProblem = ({ code, values }: { code: string; values: Values }): string =>
  sentence(VALUE_LINE, code, values);
