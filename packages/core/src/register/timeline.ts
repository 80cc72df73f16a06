/** A span of time on a screen. */
export interface TimeSpan {
  /** Milliseconds since 1970. */
  from: number;
  to: number;
}

export const DAY = 86_400_000;
export const SHORTEST_SPAN = DAY / 4;
export const LONGEST_SPAN = 15 * 366 * DAY;

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
