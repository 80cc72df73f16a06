/** Which value belongs to which label of a title block: the whole block is written in one manner, which is found first. */
import { CHECKS, type FieldName } from './title-block-fields.ts';
import type { Label } from './title-block-labels.ts';
import type { Line } from './title-block-lines.ts';
import { isDate } from './title-block-words.ts';

export interface Value {
  text: string;
  line: Line;
}
/** Where the value of a label stands. */
const MANNERS = ['below', 'right', 'above'] as const;
type Manner = (typeof MANNERS)[number];

/** How far off a value may stand, in the size of the larger letters. */
const REACH: Record<Manner, number> = { below: 5, right: 45, above: 4 };

export type Values = Partial<Record<FieldName, Value>>;

/**
 * The values of the labels of a block. `labels`: all of it, also of what is not read; `lines`: what stands in and around it. A number and a
 * title that no label names are what is written as such, largest.
 */
export function valuesOf(labels: readonly Label[], lines: readonly Line[]): Values {
  const block = new Block(labels, lines);
  const found: Values = {};
  const taken = new Set<Line>();
  for (const label of labels)
    if (label.field === 'other' && !label.inline) {
      const line = block.find(label);
      if (line) taken.add(line);
    }
  for (const weak of [false, true])
    for (const label of labels) {
      const { field, inline } = label;
      if (field === 'other' || field === 'list' || label.weak !== weak || found[field]) continue;
      const line = inline ? label.line : block.find(label);
      const text = inline || line?.text;
      if (!line || !text || !CHECKS[field](text) || taken.has(line)) continue;
      taken.add(line);
      found[field] = field === 'title' && !inline ? { line, text: block.whole(line, taken) } : { line, text };
    }
  const says = (field: FieldName): boolean => labels.some((label) => label.field === field && !label.weak);
  const free = block.within().filter((line) => !taken.has(line));
  if (!found.number && !says('number')) {
    const line = numberIn(free);
    if (line) found.number = { line, text: line.text };
  }
  if (!found.title && !says('title')) {
    const line = titleIn(free.filter((one) => one !== found.number?.line));
    if (line) found.title = { line, text: block.whole(line, taken) };
  }
  return found;
}

/** A code of several parts, else the largest word that can be a number. */
export function numberIn(lines: readonly Line[]): Line | undefined {
  const codes = lines.filter(({ text }) => isCode(text) && !isDate(text));
  const short = lines.filter(({ text }) => /^\p{Lu}{0,4}[-.]?\d{1,6}(?:[-.]\d{1,4})?$/u.test(text) && !isDate(text));
  const biggest = Math.max(0, ...lines.map(({ size }) => size));
  return largest(codes) ?? largest(short.filter(({ size }) => size > 0.75 * biggest));
}
const isCode = (text: string): boolean => /^(?=.*\d)[A-Z0-9]{1,10}(?:[-_.][A-Z0-9]{1,10}){2,8}$/i.test(text);

export const titleIn = (lines: readonly Line[]): Line | undefined =>
  largest(lines.filter(({ text }) => /\p{L}{3}|[\u2e80-\uffee]{2}/u.test(text) && !isCode(text) && !isDate(text)));
const largest = (lines: readonly Line[]): Line | undefined => {
  let best: Line | undefined;
  for (const line of lines) if (!best || line.size > best.size) best = line;
  return best;
};

class Block {
  private readonly labelLines: ReadonlySet<Line>;
  /** With words that stand like labels: in a row with some, in letters of their size. */
  private readonly rowLines: ReadonlySet<Line>;
  private readonly inlines: number;
  private readonly manner: Manner | undefined;

  constructor(
    private readonly labels: readonly Label[],
    private readonly lines: readonly Line[],
  ) {
    this.labelLines = new Set(labels.map(({ line }) => line));
    this.rowLines = new Set([...this.labelLines, ...lines.filter((line) => this.standsLikeLabel(line))]);
    this.inlines = labels.filter(({ inline }) => inline).length;
    this.manner = this.bestManner();
  }

  /** The manner in which most labels have a value that they can have; undefined where none has. */
  private bestManner(): Manner | undefined {
    const scored = MANNERS.map((manner) => ({ manner, score: this.score(manner) }));
    const best = scored.sort((a, b) => b.score - a.score)[0]!;
    return best.score > 0 ? best.manner : undefined;
  }

  private score(manner: Manner): number {
    let score = 0;
    for (const label of this.labels) {
      if (label.inline || label.field === 'list') continue;
      const line = this.next(label, manner);
      if (!line) continue;
      const off =
        manner === 'right' ? 0.1 : Math.abs(line.y - label.line.y) / (20 * Math.max(line.size, label.line.size));
      if (label.field === 'other') score += 0.15;
      else if (CHECKS[label.field](line.text)) score += (WORTH[label.field] ?? 1) - off;
      else score -= 0.7;
    }
    return score;
  }

  /** The value of a label; undefined where its cell is empty. */
  find(label: Label): Line | undefined {
    const manner = label.colon && 3 * this.inlines > this.labels.length ? 'right' : this.manner;
    return manner && this.next(label, manner);
  }

  /** What stands next to a label in a manner; undefined where another label, or nothing, comes first. */
  private next(label: Label, manner: Manner): Line | undefined {
    const near = manner === 'right' ? this.rightOf(label.line) : this.underOrOver(label.line, manner);
    return near && !this.labelsFor(manner).has(near) ? near : undefined;
  }

  /** A title may go on in further lines, in letters of the same size, as far as nothing else begins there. */
  whole(first: Line, taken: Set<Line>): string {
    const parts = [first];
    const up = this.manner === 'above';
    while (parts.length < 4) {
      const last = parts.at(-1)!;
      const more = this.lines.find((line) => {
        const off = up ? line.y - last.y : last.y - line.y;
        const em = last.size;
        return (
          off > 0.5 * em &&
          off < 1.9 * em &&
          Math.abs(line.size - em) < 0.12 * em &&
          isUnder(line, first) &&
          !taken.has(line) &&
          !this.labelsFor(this.manner ?? 'right').has(line) &&
          !(this.manner === 'right' && this.hasLabelBefore(line))
        );
      });
      if (!more) break;
      taken.add(more);
      parts.push(more);
    }
    if (up) parts.reverse();
    return parts.map(({ text }) => text).join(' ');
  }

  /** What stands among the labels and is none. */
  within(): Line[] {
    const labels = [...this.labelLines];
    const labelled = this.labelsFor(this.manner ?? 'right');
    const em = Math.max(...labels.map(({ size }) => size));
    const [left, right] = extent(
      labels.map(({ x }) => x),
      2 * em,
      30 * em,
    );
    const [low, high] = extent(
      labels.map(({ y }) => y),
      6 * em,
      6 * em,
    );
    return this.lines.filter(
      (line) => line.x >= left && line.x <= right && line.y >= low && line.y <= high && !labelled.has(line),
    );
  }

  private standsLikeLabel(line: Line): boolean {
    if (!/\p{L}/u.test(line.text)) return false;
    for (const label of this.labelLines)
      if (Math.abs(label.y - line.y) < 0.3 * label.size && Math.abs(label.size - line.size) < 0.05 * label.size)
        return true;
    return false;
  }

  private labelsFor(manner: Manner): ReadonlySet<Line> {
    return manner === 'right' ? this.labelLines : this.rowLines;
  }

  private hasLabelBefore(line: Line): boolean {
    for (const label of this.labelLines)
      if (label.x < line.x && Math.abs(label.y - line.y) < 0.6 * Math.max(label.size, line.size)) return true;
    return false;
  }

  private rightOf(label: Line): Line | undefined {
    const end = label.x + label.width;
    let best: Line | undefined;
    for (const line of this.lines) {
      const em = Math.max(line.size, label.size);
      if (line === label || Math.abs(line.y - label.y) > 0.6 * em) continue;
      if (line.x < end - 0.4 * em || line.x - end > REACH.right * em) continue;
      if (!best || line.x < best.x) best = line;
    }
    return best;
  }

  private underOrOver(label: Line, manner: 'below' | 'above'): Line | undefined {
    const [from, to] = [label.x - 0.8 * label.size, this.endOfCell(label)];
    let best: Line | undefined;
    let least = Infinity;
    for (const line of this.lines) {
      const em = Math.max(line.size, label.size);
      const off = manner === 'below' ? label.y - line.y : line.y - label.y;
      if (line === label || off < 0.3 * em || (off > REACH[manner] * em && !this.rowLines.has(line))) continue;
      if (line.x < from || line.x >= to) continue;
      const distance = off + 0.05 * Math.abs(line.x - label.x);
      if (distance < least) [best, least] = [line, distance];
    }
    return best;
  }

  /** The cell of a label ends where the next label of its row begins. */
  private endOfCell(label: Line): number {
    let end = Infinity;
    for (const other of this.rowLines)
      if (other.x > label.x + label.width / 2 && Math.abs(other.y - label.y) < 0.5 * label.size)
        end = Math.min(end, other.x - 0.3 * label.size);
    return end;
  }
}

const extent = (values: readonly number[], before: number, behind: number): [number, number] => [
  Math.min(...values) - before,
  Math.max(...values) + behind,
];

/** Written from the same left edge, or about the same middle. */
const isUnder = (one: Line, line: Line): boolean =>
  Math.abs(one.x - line.x) < 1.2 * line.size ||
  Math.abs(one.x + one.width / 2 - line.x - line.width / 2) < 1.2 * line.size;

/** Values that look like nothing else say most about the manner. */
const WORTH: Partial<Record<FieldName, number>> = { scale: 2, date: 2, revision: 1.2, status: 0.5, title: 0.5 };
