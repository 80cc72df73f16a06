/** Which clash of one run is which of the next: by its elements, and where these were written anew by what they are and where it is. */
import type { Point } from '../scene/pick.ts';
import type { RuledClash } from './run-rule.ts';

/** Metres: the same kinds of elements that meet so near to where they met before are those. */
const NEAR = 0.3;

/** For each clash that was found the position of the known one that it is; null for a new one. Known ones that are nowhere are gone. O(n log n). */
export function matchClashes(known: readonly RuledClash[], found: readonly RuledClash[]): (number | null)[] {
  const byElements = grouped(known, (clash) => keyOf(clash));
  const matched: (number | null)[] = found.map((clash) => byElements.get(keyOf(clash))?.shift() ?? null);
  const taken = new Set(matched);
  const byPlace = grouped(
    known,
    (clash) => `${kindOf(clash)}\n${cellOf(clash.at)}`,
    (i) => !taken.has(i),
  );
  const pairs = found.flatMap((clash, i) => (matched[i] === null ? candidatesOf(clash, byPlace, known, i) : []));
  for (const { i, k } of pairs.sort((p, q) => p.apart - q.apart)) {
    if (matched[i] !== null || taken.has(k)) continue;
    matched[i] = k;
    taken.add(k);
  }
  return matched;
}

/** Whichever of the two is named first. */
const keyOf = ({ a, b, kind }: RuledClash): string =>
  [...[a.globalId, b.globalId].sort(), kind === 'duplicate' ? kind : ''].join(' ');

const whatIs = ({ class: of, name, type }: RuledClash['a']): string => `${of}\n${type}\n${name}`;
const kindOf = ({ a, b }: RuledClash): string => [whatIs(a), whatIs(b)].sort().join('\n');

/** Of a grid, so that few are held against each other. */
const cellOf = (at: Point, by: readonly number[] = [0, 0, 0]): string =>
  at.map((value, axis) => Math.floor(value / NEAR) + by[axis]!).join();
const AROUND = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z])));

function candidatesOf(
  clash: RuledClash,
  byPlace: ReadonlyMap<string, number[]>,
  known: readonly RuledClash[],
  i: number,
): { i: number; k: number; apart: number }[] {
  const kind = kindOf(clash);
  return AROUND.flatMap((by) => byPlace.get(`${kind}\n${cellOf(clash.at, by)}`) ?? []).flatMap((k) => {
    const apart = Math.hypot(...[0, 1, 2].map((axis) => known[k]!.at[axis]! - clash.at[axis]!));
    return apart <= NEAR ? [{ i, k, apart }] : [];
  });
}

function grouped(
  clashes: readonly RuledClash[],
  keyOf: (clash: RuledClash) => string,
  isWanted: (i: number) => boolean = () => true,
): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  clashes.forEach((clash, i) => {
    if (!isWanted(i)) return;
    const key = keyOf(clash);
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  });
  return groups;
}
