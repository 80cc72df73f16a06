/**
 * Reads the title block of a sheet from the text on the page: labels and values are found by what they say and how they stand to each
 * other, not at fixed places, so that title blocks of any office can be read.
 */

import { isDate, LABELS } from './title-block-words.ts';

/** A run of text in the page's own points, origin lower left; `x`, `y` are the left end of its base line. */
export interface TextRun {
  text: string;
  x: number;
  y: number;
  width: number;
  /** Height of the letters. */
  size: number;
  /** Quarter turns against the clock from upright; 0 when absent. */
  turn?: number;
}

export interface TitleBlock {
  number: string;
  title: string;
  revision: string;
  status: string;
  scale: string;
  date: string;
}
export const TITLE_BLOCK_FIELDS = ['number', 'title', 'revision', 'status', 'scale', 'date'] as const;
type FieldName = (typeof TITLE_BLOCK_FIELDS)[number];

const REVISION = /^[A-Za-z]{0,3}[-.]?\d{0,3}(?:\.\d{1,2})?$/;
/** “3 of 12”, “3/12”: which of the sheets, not its number. */
const isSheetCount = (value: string): boolean =>
  /^\d{1,4} ?(?:\/|of|von|de|di|da|z|van|af|av|sur) ?\d{1,4}$/i.test(value);

const CHECKS: Record<FieldName, (value: string) => boolean> = {
  number: (value) =>
    /\d/.test(value) && value.length <= 60 && !/^\d+\s*:\s*\d+/.test(value) && !isDate(value) && !isSheetCount(value),
  title: (value) => /\p{L}{2}/u.test(value),
  revision: (value) => value.length > 0 && value.length <= 8 && REVISION.test(value) && /[A-Za-z0-9]/.test(value),
  status: (value) => value.length > 0 && value.length <= 60,
  scale: (value) =>
    /\b1 ?[:/] ?\d|\d ?(?:"|″|in).*=|^(?:nts|n\.t\.s\.?|not to scale|as (?:shown|noted|indicated)|varies|ohne|unmaßstäblich|-)/i.test(
      value,
    ),
  date: (value) => isDate(value),
};

interface Label {
  field: FieldName;
  run: Line;
  /** What stands behind the label in the same run. */
  inline: string;
}
interface Candidate {
  value: string;
  run: Line;
  score: number;
}
/** Runs of one base line that touch, read as one. */
type Line = TextRun;

export interface PageText {
  width: number;
  height: number;
  runs: readonly TextRun[];
}

const NOTHING: TitleBlock = { number: '', title: '', revision: '', status: '', scale: '', date: '' };

/**
 * What the title block of a page says; fields that are not found are empty. Title blocks along an edge are often written upwards, so
 * each direction of writing is read by itself, and the fullest answer counts. Time grows as n log n with the runs of the page.
 */
export function readTitleBlock(page: PageText): TitleBlock {
  const turns = [...new Set(page.runs.map(({ turn = 0 }) => turn))];
  const blocks = turns.map((turn) => readUpright(upright(page, turn)));
  const fullness = (block: TitleBlock): number => TITLE_BLOCK_FIELDS.filter((field) => block[field]).length;
  return blocks.sort((a, b) => fullness(b) - fullness(a))[0] ?? { ...NOTHING };
}

/** The runs of one direction, with the page turned so that they stand upright. */
function upright({ width, height, runs }: PageText, turn: number): PageText {
  const here = runs.filter((run) => (run.turn ?? 0) === turn);
  const place: Record<number, (x: number, y: number) => [number, number]> = {
    0: (x, y) => [x, y],
    1: (x, y) => [y, width - x],
    2: (x, y) => [width - x, height - y],
    3: (x, y) => [height - y, x],
  };
  const sideways = turn % 2 === 1;
  return {
    width: sideways ? height : width,
    height: sideways ? width : height,
    runs: here.map((run) => {
      const [x, y] = place[turn]!(run.x, run.y);
      return { ...run, x, y };
    }),
  };
}

function readUpright(page: PageText): TitleBlock {
  const lines = joinRuns(page.runs);
  const labels = lines.flatMap((run) => labelsOf(run));
  const block = { ...NOTHING };
  if (labels.length) {
    const region = titleRegion(labels, page);
    const near = lines.filter((line) => inside(line, region));
    const nearLabels = labels.filter(({ run }) => inside(run, region));
    const labelRuns = new Set(labels.map(({ run }) => run));
    const taken = new Set<Line>();
    // Fields whose values look like nothing else come first and take them away from the others.
    for (const field of ['scale', 'date', 'revision', 'number', 'status', 'title'] as const) {
      const candidates = nearLabels
        .filter((label) => label.field === field)
        .flatMap((label) => valuesOf(label, nearLabels, near, labelRuns, taken, page));
      const best = candidates.sort((a, b) => b.score - a.score)[0];
      if (!best) continue;
      taken.add(best.run);
      block[field] = field === 'title' ? withFollowing(best, near, labelRuns, taken) : best.value;
    }
    if (!block.number) block.number = codeIn(near, page)?.text ?? '';
    if (!block.title) block.title = largestText(near, taken, labelRuns, block.number);
  } else {
    const code = codeIn(lines, page);
    if (code) {
      block.number = code.text;
      block.title = largestText(
        lines.filter((line) => Math.hypot(line.x - code.x, line.y - code.y) < page.width / 4),
        new Set([code]),
        new Set(),
        code.text,
      );
    }
  }
  return tidy(block);
}

/** Runs that stand behind each other on one base line belong together: programs write words, letters or whole lines. */
function joinRuns(runs: readonly TextRun[]): Line[] {
  const sorted = runs
    .filter(({ text }) => text.trim())
    .map((run) => ({ ...run }))
    .sort((a, b) => Math.round((b.y - a.y) * 2) || a.x - b.x);
  const lines: Line[] = [];
  for (const run of sorted) {
    const last = lines.at(-1);
    const gap = last ? run.x - (last.x + last.width) : Infinity;
    const sameLine = last && Math.abs(last.y - run.y) < 0.3 * Math.max(last.size, run.size);
    if (sameLine && Math.abs(last.size - run.size) < 0.2 * last.size && gap > -last.size && gap < 0.75 * last.size) {
      last.text = `${last.text}${gap > 0.12 * last.size && !last.text.endsWith(' ') ? ' ' : ''}${run.text}`;
      last.width = run.x + run.width - last.x;
    } else lines.push(run);
  }
  return lines.map((line) => ({ ...line, text: plain(line.text) }));
}

/** One kind of dash, one kind of blank. */
const plain = (text: string): string =>
  text
    .replace(/[\u2010-\u2015\u2212\ufe58\uff0d]/g, '-')
    .replace(/\u00ad/g, '')
    .replace(/\s+/g, ' ')
    .trim();
/** “D R A W I N G” is a word: every other letter is a blank. */
const closed = (text: string): string => (/^(?:\S ){3,}\S$/.test(text) ? text.replaceAll(' ', '') : text);

function labelsOf(run: Line): Label[] {
  const [head = '', ...rest] = run.text.split(/ ?[:：] ?(?!\d)| ?[:：] /);
  const word = head
    .toLowerCase()
    .replace(/[.:#]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const bare = closed(word.replace(/ ?#$/, ''));
  for (const field of TITLE_BLOCK_FIELDS) {
    if (LABELS[field].test(bare)) return [{ field, run, inline: rest.join(': ').trim() }];
  }
  // “Rev P02”, “Scale 1:100”: a label and its value in one run, without a colon.
  const split = /^(\p{L}[\p{L}.]*(?:\s(?:no|nr|number)\.?)?)\s+(\S.*)$/iu.exec(run.text);
  if (split) {
    const first = split[1]!.toLowerCase().replace(/\./g, '').trim();
    for (const field of ['revision', 'scale', 'date', 'number'] as const)
      if (LABELS[field].test(first) && CHECKS[field](split[2]!)) return [{ field, run, inline: split[2]! }];
  }
  return [];
}

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
const inside = ({ x, y }: Line, { x0, y0, x1, y1 }: Box): boolean => x >= x0 && x <= x1 && y >= y0 && y <= y1;

/**
 * The part of the page with the most different labels: title blocks are where labels gather, at the lower right more often than elsewhere.
 */
function titleRegion(labels: Label[], { width, height }: PageText): Box {
  const reachX = Math.max(0.28 * width, 180);
  const reachY = Math.max(0.34 * height, 140);
  let best: Box = { x0: 0, y0: 0, x1: width, y1: height };
  let bestScore = -Infinity;
  const centres = labels.length > 200 ? labels.filter(({ field }) => field === 'number' || field === 'scale') : labels;
  for (const { run } of centres.slice(0, 400)) {
    const box = { x0: run.x - reachX, y0: run.y - reachY, x1: run.x + reachX, y1: run.y + reachY };
    const fields = new Set(labels.filter((label) => inside(label.run, box)).map(({ field }) => field));
    const corner = run.x / width + (1 - run.y / height);
    const score = fields.size + 0.6 * corner;
    if (score > bestScore) [best, bestScore] = [box, score];
  }
  return best;
}

/** Labels of a title block stand together; the caption of a detail, with a scale of its own, stands alone. */
function companyOf(field: FieldName, run: Line, labels: readonly Label[]): number {
  const others = new Set<FieldName>();
  for (const label of labels)
    if (
      label.field !== field &&
      Math.abs(label.run.y - run.y) < 12 * run.size &&
      Math.abs(label.run.x - run.x) < 40 * run.size
    )
      others.add(label.field);
  return Math.min(20, 6 * others.size);
}

/** Where the cell of a label ends: at the next label of its line, or after a while. */
function endOfCell(run: Line, labels: readonly Label[]): number {
  const after = labels
    .filter((label) => label.run.x > run.x + run.width / 2 && Math.abs(label.run.y - run.y) < 0.7 * run.size)
    .map((label) => label.run.x);
  return Math.min(run.x + Math.max(run.width, 14 * run.size), ...after) - 0.3 * run.size;
}

/** A label that stands between another one and a value owns that value: what is left of the other one's cell is empty. */
function standsBetween(other: Line, label: Line, value: Line): boolean {
  const half = 0.4 * Math.max(label.size, other.size);
  const sameLine = Math.abs(label.y - value.y) < 2 * half;
  if (sameLine)
    return Math.abs(other.y - value.y) < 2 * half && other.x > label.x && other.x + other.width <= value.x + half;
  const [top, bottom] = label.y > value.y ? [label.y, value.y] : [value.y, label.y];
  return other.y < top - half && other.y > bottom + half && Math.abs(other.x - label.x) < 3 * label.size;
}

/** Values that may belong to a label: behind it in its run, to the right on its line, below it, or above it. */
function valuesOf(
  { field, run, inline }: Label,
  labels: readonly Label[],
  lines: readonly Line[],
  labelRuns: ReadonlySet<Line>,
  taken: ReadonlySet<Line>,
  page: PageText,
): Candidate[] {
  const check = CHECKS[field];
  const corner = 4 * (run.x / page.width) - 4 * (run.y / page.height);
  const company = companyOf(field, run, labels);
  if (inline) return check(inline) ? [{ value: inline, run, score: 34 + corner + company }] : [];
  const candidates: Candidate[] = [];
  const cellEnd = endOfCell(run, labels);
  for (const line of lines) {
    if (line === run || labelRuns.has(line) || taken.has(line) || !check(line.text)) continue;
    const unit = Math.max(run.size, line.size);
    const gapRight = line.x - (run.x + run.width);
    const rise = line.y - run.y;
    const overlap = Math.min(run.x + Math.max(run.width, 4 * unit), line.x + line.width) - Math.max(run.x, line.x);
    const aligned = Math.abs(line.x - run.x) < 2 * unit || overlap > 0 || (line.x > run.x && line.x < cellEnd);
    if (labels.some((other) => other.run !== run && standsBetween(other.run, run, line))) continue;
    if (Math.abs(rise) < 0.7 * unit && gapRight > -0.5 * unit && gapRight < 14 * unit)
      candidates.push({ value: line.text, run: line, score: 30 - gapRight / unit + corner + company });
    else if (rise < 0 && -rise < 4.5 * unit && aligned)
      candidates.push({
        value: line.text,
        run: line,
        score: 27 + (3 * rise) / unit - Math.abs(line.x - run.x) / unit / 2 + corner + company,
      });
    else if (rise > 0 && rise < 2.6 * unit && aligned)
      candidates.push({ value: line.text, run: line, score: 12 - (3 * rise) / unit + corner + company });
  }
  return candidates;
}

/** A title may go on in the lines below, in letters of the same size. */
function withFollowing(
  { value, run }: Candidate,
  lines: readonly Line[],
  labelRuns: ReadonlySet<Line>,
  taken: Set<Line>,
): string {
  const parts = [value];
  let last = run;
  for (let i = 0; i < 3; i++) {
    const next = lines.find(
      (line) =>
        !labelRuns.has(line) &&
        !taken.has(line) &&
        Math.abs(line.size - run.size) < 0.12 * run.size &&
        Math.abs(line.x - run.x) < 1.2 * run.size &&
        last.y - line.y > 0.5 * run.size &&
        last.y - line.y < 1.9 * run.size &&
        /\p{L}{2}/u.test(line.text),
    );
    if (!next) break;
    taken.add(next);
    parts.push(next.text);
    last = next;
  }
  return parts.join(' ');
}

/** Text that can only be a coded number: several parts joined by separators, with a digit; the nearest to the lower right, then the largest. */
function codeIn(lines: readonly Line[], { width, height }: PageText): Line | undefined {
  return lines
    .filter(({ text }) => /^(?=.*\d)[A-Z0-9]{1,10}(?:[-_.][A-Z0-9]{1,10}){1,8}$/i.test(text) && !isDate(text))
    .map((line) => ({
      line,
      score: line.x / width - line.y / height + line.size / 20 + line.text.split(/[-_.]/).length / 6,
    }))
    .sort((a, b) => b.score - a.score)[0]?.line;
}

function largestText(
  lines: readonly Line[],
  taken: ReadonlySet<Line>,
  labelRuns: ReadonlySet<Line>,
  number: string,
): string {
  const best = lines
    .filter((line) => !taken.has(line) && !labelRuns.has(line) && line.text !== number && /\p{L}{3}/u.test(line.text))
    .sort((a, b) => b.size - a.size)[0];
  return best?.text ?? '';
}

const tidy = (block: TitleBlock): TitleBlock => ({
  number: block.number.slice(0, 80),
  title: block.title.slice(0, 200),
  revision: block.revision.slice(0, 20),
  status: block.status.slice(0, 20),
  scale: block.scale.replace(/ ?: ?/, ':').slice(0, 40),
  date: block.date.slice(0, 40),
});
