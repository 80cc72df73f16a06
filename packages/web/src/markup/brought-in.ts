/** What one may do with each markup of a file that came back. */
import type { FoundMarkup } from '@kindred/contract/markup/import';

/** `ours` takes the answers alone. */
export type Side = 'theirs' | 'ours' | 'leave';

const saysSomething = ({ found, answers }: FoundMarkup): boolean => found !== 'same' || answers.length > 0;

/** To begin with all that is news is taken; where both sides changed, somebody has to choose. */
export const choicesOf = (found: readonly FoundMarkup[]): Record<string, Side> =>
  Object.fromEntries(
    found.filter(saysSomething).map((one) => [one.key, one.found === 'conflict' ? 'leave' : 'theirs']),
  );

/** What says something new, sheet by sheet. */
export function bySheet(found: readonly FoundMarkup[]): { page: number; found: FoundMarkup[] }[] {
  const sheets = new Map<number, FoundMarkup[]>();
  for (const one of found.filter(saysSomething)) sheets.set(one.page, [...(sheets.get(one.page) ?? []), one]);
  return [...sheets].sort(([a], [b]) => a - b).map(([page, list]) => ({ page, found: list }));
}
