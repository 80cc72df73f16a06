/** A scale of time: moments to places and back. */
export interface TimeSpan {
  /** Milliseconds since 1970. */
  from: number;
  to: number;
}

export const DAY = 86_400_000;
const LEAST = DAY / 4;
const MOST = 15 * 366 * DAY;

/** The span after zooming by a factor around a moment, which keeps its place. */
export function zoomSpan({ from, to }: TimeSpan, factor: number, around: number): TimeSpan {
  const length = Math.min(MOST, Math.max(LEAST, (to - from) / factor));
  const share = (around - from) / (to - from);
  return { from: around - share * length, to: around + (1 - share) * length };
}

export const panSpan = ({ from, to }: TimeSpan, by: number): TimeSpan => ({ from: from + by, to: to + by });

export interface Tick {
  at: number;
  kind: 'day' | 'week' | 'month' | 'year';
}

/** Beginnings of days, weeks (from Monday), months or years in UTC, at most about `most` of them. */
export function ticksIn({ from, to }: TimeSpan, most: number): Tick[] {
  const days = (to - from) / DAY;
  if (days <= most) return steps(from, to, 'day', 1);
  if (days / 7 <= most) return steps(from, to, 'week', 7);
  if (days / 30.4 <= most) return monthsIn(from, to, 1, 'month');
  if (days / 91 <= most) return monthsIn(from, to, 3, 'month');
  return monthsIn(from, to, 12 * Math.ceil(days / 365 / most), 'year');
}

function steps(from: number, to: number, kind: 'day' | 'week', every: number): Tick[] {
  const ticks: Tick[] = [];
  // 1970-01-05 was a Monday.
  const start =
    kind === 'week' ? 4 * DAY + Math.ceil((from - 4 * DAY) / (7 * DAY)) * 7 * DAY : Math.ceil(from / DAY) * DAY;
  for (let at = start; at <= to; at += every * DAY) ticks.push({ at, kind });
  return ticks;
}

function monthsIn(from: number, to: number, every: number, kind: 'month' | 'year'): Tick[] {
  const first = new Date(from);
  const ticks: Tick[] = [];
  for (let month = Math.floor(first.getUTCMonth() / every) * every; ; month += every) {
    const at = Date.UTC(first.getUTCFullYear(), month, 1);
    if (at > to) return ticks;
    if (at >= from) ticks.push({ at, kind });
  }
}

/** Marks that would overlap become one: neighbours nearer than `apart` go together, in the order of time. O(n). */
export function clusterMarks<T>(marks: readonly T[], placeOf: (mark: T) => number, apart: number): T[][] {
  const clusters: T[][] = [];
  let last = -Infinity;
  for (const mark of marks) {
    const place = placeOf(mark);
    if (place - last < apart) clusters.at(-1)!.push(mark);
    else {
      clusters.push([mark]);
      last = place;
    }
  }
  return clusters;
}
