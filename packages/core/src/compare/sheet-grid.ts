/** The grid that a drawing has of its own: lines across it with a letter or a number in line with their ends. */
import { lengthOf, pieceCount, type Linework } from './linework.ts';
import type { Place } from './numbered.ts';
import { textBox, type TextLine } from './text-lines.ts';

export interface GridLine {
  name: string;
  /** Points. */
  at: number;
}
export interface SheetGrid {
  /** Upright lines from left to right, level ones from top to bottom; at least one of both is not empty. */
  upright: GridLine[];
  level: GridLine[];
}

const NAME = /^(?:[A-Z]{1,2}|\d{1,2}(?:\.\d)?)['’]?$/;
/** A line of a grid is as long as this part of the page; fewer lines than these are none. */
const [LONG, FEW] = [0.2, 3];
/** A name stands in line within so many points, beyond an end of it by so many. */
const [IN_LINE, BEYOND] = [4, 60];
/** Strokes whose distance is less than this are one line, points. */
const STEP = 1;

/** O(n) of the pieces. */
export function gridOf(page: {
  width: number;
  height: number;
  linework: Linework;
  texts: readonly TextLine[];
}): SheetGrid | undefined {
  const names = page.texts.filter(({ text }) => NAME.test(text));
  if (names.length < FEW) return undefined;
  const upright = linesAlong(page.linework, 0, LONG * page.height);
  const level = linesAlong(page.linework, 1, LONG * page.width);
  const grid = { upright: named(upright, names, 0), level: named(level, names, 1) };
  return grid.upright.length || grid.level.length ? grid : undefined;
}

interface Axis {
  at: number;
  from: number;
  to: number;
}
/** Straight lines of which all have the same x (0) or y (1), their strokes put together. */
function linesAlong(linework: Linework, axis: 0 | 1, least: number): Map<number, Axis> {
  const found = new Map<number, Axis & { length: number }>();
  for (let i = 0; i < pieceCount(linework); i++) {
    const ends = linework.ends.subarray(4 * i, 4 * i + 4);
    if (Math.abs(ends[axis]! - ends[axis + 2]!) > 0.1) continue;
    const [from, to] = [ends[1 - axis]!, ends[3 - axis]!].sort((a, b) => a - b) as [number, number];
    const key = Math.round(ends[axis]! / STEP);
    const known = found.get(key);
    if (!known) found.set(key, { at: ends[axis]!, from, to, length: lengthOf(linework, i) });
    else {
      known.from = Math.min(known.from, from);
      known.to = Math.max(known.to, to);
      known.length += lengthOf(linework, i);
    }
  }
  return new Map([...found].filter(([, { length }]) => length >= least));
}

/** Lines with the names at their ends, where these stand in a row and in order. */
function named(lines: ReadonlyMap<number, Axis>, names: readonly TextLine[], axis: 0 | 1): GridLine[] {
  const rows = new Map<number, GridLine[]>();
  for (const name of names) {
    const box = textBox(name);
    const middle = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2] as const;
    const line = nearest(lines, middle[axis]);
    if (!line) continue;
    const along = middle[axis ? 0 : 1];
    const beyond = Math.min(Math.abs(along - line.from), Math.abs(along - line.to));
    if (beyond > BEYOND) continue;
    const row = Math.round(along / (2 * IN_LINE));
    rows.set(row, [...(rows.get(row) ?? []), { name: name.text, at: line.at }]);
  }
  const best = [...rows.values()].reduce((a, b) => (b.length > a.length ? b : a), [] as GridLine[]);
  best.sort((a, b) => a.at - b.at);
  const ordered = [...best].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const inOrder = best.every((one, i) => one === ordered[i] || one === ordered[best.length - 1 - i]);
  return best.length >= FEW && inOrder ? best : [];
}
function nearest(lines: ReadonlyMap<number, Axis>, at: number): Axis | undefined {
  let [best, least] = [undefined as Axis | undefined, IN_LINE];
  for (let key = Math.floor((at - IN_LINE) / STEP); key <= Math.ceil((at + IN_LINE) / STEP); key++) {
    const line = lines.get(key);
    if (line && Math.abs(line.at - at) <= least) [best, least] = [line, Math.abs(line.at - at)];
  }
  return best;
}

/** “C–D / 2”: between the lines that the middle of a place lies between, or on one; none outside of the grid. */
export function gridReference([x, y, width, height]: Place, { upright, level }: SheetGrid): string | undefined {
  const parts = [
    upright.length ? between(upright, x + width / 2) : '',
    level.length ? between(level, y + height / 2) : '',
  ];
  return parts.includes(undefined) ? undefined : parts.filter(Boolean).join(' / ');
}
/** A place so near to a line is on it, in parts of the field. */
const ON = 0.1;
function between(lines: readonly GridLine[], at: number): string | undefined {
  const next = lines.findIndex((line) => line.at >= at);
  if (next === 0) return lines[0]!.at - at < ON * (lines[1]!.at - lines[0]!.at) ? lines[0]!.name : undefined;
  const [a, b] = next < 0 ? lines.slice(-2) : lines.slice(next - 1, next + 1);
  const near = ON * (b!.at - a!.at);
  if (Math.abs(at - a!.at) < near) return a!.name;
  if (Math.abs(at - b!.at) < near) return b!.name;
  return next < 0 ? undefined : `${a!.name}–${b!.name}`;
}
