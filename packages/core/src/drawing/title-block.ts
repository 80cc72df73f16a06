/**
 * Reads the title block of a sheet from the text on the page: labels and values are found by what they say and how they stand to each
 * other, not at fixed places, so that title blocks of any office can be read.
 */

import { TITLE_BLOCK_FIELDS, type TitleBlock } from './title-block-fields.ts';
import { blockOf, labelOf, listsOf, type Label } from './title-block-labels.ts';
import { joinRuns, type Line } from './title-block-lines.ts';
import { titleIn, valuesOf } from './title-block-values.ts';
import { isDate } from './title-block-words.ts';

export { TITLE_BLOCK_FIELDS, type TitleBlock };

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
  const labels = lines.flatMap((line) => labelOf(line) ?? []);
  const lists = listsOf(labels, lines);
  const block = blockOf(
    labels.filter(({ line }) => !lists.heads.has(line)),
    page,
  );
  if (!block.length) return tidy(readUnlabelled(lines, page));
  const near = around(block, lines).filter((line) => !lists.rows.has(line) && !lists.heads.has(line));
  const values = valuesOf(block, near);
  const read = { ...NOTHING };
  for (const field of TITLE_BLOCK_FIELDS) read[field] = values[field]?.text ?? '';
  return tidy(read);
}

/** A sheet without a label: its number is the text that can only be one, its title the largest text beside that. */
function readUnlabelled(lines: readonly Line[], page: PageText): TitleBlock {
  const code = codeIn(lines, page);
  if (!code) return { ...NOTHING };
  const near = lines.filter((line) => Math.hypot(line.x - code.x, line.y - code.y) < page.width / 4);
  return { ...NOTHING, number: code.text, title: titleIn(near.filter((line) => line !== code))?.text ?? '' };
}

/** The lines that stand among the labels of a block, and close around them. */
function around(block: readonly Label[], lines: readonly Line[]): Line[] {
  const em = Math.max(...block.map(({ line }) => line.size));
  const xs = block.map(({ line }) => line.x);
  const ys = block.map(({ line }) => line.y);
  const [left, right] = [Math.min(...xs) - 4 * em, Math.max(...xs) + 45 * em];
  const [low, high] = [Math.min(...ys) - 8 * em, Math.max(...ys) + 8 * em];
  return lines.filter(({ x, y }) => x >= left && x <= right && y >= low && y <= high);
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

/** A code of several parts has no blanks: what looks like one is room that a program left between letters. */
const withoutRoom = (number: string): string =>
  (number.match(/[-_.]/g) ?? []).length >= 3 ? number.replaceAll(' ', '') : number;

const tidy = (block: TitleBlock): TitleBlock => ({
  number: withoutRoom(block.number).slice(0, 80),
  title: block.title.slice(0, 200),
  revision: block.revision.slice(0, 20),
  status: block.status.slice(0, 60),
  scale: block.scale.replace(/ ?: ?/, ':').slice(0, 40),
  date: block.date.slice(0, 40),
});
