/** Which sheet of one set is which of another: by number, then title, then what is written on it. */
import { readTitleBlock, type PageText, type TitleBlock } from '../drawing/title-block.ts';

export interface SheetOfSet extends Pick<TitleBlock, 'number' | 'title'> {
  page: number;
  /** What is written on it. */
  words: readonly string[];
}
export interface SheetPair<T extends SheetOfSet> {
  before: T | undefined;
  after: T | undefined;
}

/** A sheet by what is written on it. */
export function sheetOfSet(page: number, text: PageText): SheetOfSet {
  const { number, title } = readTitleBlock(text);
  return { page, number, title, words: text.runs.flatMap((run) => run.text.split(/\s+/).filter(Boolean)) };
}

/** Sheets with fewer words in common than this part are not the same by what is written on them. */
const ALIKE = 0.4;
/** The same, of sheets in the same place of their sets that do not both say a number. */
const ALIKE_IN_PLACE = 0.15;

/** In the order of the second set, what was removed behind. Time grows with the number of sheets, and of those that no number and no title pairs squared. */
export function matchPages<T extends SheetOfSet>(before: readonly T[], after: readonly T[]): SheetPair<T>[] {
  const open = new Set(before);
  const partner = new Map<T, T>();
  const pairBy = (keyOf: (sheet: T) => string): void => {
    const byKey = new Map<string, T[]>();
    for (const sheet of open) {
      const key = keyOf(sheet);
      if (key) byKey.set(key, [...(byKey.get(key) ?? []), sheet]);
    }
    for (const sheet of after) {
      const found = partner.has(sheet) ? undefined : byKey.get(keyOf(sheet))?.shift();
      if (!found) continue;
      partner.set(sheet, found);
      open.delete(found);
    }
  };
  pairBy(({ number }) => plain(number));
  pairBy(({ title }) => plain(title));
  const words = new Map([...before, ...after].map((sheet) => [sheet, new Set(sheet.words)]));
  const alike = after
    .filter((sheet) => !partner.has(sheet))
    .flatMap((b) => [...open].map((a) => ({ a, b, common: commonOf(words.get(a)!, words.get(b)!) })))
    .filter(({ a, b, common }) => common >= (a.page === b.page && !(a.number && b.number) ? ALIKE_IN_PLACE : ALIKE))
    .sort((p, q) => q.common - p.common);
  for (const { a, b } of alike)
    if (open.has(a) && !partner.has(b)) {
      partner.set(b, a);
      open.delete(a);
    }
  // What is left alone on both sides, in the same place, is compared: scans and sheets of outlines say nothing.
  for (const sheet of after) {
    if (partner.has(sheet)) continue;
    const same = [...open].find(
      ({ page, number, words: said }) =>
        page === sheet.page && (!number || !sheet.number) && !(said.length && sheet.words.length),
    );
    const only = before.length === 1 && after.length === 1 ? before[0]! : undefined;
    const found = same ?? only;
    if (!found) continue;
    partner.set(sheet, found);
    open.delete(found);
  }
  return [
    ...after.map((sheet): SheetPair<T> => ({ before: partner.get(sheet), after: sheet })),
    ...[...open].map((sheet): SheetPair<T> => ({ before: sheet, after: undefined })),
  ];
}

const plain = (text: string): string =>
  text
    .normalize('NFKC')
    .replace(/[\s_.‐-―−-]+/g, '')
    .toLowerCase();

/** Part of the words of both that both have. */
function commonOf(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let common = 0;
  for (const word of a) if (b.has(word)) common++;
  const all = a.size + b.size - common;
  return all ? common / all : 0;
}
