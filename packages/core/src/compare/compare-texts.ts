/** Words of two pages that lie on each other: which stay, were moved, say something else, came or went. */
import { placesOf } from './align-pages.ts';
import type { TextLine } from './text-lines.ts';

export interface TextChange {
  before?: TextLine;
  after?: TextLine;
  /** Points on the second page, where the words are somewhere else. */
  shift?: [number, number];
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
/** Changed and moved words have at least this much in common. */
const ALIKE = 0.6;

/** `before` is mapped onto the second page already. About O(n log n); words that stand k times cost k² of them. */
export function compareTexts(before: readonly TextLine[], after: readonly TextLine[]): TextChange[] {
  const left = new Pairing(before, after);
  left.takeSame((a, b) => offsetOf(a, b) <= IN_PLACE + 0.04 * b.size);
  const changes: TextChange[] = [];
  const moved = (a: TextLine, b: TextLine): void => {
    left.take(a, b);
    changes.push({ before: a, after: b, shift: [b.x - a.x, b.y - a.y] });
  };
  for (const [a, b] of left.blocks()) moved(a, b);
  for (const [a, b] of left.elsewhere(SAYING)) moved(a, b);
  for (const [a, b] of left.inPlace()) {
    left.take(a, b);
    changes.push({ before: a, after: b });
  }
  for (const [a, b] of left.elsewhere(0)) moved(a, b);
  for (const [a, b] of left.alike()) moved(a, b);
  for (const a of left.before) changes.push({ before: a });
  for (const b of left.after) changes.push({ after: b });
  return changes;
}

const offsetOf = (a: TextLine, b: TextLine): number => Math.hypot(b.x - a.x, b.y - a.y);
const sameLook = (a: TextLine, b: TextLine): boolean =>
  Math.abs(a.size - b.size) < 0.2 * b.size && Math.abs(Math.sin((a.angle - b.angle) / 2)) < 0.05;

class Pairing {
  readonly before: Set<TextLine>;
  readonly after: Set<TextLine>;

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
      const b = places.get(a.text)?.find((one) => this.after.has(one) && sameLook(a, one) && fits(a, one));
      if (b) this.take(a, b);
    }
  }

  /** Lines that went the same way together, the largest block first. */
  *blocks(): Generator<[TextLine, TextLine]> {
    const votes = new Map<string, [TextLine, TextLine][]>();
    const places = placesOf([...this.after]);
    for (const a of this.before)
      for (const b of (places.get(a.text) ?? []).slice(0, 40)) {
        if (!sameLook(a, b) || offsetOf(a, b) > BLOCK_REACH) continue;
        const key = `${Math.round(b.x - a.x)} ${Math.round(b.y - a.y)}`;
        const known = votes.get(key);
        if (known) known.push([a, b]);
        else votes.set(key, [[a, b]]);
      }
    const texts = (pairs: [TextLine, TextLine][]): number => new Set(pairs.map(([a]) => a.text)).size;
    const blocks = [...votes.values()].filter((pairs) => texts(pairs) >= BLOCK).sort((p, q) => texts(q) - texts(p));
    for (const pairs of blocks) {
      const free = pairs.filter(([a, b]) => this.before.has(a) && this.after.has(b));
      if (texts(free) >= BLOCK) yield* free;
    }
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
        .filter((b) => sameLook(a, b) && offsetOf(a, b) < NEAR / 2 && likeness(a.text, b.text) >= ALIKE)
        .sort((p, q) => offsetOf(a, p) - offsetOf(a, q));
      if (near[0]) yield [a, near[0]];
    }
  }
}

/** How far the second begins from the first, along and across its base line. */
function along(a: TextLine, b: TextLine): [number, number] {
  const [cos, sin] = [Math.cos(a.angle), Math.sin(a.angle)];
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  return [cos * dx + sin * dy, -sin * dx + cos * dy];
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
