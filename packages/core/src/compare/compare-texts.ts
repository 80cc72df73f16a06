/** Words of two pages that lie on each other: which stay, were moved, say something else, came or went. */
import Flatbush from 'flatbush';
import { placesOf } from './align-pages.ts';
import { Groups } from './groups.ts';
import { textBox, type TextLine } from './text-lines.ts';

export interface TextChange {
  before?: TextLine;
  after?: TextLine;
  /** Points on the second page, where the words are somewhere else. */
  shift?: [number, number];
}

export interface ComparedTexts {
  changes: TextChange[];
  /** There are words as outlines on one page where the other one has letters or outlines of another font. */
  unread: boolean;
}

/** A line stands where it stood within this many points. */
const IN_PLACE = 0.5;
/** So many words that were moved alike are one block: a row was put in above them. */
const BLOCK = 3;
/** Words that stand several times are taken for moved within so many points; in a block, so far. */
const [NEAR, BLOCK_REACH] = [60, 400];
/** Words as long as these that stand once are the same somewhere else, even where others took their place. */
const SAYING = 12;
/** Changed words may begin somewhere else by so much of their size. */
const BESIDE = 2.5;
/** So much of words or of outlines lies on the others where they may be the same. */
const COVERED = 0.5;
/** So many outlines, and so much of them, are others where the font changed. */
const [FEW_WORDS, ANOTHER_FONT] = [8, 0.6];
/** Changed and moved words have at least this much in common. */
const ALIKE = 0.6;

/** `before` is mapped onto the second page already. About O(n log n); words that stand k times cost k² of them. */
export function compareTexts(before: readonly TextLine[], after: readonly TextLine[]): ComparedTexts {
  const left = new Pairing(before, after);
  const inPlace = (a: TextLine, b: TextLine): boolean => offsetOf(a, b) <= IN_PLACE + 0.04 * b.size;
  left.takeSame(inPlace);
  let unread = left.takeUnreadable();
  const changes: TextChange[] = [];
  const moved = (a: TextLine, b: TextLine): void => {
    left.take(a, b);
    changes.push({ before: a, after: b, shift: [b.x - a.x, b.y - a.y] });
  };
  for (const block of left.blocks()) for (const [a, b] of block) moved(a, b);
  left.takeSame(inPlace);
  for (const [a, b] of left.elsewhere(SAYING)) moved(a, b);
  for (const [a, b] of left.inPlace()) {
    if (a.key === b.key) moved(a, b);
    else {
      left.take(a, b);
      changes.push({ before: a, after: b });
    }
  }
  for (const [a, b] of left.elsewhere(0)) moved(a, b);
  for (const [a, b] of left.alike()) moved(a, b);
  for (const a of left.before) changes.push({ before: a });
  for (const b of left.after) changes.push({ after: b });
  if (!inAnotherFont(changes, after)) return { changes, unread };
  unread = true;
  return { changes: changes.filter((change) => !isOutlined(change)), unread };
}

const isOutlined = ({ before, after }: TextChange): boolean => (after ?? before)!.text === '';
/** Most outlines of a page are others now: it is the font that changed. */
function inAnotherFont(changes: readonly TextChange[], after: readonly TextLine[]): boolean {
  const outlines = after.filter(({ text }) => !text).length;
  return outlines > FEW_WORDS && changes.filter(isOutlined).length > ANOTHER_FONT * outlines;
}

const offsetOf = (a: TextLine, b: TextLine): number => Math.hypot(b.x - a.x, b.y - a.y);
const sameTurn = (a: TextLine, b: TextLine): boolean => Math.abs(Math.sin((a.angle - b.angle) / 2)) < 0.05;
/** The size of outlines is only about what their letters show of it. */
const sameLook = (a: TextLine, b: TextLine): boolean =>
  Math.abs(a.size - b.size) < (a.text && b.text ? 0.2 : 0.5) * b.size && sameTurn(a, b);

class Pairing {
  readonly before: Set<TextLine>;
  readonly after: Set<TextLine>;
  /** What stayed where it was. */
  private readonly same = new Map<TextLine, TextLine>();

  constructor(before: readonly TextLine[], after: readonly TextLine[]) {
    this.before = new Set(before);
    this.after = new Set(after);
  }

  take(a: TextLine, b: TextLine): void {
    this.before.delete(a);
    this.after.delete(b);
  }

  takeSame(fits: (a: TextLine, b: TextLine) => boolean): void {
    const places = placesOf([...this.after]);
    for (const a of [...this.before]) {
      const b = places.get(a.key)?.find((one) => this.after.has(one) && fits(a, one));
      if (!b) continue;
      this.take(a, b);
      this.same.set(a, b);
    }
  }

  /** Words of one page where the other one has outlines: nobody can say that they differ. */
  takeUnreadable(): boolean {
    const [wordsBefore, wordsAfter] = [this.before.size, this.after.size];
    const both = [this.before, this.after] as const;
    for (const [read, drawn] of [both, [...both].reverse()] as [Set<TextLine>, Set<TextLine>][]) {
      const words = [...read].filter(({ text }) => text);
      const outlines = [...drawn].filter(({ text }) => !text);
      const [covered, covering] = [coverOf(words, outlines), coverOf(outlines, words)];
      for (const [i, word] of words.entries()) if (covered[i]! > COVERED) read.delete(word);
      for (const [i, outline] of outlines.entries()) if (covering[i]! > COVERED) drawn.delete(outline);
    }
    return this.before.size < wordsBefore || this.after.size < wordsAfter;
  }

  /** Lines that went the same way together, the largest block first. */
  *blocks(): Generator<[TextLine, TextLine][]> {
    const votes = new Map<string, [TextLine, TextLine][]>();
    const places = placesOf([...this.after]);
    for (const a of this.before)
      for (const b of (places.get(a.key) ?? []).slice(0, 40)) {
        if (!sameLook(a, b) || offsetOf(a, b) > BLOCK_REACH) continue;
        const key = `${Math.round(b.x - a.x)} ${Math.round(b.y - a.y)}`;
        const known = votes.get(key);
        if (known) known.push([a, b]);
        else votes.set(key, [[a, b]]);
      }
    const texts = (pairs: [TextLine, TextLine][]): number => new Set(pairs.map(([a]) => a.key)).size;
    const blocks = [...votes.values()].filter((pairs) => texts(pairs) >= BLOCK).sort((p, q) => texts(q) - texts(p));
    for (const pairs of blocks) {
      const free = pairs.filter(([a, b]) => this.before.has(a) && this.after.has(b));
      if (texts(free) < BLOCK) continue;
      const [[a, b]] = free as [[TextLine, TextLine]];
      yield this.wholeRows(free, [b.x - a.x, b.y - a.y]);
    }
  }

  /** In a row that went along, a cell that seems to have stayed says what the one above it said: it went along too. */
  private wholeRows(block: [TextLine, TextLine][], [dx, dy]: readonly [number, number]): [TextLine, TextLine][] {
    const rows = new Set(block.map(([a]) => Math.round(placeOf(a)[1])));
    const [left, right] = [
      Math.min(...block.map(([a]) => placeOf(a)[0])),
      Math.max(...block.map(([a]) => placeOf(a)[0] + a.width)),
    ];
    const aside = 8 * block[0]![0].size;
    for (const [a, b] of this.same) {
      const [at, row] = placeOf(a);
      if (!rows.has(Math.round(row)) || at < left - aside || at > right + aside) continue;
      this.same.delete(a);
      this.before.add(a);
      this.after.add(b);
    }
    const there = placesOf([...this.after]);
    const more = [...this.before].flatMap((a): [TextLine, TextLine][] => {
      if (!rows.has(Math.round(placeOf(a)[1]))) return [];
      const b = there.get(a.key)?.find((one) => Math.hypot(one.x - a.x - dx, one.y - a.y - dy) < 1);
      return b ? [[a, b]] : [];
    });
    const used = new Set<TextLine>();
    return [...block, ...more].filter(([a, b]) => !used.has(a) && !used.has(b) && used.add(a) && used.add(b));
  }

  /** Other words on the same base line, from the same left end, middle or right end. */
  *inPlace(): Generator<[TextLine, TextLine]> {
    const rows = rowsOf([...this.after]);
    for (const a of [...this.before]) {
      let best: TextLine | undefined;
      let least = Infinity;
      for (const b of rows(a)) {
        if (!this.after.has(b) || !sameLook(a, b)) continue;
        const [dx, dy] = along(a, b);
        if (Math.abs(dy) > 0.5 + 0.1 * b.size) continue;
        const rest = b.width - a.width;
        const off = Math.min(Math.abs(dx), Math.abs(dx + rest / 2), Math.abs(dx + rest));
        const overlap = Math.min(a.width, dx + b.width) - Math.max(0, dx);
        if (overlap > 0 && off < BESIDE * b.size && off < least) [best, least] = [b, off];
      }
      if (best) yield [a, best];
    }
  }

  /** The same words somewhere else, the nearest pairs first. `saying`: only those that are as long and stand once. */
  *elsewhere(saying: number): Generator<[TextLine, TextLine]> {
    const [mine, theirs] = [placesOf([...this.before]), placesOf([...this.after])];
    const pairs = [...mine].flatMap(([text, all]) => {
      const there = theirs.get(text) ?? [];
      const once = all.length === 1 && there.length === 1;
      if (saying && !(once && text.length >= saying)) return [];
      return all
        .slice(0, 60)
        .flatMap((a) => there.slice(0, 60).map((b) => ({ a, b, off: offsetOf(a, b) })))
        .filter(({ off }) => once || off <= NEAR);
    });
    for (const { a, b } of pairs.sort((p, q) => p.off - q.off))
      if (this.before.has(a) && this.after.has(b)) yield [a, b];
  }

  /** Words that changed and were moved a little. */
  *alike(): Generator<[TextLine, TextLine]> {
    for (const a of [...this.before]) {
      const near = [...this.after]
        .filter((b) => sameLook(a, b) && offsetOf(a, b) < NEAR / 2 && likeness(a.key, b.key) >= ALIKE)
        .sort((p, q) => offsetOf(a, p) - offsetOf(a, q));
      if (near[0]) yield [a, near[0]];
    }
  }
}

/** Of each line, how much of its length has others on it. */
function coverOf(lines: readonly TextLine[], others: readonly TextLine[]): number[] {
  if (!others.length) return lines.map(() => 0);
  const index = new Flatbush(others.length);
  const boxes = others.map(textBox);
  for (const box of boxes) index.add(...box);
  index.finish();
  return lines.map((line) => {
    const [x0, y0, x1, y1] = textBox(line);
    const axis = x1 - x0 >= y1 - y0 ? 0 : 1;
    const [from, to] = axis ? [y0, y1] : [x0, x1];
    let covered = 0;
    for (const hit of index.search(x0, y0, x1, y1)) {
      const box = boxes[hit]!;
      covered += Math.min(to, box[axis + 2]!) - Math.max(from, box[axis]!);
    }
    return covered / (to - from);
  });
}

/** Along and across its base line. */
function placeOf({ x, y, angle }: Pick<TextLine, 'x' | 'y' | 'angle'>): [number, number] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [cos * x + sin * y, -sin * x + cos * y];
}

/** How far the second begins from the first, along and across its base line. */
const along = (a: TextLine, b: TextLine): [number, number] => placeOf({ x: b.x - a.x, y: b.y - a.y, angle: a.angle });

/** Cells of a row are this near to each other, in the size of their letters; lines of a block, too. */
const [CELLS_APART, LINES_APART] = [16, 4];

/** Words that went the same way together, and the cells of a row that came or went: each group in the order in which it is read. */
export function joinTexts(changes: readonly TextChange[]): TextChange[][] {
  const groups = new Groups(changes.length);
  const placed = changes.map(({ before, after }) => {
    const line = (after ?? before)!;
    const [from, row] = placeOf(line);
    return { line, from, to: from + line.width, row };
  });
  const order = placed
    .map((_, i) => i)
    .sort((a, b) => Math.round(placed[a]!.row) - Math.round(placed[b]!.row) || placed[a]!.from - placed[b]!.from);
  for (const [at, i] of order.entries())
    for (const k of order.slice(at + 1)) {
      const [a, b] = [placed[i]!, placed[k]!];
      const size = Math.max(a.line.size, b.line.size);
      if (b.row > a.row + LINES_APART * size) break;
      const apart = Math.max(b.from - a.to, a.from - b.to) > CELLS_APART * size;
      if (!apart && sameTurn(a.line, b.line) && wentTogether(changes[i]!, changes[k]!, b.row - a.row))
        groups.join(i, k);
    }
  const rank = new Map(order.map((i, at) => [i, at]));
  return groups.list().map((group) => group.sort((a, b) => rank.get(a)! - rank.get(b)!).map((i) => changes[i]!));
}
function wentTogether(a: TextChange, b: TextChange, rowsApart: number): boolean {
  const same = (of: 'before' | 'after'): boolean => (a[of] === undefined) === (b[of] === undefined);
  if (!same('before') || !same('after')) return false;
  if (!a.before || !a.after || !b.before || !b.after)
    return rowsApart < 1 && sameLook((a.after ?? a.before)!, (b.after ?? b.before)!);
  if (!a.shift || !b.shift || a.before.key !== a.after.key || b.before.key !== b.after.key) return false;
  return Math.hypot(a.shift[0] - b.shift[0], a.shift[1] - b.shift[1]) < 0.4;
}

/** Looks up the lines whose base line passes close to that of another one, in squares. */
function rowsOf(texts: readonly TextLine[]): (near: TextLine) => TextLine[] {
  const side = 24;
  const squares = new Map<string, TextLine[]>();
  const each = (text: TextLine, to: (key: string) => void): void => {
    const [cos, sin] = [Math.cos(text.angle), Math.sin(text.angle)];
    for (let at = 0; at <= text.width + side; at += side) {
      const reach = Math.min(at, text.width);
      to(`${Math.round((text.x + cos * reach) / side)} ${Math.round((text.y + sin * reach) / side)}`);
    }
  };
  for (const text of texts)
    each(text, (key) => {
      const known = squares.get(key);
      if (known) known.push(text);
      else squares.set(key, [text]);
    });
  return (near) => {
    const found = new Set<TextLine>();
    each(near, (key) => {
      const [x, y] = key.split(' ').map(Number);
      for (const dx of [-1, 0, 1])
        for (const dy of [-1, 0, 1]) for (const text of squares.get(`${x! + dx} ${y! + dy}`) ?? []) found.add(text);
    });
    return [...found];
  };
}

/** Part of the pairs of letters that two texts have in common (Dice). */
function likeness(a: string, b: string): number {
  const pairs = (text: string): string[] =>
    Array.from({ length: Math.max(0, text.length - 1) }, (_, i) => text.slice(i, i + 2));
  const [mine, theirs] = [pairs(a), pairs(b)];
  if (!mine.length || !theirs.length) return 0;
  const counts = new Map<string, number>();
  for (const pair of theirs) counts.set(pair, (counts.get(pair) ?? 0) + 1);
  let common = 0;
  for (const pair of mine) {
    const rest = counts.get(pair) ?? 0;
    if (rest) counts.set(pair, rest - 1);
    common += Math.min(1, rest);
  }
  return (2 * common) / (mine.length + theirs.length);
}
