/** Which element of one version is which of another: by GlobalId, and where those were written anew by what an element is. */
import type { ElementTable } from '../scene/prepare-model.ts';
import type { Point } from '../scene/pick.ts';

export interface ElementPair {
  before: number;
  after: number;
  /** Under another GlobalId now. */
  renamed: boolean;
}

/** What an element is, beyond the table. */
export interface ElementPlace {
  /** Metres in the coordinates of the model. */
  middle: Point;
  area: number;
}

/** Metres: an element at the same place. */
const SAME_PLACE = 0.002;
/** Metres: the same kind of element that is next to where one was is that one, where all identities are new. */
const MOVED_BY = 2;
/** As part of the whole: surfaces of equal elements. */
const LIKE = 0.02;
/** Where fewer than this part of the elements kept their GlobalIds, all were written anew. */
const WRITTEN_ANEW = 0.3;

type PlaceOf = (row: number) => ElementPlace;

/** O(n log n); `placeOf` is asked for what GlobalIds leave over. */
export function matchElements(
  before: ElementTable,
  after: ElementTable,
  placeBefore: PlaceOf,
  placeAfter: PlaceOf,
): { pairs: ElementPair[]; removed: number[]; added: number[] } {
  const pairs: ElementPair[] = [];
  const [left, right] = [new Left(before), new Left(after)];
  const waiting = byKey(right.rows, (row) => after.globalId[row]!);
  for (const row of [...left.rows]) {
    const same = waiting.get(before.globalId[row]!)?.shift();
    if (same !== undefined) pair(row, same, false);
  }
  function pair(a: number, b: number, renamed: boolean): void {
    pairs.push({ before: a, after: b, renamed });
    left.rows.delete(a);
    right.rows.delete(b);
  }
  const kept = pairs.length / Math.max(1, Math.min(before.globalId.length, after.globalId.length));

  const what = (table: ElementTable, row: number, name: boolean): string =>
    [table.classes[table.class[row]!], table.types[table.type[row]!] ?? '', ...(name ? [table.name[row]] : [])].join(
      '\n',
    );
  /** Pairs within a kind the nearest first, no farther apart than `reach`, and only where surfaces are alike if `alike`. */
  function nearest(key: (table: ElementTable, row: number) => string, reach: number, alike: boolean): void {
    const others = byKey(right.rows, (row) => key(after, row));
    for (const [kind, rows] of byKey(left.rows, (row) => key(before, row))) {
      const candidates = others.get(kind);
      if (!candidates) continue;
      for (const [a, b] of nearestPairs(rows.map(placeBefore), candidates.map(placeAfter), reach, alike))
        pair(rows[a]!, candidates[b]!, true);
    }
  }
  /** Pairs what there is one of in both. */
  function only(key: (table: ElementTable, row: number) => string): void {
    const [mine, theirs] = [byKey(left.all, (row) => key(before, row)), byKey(right.all, (row) => key(after, row))];
    for (const [kind, [a, another]] of mine) {
      const [b, more] = theirs.get(kind) ?? [];
      if (kind === '' || another !== undefined || b === undefined || more !== undefined) continue;
      if (left.rows.has(a!) && right.rows.has(b)) pair(a!, b, true);
    }
  }
  // Where something stands just as it stood, it is the same whatever it is called now.
  nearest((table, row) => what(table, row, true), SAME_PLACE, true);
  only((table, row) => (table.tag?.[row] ? `${table.classes[table.class[row]!]}\n${table.tag[row]}` : ''));
  only((table, row) => (table.name[row] ? what(table, row, true) : ''));
  nearest((table, row) => table.classes[table.class[row]!]!, SAME_PLACE, true);
  // Another schema has other classes for the same thing.
  nearest((table, row) => table.name[row]!, SAME_PLACE, true);
  if (kept < WRITTEN_ANEW) {
    nearest((table, row) => what(table, row, true), MOVED_BY, true);
    nearest((table, row) => what(table, row, false), MOVED_BY, true);
    nearest((table, row) => what(table, row, true), MOVED_BY, false);
  }
  return { pairs: pairs.sort((a, b) => a.after - b.after), removed: [...left.rows], added: [...right.rows] };
}

/** Rows of a table that have no partner yet. */
class Left {
  readonly all: readonly number[];
  readonly rows: Set<number>;
  constructor({ globalId }: ElementTable) {
    this.all = globalId.map((_, row) => row);
    this.rows = new Set(this.all);
  }
}

function byKey(rows: Iterable<number>, key: (row: number) => string): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  for (const row of rows) {
    const of = key(row);
    const group = groups.get(of);
    if (group) group.push(row);
    else groups.set(of, [row]);
  }
  return groups;
}

/** Positions in both lists, each once, the nearest pairs first. Looks only into cells of the size of `reach` beside each other. */
function nearestPairs(
  before: readonly ElementPlace[],
  after: readonly ElementPlace[],
  reach: number,
  alike: boolean,
): [number, number][] {
  const cellOf = (value: number): number => Math.floor(value / reach);
  const cells = new Map<string, number[]>();
  after.forEach(({ middle }, i) => {
    const key = middle.map(cellOf).join();
    const cell = cells.get(key);
    if (cell) cell.push(i);
    else cells.set(key, [i]);
  });
  const found: [distance: number, a: number, b: number][] = [];
  before.forEach(({ middle: [x, y, z], area }, a) => {
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++)
          for (const b of cells.get([cellOf(x) + dx, cellOf(y) + dy, cellOf(z) + dz].join()) ?? []) {
            const other = after[b]!;
            const distance = Math.hypot(other.middle[0] - x, other.middle[1] - y, other.middle[2] - z);
            if (distance > reach || (alike && Math.abs(other.area - area) > LIKE * Math.max(area, other.area)))
              continue;
            found.push([distance, a, b]);
          }
  });
  const [mine, theirs] = [new Set<number>(), new Set<number>()];
  return found
    .sort(([d, a, b], [e, c, f]) => d - e || a - c || b - f)
    .filter(([, a, b]) => !mine.has(a) && !theirs.has(b) && mine.add(a) && theirs.add(b))
    .map(([, a, b]) => [a, b]);
}
