/** What changed between two versions of a sheet: vectors against vectors, words against words. */
import type { SheetVectors } from '../drawing/vectors/sheet-vectors.ts';
import { readTitleBlock, type PageText } from '../drawing/title-block.ts';
import { isDate } from '../drawing/title-block-words.ts';
import { alignPages, type Page } from './align-pages.ts';
import { around, boundsOf, type Box } from './bounds.ts';
import type { ChangeKind } from './change-counts.ts';
import { compareLines, type LineChange } from './compare-lines.ts';
import { compareLooks, type Look } from './compare-looks.ts';
import { comparePicturePlaces } from './compare-picture-places.ts';
import { compareTexts, joinTexts, type TextChange } from './compare-texts.ts';
import { LineIndex } from './line-index.ts';
import { lineworkOf, mappedLinework, pieceCount } from './linework.ts';
import { Similarity } from './similarity.ts';
import { LetterShapes, outlinedLinesOf, outlinedTexts } from './outlined-words.ts';
import { gridOf, type SheetGrid } from './sheet-grid.ts';
import { findTables, isDrawnAnew, type TablePart } from './tables.ts';
import { mappedText, textBox, textLinesOf, type TextLine } from './text-lines.ts';

export interface SheetChange {
  kind: ChangeKind;
  /** On the second page, points as displayed; of what was removed on the first page. */
  box: Box;
  /** Points on the second page, to the right and down. */
  shift?: [number, number];
  /** Radians with the clock. */
  turn?: number;
  mirrored?: boolean;
  /** Words that it is about. */
  before?: string;
  after?: string;
  /** It is a picture. */
  picture?: boolean;
  /** How it was drawn and is drawn now. */
  look?: { before?: Look; after?: Look };
  /** Of a table. */
  part?: TablePart;
  /** Says something new with every issue: a date, a revision, where the file lies. */
  routine?: boolean;
  /** Of lines: x0, y0, x1, y1 by piece, on the second page also where it was removed. */
  ends?: number[];
}
export interface SheetComparison {
  /** From the first page to the second one. */
  similarity: Similarity;
  /** The pages have nothing to do with each other: their changes would be all of both. */
  unlike: boolean;
  /** There are pictures on them: scans, photographs. What these show is not compared. */
  pictures: boolean;
  /** Words are drawn as outlines on one of them only, or in another font: they were not compared. */
  unread: boolean;
  /** That the second page has of its own. */
  grid?: SheetGrid;
  changes: SheetChange[];
}

/** Where a change is on the second page, also where something is not there any more. */
export const boxOnAfter = ({ kind, box }: Pick<SheetChange, 'kind' | 'box'>, similarity: Similarity): Box =>
  kind === 'removed' ? mappedBox(box, similarity) : box;

/** The box around a box that is somewhere else. */
export const mappedBox = ([x0, y0, x1, y1]: Box, { map }: Similarity): Box =>
  boundsOf([...map(x0, y0), ...map(x1, y0), ...map(x0, y1), ...map(x1, y1)]);

/** A scan: a picture, and hardly a line that is drawn. */
export const isScan = (vectors: SheetVectors): boolean =>
  vectors.pictures.length > 0 && vectors.styleOf.length < FEW_LINES;
const FEW_LINES = 60;

/** Pages with less in common than this are different drawings. */
const UNLIKE = 0.08;
/** A page with fewer things than this can have lost them all. */
const FEW_THINGS = 12;
/** Things no larger than this (points) have a name that stands beside them. */
const SMALL = 120;
/** Words stand with lines that went the same way within this many points. */
const BESIDE = 30;

export function compareSheets(before: SheetVectors, after: SheetVectors): SheetComparison {
  const [myLetters, theirLetters] = [outlinedLinesOf(before), outlinedLinesOf(after)];
  const [mine, theirs] = [pageOf(before, myLetters), pageOf(after, theirLetters)];
  const { similarity, common } = alignPages(mine, theirs);
  const pictures = before.pictures.length > 0 && after.pictures.length > 0;
  if (common < UNLIKE && Math.min(thingsOn(mine), thingsOn(theirs)) > FEW_THINGS)
    return { similarity, unlike: true, pictures, unread: false, changes: [] };
  const drawn = {
    before: new LineIndex(mappedLinework(mine.linework, similarity)),
    after: new LineIndex(theirs.linework),
  };
  const lines = compareLines(drawn.before, drawn.after);
  const looks = compareLooks(
    { lines: drawn.before, styles: before.styles },
    { lines: drawn.after, styles: after.styles },
    similarity.scale,
  ).map(({ ends, ...look }): SheetChange => ({ kind: 'look', box: boundsOf(ends), ends, look }));
  const grid = gridOf(theirs);
  const shapes = new LetterShapes();
  const texts = {
    before: [
      ...mine.texts.map((text) => mappedText(text, similarity)),
      ...outlinedTexts(before, myLetters, similarity.map, shapes),
    ],
    after: [...theirs.texts, ...outlinedTexts(after, theirLetters, Similarity.none.map, shapes)],
  };
  const words = compareTexts(texts.before, texts.after);
  const changes = changesOf(lines, words.changes, texts, similarity, issuedOf(before, after));
  return {
    ...{ similarity, unlike: false, pictures, unread: words.unread },
    ...(grid && { grid }),
    changes: inReadingOrder([...changes, ...looks, ...pictureChanges(before, after, similarity)]),
  };
}

const pageOf = (vectors: SheetVectors, letters: readonly (readonly number[])[]): Page => ({
  width: vectors.width,
  height: vectors.height,
  linework: lineworkOf(vectors, new Set(letters.flat())),
  texts: textLinesOf(vectors.texts),
});
const thingsOn = ({ linework, texts }: Page): number => pieceCount(linework) + texts.length;

function changesOf(
  lines: readonly LineChange[],
  texts: readonly TextChange[],
  pages: Record<'before' | 'after', readonly TextLine[]>,
  similarity: Similarity,
  issued: Issued,
): SheetChange[] {
  const changes = lines.map(({ kind, ends, ...how }): SheetChange => {
    const box = boundsOf(ends);
    return { kind, box: kind === 'removed' ? mappedBox(box, similarity.inverse) : box, ends, ...how };
  });
  const tables = findTables(joinTexts(texts), pages);
  const drawn = changes.filter(({ kind, box, ends }) => {
    const there = kind === 'removed' ? mappedBox(box, similarity) : box;
    return !isDrawnAnew(ends!, there, tables.drawnAnew);
  });
  const words = tables.groups.flatMap(({ changes: group, part }) => {
    const said = group.filter((text) => {
      const along = text.shift && drawn.find((change) => goesAlong(change, text as Required<TextChange>));
      if (along) along.box = around(along.box, textBox(text.after!));
      return !along;
    });
    if (!said.length) return [];
    const change = joined(said.map((text) => ofText(text, similarity, issued)));
    if (part) return [{ ...change, part }];
    const named = drawn.find((one) => isTagOf(change, one));
    if (!named) return [change];
    Object.assign(named, { ...change, box: around(named.box, change.box) });
    return [];
  });
  return [...drawn, ...words];
}
function pictureChanges(before: SheetVectors, after: SheetVectors, similarity: Similarity): SheetChange[] {
  return comparePicturePlaces(before.pictures, after.pictures, similarity.map).map(({ kind, box, shift }) => ({
    ...{ kind, picture: true },
    box: kind === 'removed' ? mappedBox(box, similarity.inverse) : box,
    ...(shift && { shift }),
  }));
}
const inReadingOrder = (changes: SheetChange[]): SheetChange[] =>
  changes.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);

/** What belongs together as one change. */
function joined(all: readonly SheetChange[]): SheetChange {
  const first = all[0]!;
  if (all.length === 1) return first;
  const words = (of: 'before' | 'after'): string => all.flatMap((one) => one[of] || []).join(' · ');
  return {
    ...first,
    box: all.map(({ box }) => box).reduce(around),
    ...(first.before !== undefined && { before: words('before') }),
    ...(first.after !== undefined && { after: words('after') }),
  };
}

/** A tag that went the same way as what it names is no change of its own. */
function goesAlong(
  { kind, shift, box, turn, mirrored }: SheetChange,
  { shift: gone, before, after }: Required<TextChange>,
): boolean {
  if (kind !== 'moved' || !shift || turn || mirrored || before.key !== after.key) return false;
  const [x0, y0, x1, y1] = textBox(after);
  const near = x0 < box[2] + BESIDE && x1 > box[0] - BESIDE && y0 < box[3] + BESIDE && y1 > box[1] - BESIDE;
  return near && Math.hypot(shift[0] - gone[0], shift[1] - gone[1]) < 0.4;
}

/** Words that came or went with the small thing that they stand at name it. */
function isTagOf(words: SheetChange, { kind, box: [x0, y0, x1, y1], before, after }: SheetChange): boolean {
  if (kind !== words.kind || kind === 'moved' || before !== undefined || after !== undefined) return false;
  const [u0, v0, u1, v1] = words.box;
  const reach = Math.min(u1 - u0, v1 - v0);
  const near = u0 < x1 + reach && u1 > x0 - reach && v0 < y1 + reach && v1 > y0 - reach;
  return near && Math.max(x1 - x0, y1 - y0) < SMALL;
}

function ofText({ before, after, shift }: TextChange, similarity: Similarity, issued: Issued): SheetChange {
  // What is drawn as outlines cannot be said.
  const words = { ...(before?.text && { before: before.text }), ...(after?.text && { after: after.text }) };
  if (!after) return { kind: 'removed', box: mappedBox(textBox(before!), similarity.inverse), ...words };
  const box = textBox(after);
  if (!before) return { kind: 'added', box, ...words };
  const kind = before.key === after.key ? 'moved' : 'text';
  return { kind, box, ...words, ...(shift && { shift }), ...(isRoutine(before, after, issued) && { routine: true }) };
}

/** A path with an ending, a moment of plotting. */
const STAMP = /[\\/][^\\/ ]+\.[a-z]{2,4}\b|\b(?:plotted|printed|plot date|gedruckt|geplottet|imprim[eé]|stampato)\b/i;
const isRoutine = (before: TextLine, after: TextLine, issued: Issued): boolean =>
  onlyDatesDiffer(before.text, after.text) ||
  (STAMP.test(before.text) && STAMP.test(after.text)) ||
  issued.some(([was, is]) => was !== is && endsIn(before.text, was) && endsIn(after.text, is));
/** “01.02.2026”, or with what stands close to it, “M. Tolvik 01.02.2026”. */
function onlyDatesDiffer(before: string, after: string): boolean {
  if (before === after) return false;
  if (isDate(before) && isDate(after)) return true;
  const [was, is] = [before.split(' '), after.split(' ')];
  return was.length === is.length && was.every((word, i) => word === is[i] || (isDate(word) && isDate(is[i]!)));
}
/** “P02”, “Rev: P02”. */
const endsIn = (text: string, value: string): boolean =>
  Boolean(value) && text.endsWith(value) && text.length < value.length + 20;

/** What the title blocks say of the issue: values before and after. */
type Issued = [before: string, after: string][];
function issuedOf(before: SheetVectors, after: SheetVectors): Issued {
  const [was, is] = [before, after].map((vectors) => readTitleBlock(pageTextOf(vectors)));
  return [
    [was!.revision, is!.revision],
    [was!.date, is!.date],
  ];
}
const pageTextOf = ({ width, height, texts }: SheetVectors): PageText => ({
  width,
  height,
  runs: texts.map(({ angle, ...text }) => ({
    ...text,
    y: height - text.y,
    turn: (Math.round(-angle / (Math.PI / 2)) + 4) % 4,
  })),
});
