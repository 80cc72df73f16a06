/** The one after or before a position in a list; from nowhere (−1) the first or the last. */
export const nextOf = <T>(list: readonly T[], at: number, by: 1 | -1): T | undefined =>
  list[at < 0 ? (by > 0 ? 0 : list.length - 1) : at + by];
