/** Clashes that have one cause, so that one decision settles them. */

/** Two elements that clash, each by a name that no other has. */
export interface Met {
  a: string;
  b: string;
}
export interface ClashGroup {
  /**
   * What they have in common: most elements of one storey of a model, an element that stands in the way of several, a system, two types
   * that meet again and again, or nothing more than themselves.
   */
  cause:
    | { storey: string; elements: number; of: number }
    | { element: string }
    | { system: string; element: string }
    | { types: readonly [string, string] }
    | null;
  /** Positions in the list of clashes. */
  clashes: number[];
}
/** What is known of an element by its name; empty where it has none. */
export interface KnownOf {
  /** What kind of thing it is, for people. */
  type(element: string): string;
  system(element: string): string;
  /** Of its model, by a name that no other model has. */
  storey(element: string): string;
  model(element: string): string;
  /** How many elements of a storey, or of a model, take part. */
  elementsIn(storeyOrModel: string): number;
}

/** So many make a pattern of two types, or of a system. */
const PATTERN = 3;
/**
 * A storey lies wrong where as many of its elements clash, at least this part of them, each with others, and of those on the other
 * storeys of its model at most half as large a part. Walls that many pipes go through each are no such storey: so many clashes for each
 * of its elements at most.
 */
const [ON_STOREY, PART_OF_STOREY, ONE_OTHER, BESIDE, EACH] = [5, 0.7, 0.25, 0.5, 3];

/** O(n log n). */
export function groupClashes(clashes: readonly Met[], known: KnownOf): ClashGroup[] {
  const left = new Set(clashes.keys());
  const groups: ClashGroup[] = [];
  const take = (cause: ClashGroup['cause'], own: number[]): void => {
    own.forEach((i) => left.delete(i));
    groups.push({ cause, clashes: own });
  };
  const clashing = clashingElements(clashes, known);
  for (const [storey, all] of mostFirst(bySide(clashes, left, (element) => known.storey(element)))) {
    const own = all.filter((i) => left.has(i));
    const elements = storeyOffset(clashes, own, storey, known, clashing);
    if (elements) take({ storey, elements, of: known.elementsIn(storey) }, own);
  }
  // The element that is in most clashes first: one pipe through forty bars is one thing to decide.
  for (const [element, all] of mostFirst(bySide(clashes, left, (name) => name))) {
    const own = all.filter((i) => left.has(i));
    if (own.length > 1) take({ element }, own);
  }
  for (const [system, all] of mostFirst(bySide(clashes, left, (element) => known.system(element)))) {
    const own = all.filter((i) => left.has(i));
    if (own.length < PATTERN) continue;
    const { a, b } = clashes[own[0]!]!;
    take({ system, element: known.system(a) === system ? a : b }, own);
  }
  const byTypes = new Map<string, number[]>();
  for (const i of left) {
    const { a, b } = clashes[i]!;
    addTo(byTypes, JSON.stringify([known.type(a), known.type(b)]), i);
  }
  for (const [key, own] of byTypes)
    if (own.length >= PATTERN) groups.push({ cause: { types: JSON.parse(key) as [string, string] }, clashes: own });
    else groups.push(...own.map((i): ClashGroup => ({ cause: null, clashes: [i] })));
  return groups.sort((p, q) => q.clashes.length - p.clashes.length || p.clashes[0]! - q.clashes[0]!);
}

/** By storey and by model. */
function clashingElements(clashes: readonly Met[], { storey, model }: KnownOf): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const element of clashes.flatMap(({ a, b }) => [a, b]))
    for (const key of [storey(element), model(element)]) {
      const known = found.get(key);
      if (known) known.add(element);
      else found.set(key, new Set([element]));
    }
  return found;
}

/** How many elements of the storey clash, where that is most of them, others are not so, and no other thing is in the way of many; else 0. */
function storeyOffset(
  clashes: readonly Met[],
  own: readonly number[],
  storey: string,
  known: KnownOf,
  clashing: ReadonlyMap<string, ReadonlySet<string>>,
): number {
  if (!own.length) return 0;
  const elements = new Set<string>();
  const others = new Map<string, number>();
  let most = 0;
  for (const i of own) {
    const { a, b } = clashes[i]!;
    const [on, other] = known.storey(a) === storey ? [a, b] : [b, a];
    elements.add(on);
    const met = (others.get(other) ?? 0) + 1;
    others.set(other, met);
    most = Math.max(most, met);
  }
  const part = elements.size / known.elementsIn(storey);
  if (elements.size < ON_STOREY || part < PART_OF_STOREY || own.length > EACH * elements.size) return 0;
  const model = known.model([...elements][0]!);
  const beside = known.elementsIn(model) - known.elementsIn(storey);
  const clashBeside = clashing.get(model)!.size - clashing.get(storey)!.size;
  if (beside < ON_STOREY || clashBeside > BESIDE * part * beside) return 0;
  return most > ONE_OTHER * own.length ? 0 : elements.size;
}

function addTo(lists: Map<string, number[]>, key: string, i: number): void {
  const list = lists.get(key);
  if (list) list.push(i);
  else lists.set(key, [i]);
}
/** Those of `of` by what is said of one of their elements; what is said of both counts once. */
function bySide(
  clashes: readonly Met[],
  of: Iterable<number>,
  said: (element: string) => string,
): Map<string, number[]> {
  const lists = new Map<string, number[]>();
  for (const i of of) {
    const keys = new Set([said(clashes[i]!.a), said(clashes[i]!.b)]);
    for (const key of keys) if (key) addTo(lists, key, i);
  }
  return lists;
}
const mostFirst = (lists: Map<string, number[]>): [string, number[]][] =>
  [...lists].sort(([k, p], [l, q]) => q.length - p.length || (k < l ? -1 : 1));
