/** Which lines of a page are labels of a title block, which of them stand together, and which only head a list. */
import type { Line } from './title-block-lines.ts';
import { LABELS, OTHER_LABELS, REVISION_LIST } from './title-block-words.ts';
import { CHECKS, TITLE_BLOCK_FIELDS, type FieldName } from './title-block-fields.ts';

export interface Label {
  /** `other`: of something that is not read; `list`: of a column that only a list of revisions has. */
  field: FieldName | 'other' | 'list';
  line: Line;
  /** What stands behind the label in the same line. */
  inline: string;
  /** The line ends in a colon or has a value: what stands below is not its value. */
  colon: boolean;
  /** Its word says it only where no better one does. */
  weak: boolean;
}

/** Words that number sheets on some blocks and mean something else on others. */
const WEAK = /^(?:sheet|number|no|nr|nummer|index|data|date|datum|plan|desenho)$/u;

const bareOf = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[.:：#\s]+/g, '')
    .replace(/[-,]$/, '');

function fieldOf(text: string): Label['field'] | undefined {
  const bare = bareOf(text);
  if (!bare || bare.length > 40) return undefined;
  for (const field of TITLE_BLOCK_FIELDS) if (LABELS[field].test(bare)) return field;
  if (REVISION_LIST.test(bare)) return 'list';
  if (OTHER_LABELS.test(bare)) return 'other';
  // “Scale / Maßstab”: one label in two languages.
  const parts = text.split(/ ?[/|] ?/);
  if (parts.length < 2 || parts.length > 3 || parts.some((part) => !part)) return undefined;
  const [first, ...more] = parts.map(fieldOf);
  return first && more.every((field) => field === first) ? first : undefined;
}

export function labelOf(line: Line): Label | undefined {
  const at = line.text.search(/[:：]/u);
  const colon = at >= 0;
  const head = colon ? line.text.slice(0, at) : line.text;
  const field = fieldOf(head);
  const inline = colon ? line.text.slice(at + 1).trim() : '';
  if (field) return { field, line, inline, colon, weak: WEAK.test(bareOf(head)) };
  return withValueBehind(line);
}

/** More words than these no label has. */
const MOST_WORDS = 3;
const CLOSE: ReadonlySet<Label['field']> = new Set(['revision', 'scale', 'date', 'number']);

/** “Rev P02”, “Scale 1:100”, “T I T L E Roof plan”: a label and its value in one line, without a colon. */
function withValueBehind(line: Line): Label | undefined {
  if (!/^\p{L}/u.test(line.text) || line.text.length > 160) return undefined;
  const words = line.text.split(' ');
  const letters = words.findIndex((word) => word.length > 1);
  const spaced = letters === -1 ? words.length : letters;
  for (let count = Math.min(Math.max(MOST_WORDS, spaced), words.length - 1); count > 0; count--) {
    const field = fieldOf(words.slice(0, count).join(' '));
    const inline = words.slice(count).join(' ');
    if (!field || field === 'other' || field === 'list' || !CHECKS[field](inline)) continue;
    if (CLOSE.has(field) || (count > MOST_WORDS && count <= spaced))
      return { field, line, inline, colon: false, weak: WEAK.test(bareOf(words[0]!)) };
  }
  return undefined;
}

/** A page with more labels than these has its lists found by the first of them. */
const MOST_HEADS = 2000;
/** Rows of a list follow each other within so many times the size of their letters. */
const LIST_ROW = 3.2;

/**
 * Labels that head the columns of lists, and the lines in these: two or more values of one kind stand below (or above) each other. A list
 * of revisions is known by its words too. O(n log n) for lines and the few labels of a page.
 */
export function listsOf(labels: readonly Label[], lines: readonly Line[]): { heads: Set<Line>; rows: Set<Line> } {
  const heads = new Set<Line>();
  const rows = new Set<Line>();
  const labelLines = new Set(labels.map(({ line }) => line));
  const columns = columnsOf(lines);
  for (const { field, line, inline } of labels.slice(0, MOST_HEADS)) {
    if (inline || field === 'list' || field === 'status' || field === 'title' || field === 'other') continue;
    for (const down of [true, false]) {
      const column = follow(line, columns, labelLines, down).filter(({ text }) => CHECKS[field](text));
      if (column.length < 2) continue;
      heads.add(line);
      column.forEach((row) => rows.add(row));
    }
  }
  // What stands on one line with the head of a list heads it too.
  const besides = (label: Label, head: Line): boolean =>
    Math.abs(label.line.y - head.y) < 0.3 * head.size && Math.abs(label.line.size - head.size) < 0.1 * head.size;
  const first = [...labels.filter(({ field }) => field === 'list').map(({ line }) => line), ...heads].slice(
    0,
    MOST_HEADS,
  );
  for (const head of first) for (const label of labels) if (besides(label, head)) heads.add(label.line);
  for (const head of heads)
    for (const row of follow(head, columns, labelLines, true).slice(0, 400))
      if (Math.abs(row.size - head.size) < 0.25 * head.size) rows.add(row);
  return { heads, rows };
}

/** Lines by where they begin, in steps of a point, from above to below. */
function columnsOf(lines: readonly Line[]): Map<number, Line[]> {
  const columns = new Map<number, Line[]>();
  for (const line of [...lines].sort((a, b) => b.y - a.y)) {
    const key = Math.round(line.x / 4);
    const column = columns.get(key);
    if (column) column.push(line);
    else columns.set(key, [line]);
  }
  return columns;
}

/** The lines that follow one in its column without a wide gap, until the next label. */
function follow(head: Line, columns: ReadonlyMap<number, Line[]>, labels: ReadonlySet<Line>, down: boolean): Line[] {
  const key = Math.round(head.x / 4);
  const near = [-1, 0, 1].flatMap((aside) => columns.get(key + aside) ?? []);
  const side = near
    .filter((line) => (down ? line.y < head.y - 0.3 * head.size : line.y > head.y + 0.3 * head.size))
    .sort((a, b) => (down ? b.y - a.y : a.y - b.y));
  const found: Line[] = [];
  let at = head.y;
  for (const line of side) {
    if (labels.has(line) || Math.abs(line.y - at) > LIST_ROW * Math.max(head.size, line.size)) break;
    if (found[0] && Math.abs(found[0].size - line.size) > 0.1 * line.size) break;
    found.push(line);
    at = line.y;
  }
  return found;
}

/** More labels than these are looked at no further. */
const MOST_LABELS = 400;

/**
 * The labels of the title block: of those that stand together (in a row of one size, in a column, close to each other) the group with the
 * most different fields, at the lower right more often than elsewhere.
 */
export function blockOf(labels: readonly Label[], { width, height }: { width: number; height: number }): Label[] {
  const corner = ({ line }: Label): number => line.x / width + (1 - line.y / height);
  const all = [...labels].sort((a, b) => corner(b) - corner(a)).slice(0, MOST_LABELS);
  const group = all.map((_, i) => i);
  const root = (i: number): number => {
    while (group[i] !== i) i = group[i] = group[group[i]!]!;
    return i;
  };
  for (let i = 0; i < all.length; i++)
    for (let j = i + 1; j < all.length; j++) if (together(all[i]!.line, all[j]!.line)) group[root(i)] = root(j);
  const groups = new Map<number, Label[]>();
  all.forEach((label, i) => {
    const found = groups.get(root(i));
    if (found) found.push(label);
    else groups.set(root(i), [label]);
  });
  const score = (group: Label[]): number => {
    const fields = new Set(group.map(({ field, weak }) => (weak ? undefined : field)));
    fields.delete('other');
    fields.delete('list');
    const others = group.filter(({ field, weak }) => field === 'other' || weak).length;
    return fields.size + Math.min(2, 0.25 * others) + 0.6 * Math.max(...group.map(corner));
  };
  return (
    [...groups.values()]
      .filter((group) => group.some(({ field }) => field !== 'other' && field !== 'list'))
      .sort((a, b) => score(b) - score(a))[0] ?? []
  );
}

function together(a: Line, b: Line): boolean {
  const em = Math.max(a.size, b.size);
  const [dx, dy] = [Math.abs(a.x - b.x), Math.abs(a.y - b.y)];
  const alike = Math.abs(a.size - b.size) < 0.15 * em;
  if (alike && dy < 0.5 * em) return dx < 250 * em;
  if (dx < 3 * em) return dy < 14 * em;
  return dx < 25 * em && dy < 6 * em;
}
