/** Text of a page as it is read: runs of one base line that touch, as one line. */
import { isDate } from './title-block-words.ts';
import type { TextRun } from './title-block.ts';

export type Line = TextRun;

/** One kind of dash, one kind of blank. */
export const plainText = (text: string): string =>
  text
    .replace(/[\u2010-\u2015\u2212\ufe58\uff0d]/g, '-')
    .replace(/\u00ad/g, '')
    .replace(/\s+/g, ' ')
    .trim();

/** Runs that stand behind each other on one base line belong together: programs write words, letters or whole lines. O(n log n). */
export function joinRuns(runs: readonly TextRun[]): Line[] {
  const rows = rowsOf(runs.filter(({ text }) => text.trim()).map((run) => ({ ...run })));
  return rows.flatMap(joinRow).map((line) => ({ ...line, text: plainText(line.text) }));
}

/** Runs by their base lines, from above to below. */
function rowsOf(runs: Line[]): Line[][] {
  runs.sort((a, b) => b.y - a.y);
  const rows: Line[][] = [];
  for (const run of runs) {
    const row = rows.at(-1);
    if (row && row[0]!.y - run.y < 0.25 * Math.min(row[0]!.size, run.size)) row.push(run);
    else rows.push([run]);
  }
  return rows;
}

function joinRow(row: Line[]): Line[] {
  row.sort((a, b) => a.x - b.x);
  const lines: Line[] = [];
  for (const [i, run] of row.entries()) {
    const last = lines.at(-1);
    const gap = last ? run.x - (last.x + last.width) : Infinity;
    const alike = last && Math.abs(last.size - run.size) < 0.2 * Math.max(last.size, run.size);
    if (alike && gap > -last.size && gap < widestGap(last, run, row[i + 1]) * last.size) {
      last.text = `${last.text}${gap > 0.12 * last.size && !last.text.endsWith(' ') ? ' ' : ''}${run.text}`;
      last.width = run.x + run.width - last.x;
    } else lines.push(run);
  }
  return lines;
}

/** Between words of a line, in the size of the letters; “D R A W I N G   N O” has wider ones, until words are written close again. */
function widestGap(last: Line, run: Line, next: Line | undefined): number {
  const spaced = /^\S$/.test(run.text) && /(?:^| )\S$/.test(last.text);
  const closeAgain = next && next.x - (run.x + run.width) < 0.12 * run.size;
  if (spaced && !closeAgain) return 2.2;
  // A date is what stands in a narrow cell beside a name.
  return isDate(run.text) ? 0.4 : 0.75;
}
