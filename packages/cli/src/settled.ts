/** Which files of a folder are whole: those that nobody has written to for a while. Pure, so that it can be tried on any history. */
import { isByProduct } from '@kindred/core/register/by-product';

export interface Seen {
  size: number;
  /** Milliseconds since 1970. */
  modified: number;
}
export interface Watched extends Seen {
  /** When the file was first seen as it is now. */
  since: number;
}

/**
 * Takes a look at the folder into account. Answers how the folder is watched from now on, and the files that have stayed the same for
 * `settle` milliseconds; empty files are never whole.
 */
export function look(
  before: ReadonlyMap<string, Watched>,
  now: ReadonlyMap<string, Seen>,
  at: number,
  settle: number,
): { watched: Map<string, Watched>; settled: string[] } {
  const watched = new Map<string, Watched>();
  const settled: string[] = [];
  for (const [name, seen] of now) {
    if (isByProduct(name.split('/').at(-1)!)) continue;
    const earlier = before.get(name);
    const same = earlier && earlier.size === seen.size && earlier.modified === seen.modified;
    const since = same ? earlier.since : at;
    watched.set(name, { ...seen, since });
    if (seen.size > 0 && at - since >= settle) settled.push(name);
  }
  return { watched, settled };
}
