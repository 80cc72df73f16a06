/** Clashes that have one cause, so that one decision settles them. */

/** Two elements that clash, each by a name that no other has. */
export interface Met {
  a: string;
  b: string;
}
export interface ClashGroup {
  /** What they have in common: an element that stands in the way of several, two types that meet again and again, or nothing more than themselves. */
  cause: { element: string } | { types: readonly [string, string] } | null;
  /** Positions in the list of clashes. */
  clashes: number[];
}

/** So many make a pattern of two types. */
const PATTERN = 3;

/** `typeOf`: what kind of thing an element is, for people. O(n log n). */
export function groupClashes(clashes: readonly Met[], typeOf: (element: string) => string): ClashGroup[] {
  const left = new Set(clashes.keys());
  const groups: ClashGroup[] = [];
  const add = (lists: Map<string, number[]>, key: string, i: number): void => {
    const list = lists.get(key);
    if (list) list.push(i);
    else lists.set(key, [i]);
  };
  const byElement = new Map<string, number[]>();
  clashes.forEach(({ a, b }, i) => {
    add(byElement, a, i);
    add(byElement, b, i);
  });
  // The element that is in most clashes first: one pipe through forty bars is one thing to decide.
  const order = [...byElement].sort(([k, p], [l, q]) => q.length - p.length || (k < l ? -1 : 1));
  for (const [key, all] of order) {
    const own = all.filter((i) => left.has(i));
    if (own.length < 2) continue;
    own.forEach((i) => left.delete(i));
    groups.push({ cause: { element: key }, clashes: own });
  }
  const byTypes = new Map<string, number[]>();
  for (const i of left) {
    const { a, b } = clashes[i]!;
    add(byTypes, JSON.stringify([typeOf(a), typeOf(b)]), i);
  }
  for (const [key, own] of byTypes)
    if (own.length >= PATTERN) groups.push({ cause: { types: JSON.parse(key) as [string, string] }, clashes: own });
    else groups.push(...own.map((i): ClashGroup => ({ cause: null, clashes: [i] })));
  return groups.sort((p, q) => q.clashes.length - p.clashes.length || p.clashes[0]! - q.clashes[0]!);
}
