/** Which sheet of one set is which of another: by number, then title, then what is written on it; and which one became several. */
import { readTitleBlock, type PageText, type TitleBlock } from '../drawing/title-block.ts';

export interface SheetOfSet extends Pick<TitleBlock, 'number' | 'title'> {
  page: number;
  /** What is written on it. */
  words: readonly string[];
}
export interface SheetPair<T extends SheetOfSet> {
  before: T | undefined;
  after: T | undefined;
  /** The sheet before became several: what of it is not on this one is on the others. */
  split?: true;
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

/** A word that more sheets of a set have says nothing of any of them. */
const RARE = 2;
/** So many rare words, and so much of those of a new sheet, stood on the one that it is a part of. */
const [PART_WORDS, PART_OF] = [6, 0.6];

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
  const parts = partsOf(
    before,
    after.filter((sheet) => !partner.has(sheet)),
  );
  for (const [part, whole] of parts) {
    partner.set(part, whole);
    open.delete(whole);
  }
  const split = new Set(parts.values());
  return [
    ...after.map((sheet): SheetPair<T> => {
      const was = partner.get(sheet);
      return { before: was, after: sheet, ...(was && split.has(was) && { split: true }) };
    }),
    ...[...open].map((sheet): SheetPair<T> => ({ before: sheet, after: undefined })),
  ];
}

/** Of new sheets, the one before on which most of what they say stood. Time grows with the number of words. */
function partsOf<T extends SheetOfSet>(before: readonly T[], fresh: readonly T[]): Map<T, T> {
  const sheetsWith = new Map<string, T[]>();
  for (const sheet of before)
    for (const word of new Set(sheet.words))
      sheetsWith.set(word, [...(sheetsWith.get(word) ?? []), sheet].slice(0, RARE + 1));
  const found = new Map<T, T>();
  for (const part of fresh) {
    const shared = new Map<T, number>();
    let rare = 0;
    for (const word of new Set(part.words)) {
      const sheets = sheetsWith.get(word) ?? [];
      if (sheets.length > RARE) continue;
      rare++;
      for (const sheet of sheets) shared.set(sheet, (shared.get(sheet) ?? 0) + 1);
    }
    const [best] = [...shared].sort((a, b) => b[1] - a[1]);
    if (best && best[1] >= PART_WORDS && best[1] >= PART_OF * rare) found.set(part, best[0]);
  }
  return found;
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
