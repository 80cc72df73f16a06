import type { Values } from '@kindred/core/platform/coded-error';

export type Say = (values: Values) => string;

const ENDS_LIKE_VOWEL = /[^aeiou]y$/;
/** `1 file`, `2 files`, `1 delivery`, `2 deliveries`; `many`: where the plural is another. */
export const counted = (n: number, one: string, many = pluralOf(one)): string => `${n} ${n === 1 ? one : many}`;
export const pluralOf = (one: string): string => (ENDS_LIKE_VOWEL.test(one) ? `${one.slice(0, -1)}ies` : `${one}s`);
export const quoted = (words: readonly string[]): string => words.map((word) => `“${word}”`).join(', ');

/** The sentence for a code; the code itself where nobody has written one. */
export const sentence = (sentences: Record<string, Say>, code: string, values: Values = {}): string =>
  sentences[code]?.(values) ?? code;
