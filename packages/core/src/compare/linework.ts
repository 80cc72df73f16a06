/** The lines of a sheet as straight pieces that do not depend on how a program wrote them: joined, split, doubled, in any order. */
import type { SheetVectors } from '../drawing/vectors/sheet-vectors.ts';
import type { Similarity } from './similarity.ts';

/** Straight pieces in points of the page as displayed; y down. */
export interface Linework {
  /** x0, y0, x1, y1 by piece. */
  ends: Float64Array;
  /** Index into the styles of the sheet, by piece. */
  styles: Uint32Array;
  /** Longest gap of its dashes, points; 0 for whole lines. By piece. */
  gaps: Float32Array;
}

export const pieceCount = ({ styles }: Linework): number => styles.length;
export const lengthOf = ({ ends }: Linework, i: number): number =>
  Math.hypot(ends[4 * i + 2]! - ends[4 * i]!, ends[4 * i + 3]! - ends[4 * i + 1]!);

/** What is white is not seen on paper. */
export const isUnseen = (colour: string): boolean => colour === '#ffffff';
/** Ends that are nearer than this are one, points. */
const SAME_END = 0.02;
/** Two pieces that bend less than this are one line (sine of the angle). */
const STRAIGHT = 0.002;

/** Pieces of no style in particular, as x0, y0, x1, y1. */
export const lineworkFrom = (all: readonly (readonly number[])[]): Linework => ({
  ends: Float64Array.from(all.flat()),
  styles: new Uint32Array(all.length),
  gaps: new Float32Array(all.length),
});

/** All that is drawn with lines and edges, except for some chains. O(n log n) of its points. */
export function lineworkOf(
  { starts, styleOf, points, styles }: SheetVectors,
  without: ReadonlySet<number> = new Set(),
): Linework {
  const ends: number[] = [];
  const styleNumbers: number[] = [];
  const add = (style: number, x0: number, y0: number, x1: number, y1: number): void => {
    if (x0 === x1 && y0 === y1) return;
    ends.push(x0, y0, x1, y1);
    styleNumbers.push(style);
  };
  for (let chain = 0; chain + 1 < starts.length; chain++) {
    const style = styles[styleOf[chain]!]!;
    if (isUnseen(style.colour) || without.has(chain)) continue;
    const [from, to] = [starts[chain]!, starts[chain + 1]!];
    for (let i = from; i + 1 < to; i++)
      add(styleOf[chain]!, points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!);
    if (style.kind === 'area')
      add(styleOf[chain]!, points[2 * to - 2]!, points[2 * to - 1]!, points[2 * from]!, points[2 * from + 1]!);
  }
  const joined = joinStraight(ends, styleNumbers);
  const gaps = styles.map(({ dash }) => longestGap(dash));
  return {
    ends: Float64Array.from(joined.ends),
    styles: Uint32Array.from(joined.styles),
    gaps: Float32Array.from(joined.styles, (style) => gaps[style]!),
  };
}

const longestGap = (dash: readonly number[]): number =>
  Math.max(0, ...(dash.length % 2 ? [...dash, ...dash] : dash).filter((_, i) => i % 2 === 1));

/**
 * Pieces of one style that lie on one line and touch or overlap become one. Lines are told apart by their direction and their distance
 * from where they come closest to the origin, so long ones are found exactly, short ones within what their ends allow. O(n log n).
 */
function joinStraight(ends: number[], styles: number[]): { ends: number[]; styles: number[] } {
  const count = styles.length;
  const rays = Array.from({ length: count }, (_, i) => rayOf(ends, i));
  const order = rays.map((_, i) => i);
  order.sort((a, b) => {
    const [p, q] = [rays[a]!, rays[b]!];
    return styles[a]! - styles[b]! || p.turn - q.turn || p.row - q.row || p.from - q.from;
  });
  const out = { ends: [] as number[], styles: [] as number[] };
  let k = 0;
  while (k < count) {
    const first = order[k]!;
    const ray = rays[first]!;
    let to = ray.to;
    let j = k + 1;
    for (; j < count; j++) {
      const next = rays[order[j]!]!;
      const alike = styles[order[j]!] === styles[first] && next.turn === ray.turn && next.row === ray.row;
      if (!alike || next.from > to + SAME_END) break;
      to = Math.max(to, next.to);
    }
    if (j === k + 1) out.ends.push(ends[4 * first]!, ends[4 * first + 1]!, ends[4 * first + 2]!, ends[4 * first + 3]!);
    else out.ends.push(...ray.at(ray.from), ...ray.at(to));
    out.styles.push(styles[first]!);
    k = j;
  }
  return out;
}

interface Ray {
  /** Direction in steps of `STRAIGHT`, and distance from the origin in steps of a twentieth of a point. */
  turn: number;
  row: number;
  from: number;
  to: number;
  at(along: number): [number, number];
}
function rayOf(ends: readonly number[], i: number): Ray {
  const [x0, y0, x1, y1] = [ends[4 * i]!, ends[4 * i + 1]!, ends[4 * i + 2]!, ends[4 * i + 3]!];
  const length = Math.hypot(x1 - x0, y1 - y0);
  let [dx, dy] = [(x1 - x0) / length, (y1 - y0) / length];
  if (dx < -STRAIGHT / 2 || (Math.abs(dx) <= STRAIGHT / 2 && dy < 0)) [dx, dy] = [-dx, -dy];
  const row = x0 * dy - y0 * dx;
  const [a, b] = [x0 * dx + y0 * dy, x1 * dx + y1 * dy];
  return {
    turn: Math.round(Math.atan2(dy, dx) / STRAIGHT),
    row: Math.round(row * 20),
    from: Math.min(a, b),
    to: Math.max(a, b),
    at: (along) => [along * dx + row * dy, along * dy - row * dx],
  };
}

/** The same lines where another page has them. */
export function mappedLinework(linework: Linework, { map, scale }: Similarity): Linework {
  const ends = new Float64Array(linework.ends.length);
  for (let i = 0; i < ends.length; i += 2) [ends[i], ends[i + 1]] = map(linework.ends[i]!, linework.ends[i + 1]!);
  return { ...linework, ends, gaps: linework.gaps.map((gap) => gap * scale) };
}
