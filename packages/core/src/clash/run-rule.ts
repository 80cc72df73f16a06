/** A rule on two models, or on one against itself. */
import type { Point } from '../scene/pick.ts';
import type { DecodedProperties } from '../scene/property-file.ts';
import { storeyOf } from '../scene/storeys.ts';
import { findClashes, type Clash, type Looked } from './find-clashes.ts';
import { isCounted, RuledRows, type ClashKind, type ClashRule, type RuledModel, type TakenPart } from './rule.ts';

/** An element as a clash names it. */
export interface ClashElement {
  globalId: string;
  class: string;
  name: string;
  type: string;
  storey: string;
  /** Not there where it belongs to none, or nobody asked when it was found. */
  system?: string;
}
export interface RuledClash {
  a: ClashElement;
  b: ClashElement;
  kind: ClashKind;
  /** Metres; null where there is none, or it is not known because a surface is not closed. */
  depth: number | null;
  gap: number | null;
  /** In the coordinates of the models, metres. */
  at: Point;
}
export interface RuledPair {
  clashes: RuledClash[];
  /** Of the two models, or of the one. */
  taken: TakenPart[];
}
/** What a run before has found already, where only some elements are others now. */
export interface Carried {
  /** What is new, gone or not as it was: GlobalIds of both models. */
  a: ReadonlySet<string>;
  b: ReadonlySet<string>;
  clashes: readonly RuledClash[];
}

/** `b` is `a` for one model against itself. `onPair` may throw to stop. O(n log n + pairs). */
export function runRule(
  rule: ClashRule,
  a: RuledModel,
  b: RuledModel,
  carried: Carried | null = null,
  onPair: (looked: number) => void = () => undefined,
): RuledPair {
  const left = new RuledRows(a, rule);
  const right = a === b ? left : new RuledRows(b, rule);
  const [p, q] = [a.content.table.globalId, b.content.table.globalId];
  const side = ({ content: { scene, table } }: RuledModel) => ({ scene, rows: table.globalId.length });
  const one = side(a);
  const other = a === b ? one : side(b);
  // Without hard ones wanted they are still told apart from clearances.
  const clearance = rule.kinds.includes('clearance') ? rule.clearance : 0;
  const look = (looked: Looked): Clash[] =>
    findClashes(one, other, { tolerance: rule.tolerance, clearance }, onPair, looked).clashes;
  const pair = (i: number, j: number): boolean => left.counts(i, right, j, a === b);
  const isA = (i: number): boolean => carried!.a.has(p[i]!);
  const isB = (j: number): boolean => carried!.b.has(q[j]!);
  const whole: Looked = { a: left.takesPart, b: right.takesPart, pair };
  let clashes: Clash[];
  if (!carried) clashes = look(whole);
  // Each pair of one model is seen once, from whichever side: it is not known beforehand from which.
  else if (a === b) clashes = look({ ...whole, pair: (i, j) => (isA(i) || isA(j)) && pair(i, j) });
  else {
    const fromA = carried.a.size ? look({ ...whole, a: (i) => isA(i) && left.takesPart(i) }) : [];
    const fromB = carried.b.size
      ? look({ ...whole, b: (j) => isB(j) && right.takesPart(j), pair: (i, j) => !isA(i) && pair(i, j) })
      : [];
    clashes = [...fromA, ...fromB];
  }
  const found = clashes.filter((clash) => isCounted(rule, clash)).map((clash) => told(clash, a, b));
  const stay = carried?.clashes.filter((clash) => !carried.a.has(clash.a.globalId) && !carried.b.has(clash.b.globalId));
  const all = stay ? [...stay, ...found] : found;
  return { clashes: all, taken: (a === b ? [left] : [left, right]).map((rows) => rows.taken()) };
}

function told(clash: Clash, a: RuledModel, b: RuledModel): RuledClash {
  const { kind, at } = clash;
  return {
    ...{ a: elementOf(a, clash.a), b: elementOf(b, clash.b), kind, at },
    depth: clash.kind === 'hard' ? clash.depth : null,
    gap: clash.kind === 'clearance' ? clash.gap : null,
  };
}

function elementOf({ content: { table, properties } }: RuledModel, row: number): ClashElement {
  const system = systemOf(properties, row);
  return {
    globalId: table.globalId[row]!,
    class: table.classes[table.class[row]!]!,
    name: table.name[row]!,
    type: table.types[table.type[row]!] ?? '',
    storey: table.nodes[storeyOf(table.nodes, table.node[row]!)]?.name ?? '',
    ...(system && { system }),
  };
}
/** Empty where the element in a row belongs to none. */
export function systemOf({ sets, numbers, starts }: DecodedProperties, row: number): string {
  for (const number of numbers.subarray(starts[row], starts[row + 1])) {
    const { kind, properties } = sets[number]!;
    const found = kind === 'groups' && properties.find(({ name }) => name === 'System');
    if (found) return String(found.value);
  }
  return '';
}
