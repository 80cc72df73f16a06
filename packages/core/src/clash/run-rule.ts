/** A rule on two models, or on one against itself. */
import type { Point } from '../scene/pick.ts';
import { storeyOf } from '../scene/storeys.ts';
import { findClashes, type Clash } from './find-clashes.ts';
import { isCounted, RuledRows, type ClashKind, type ClashRule, type RuledModel } from './rule.ts';

/** An element as a clash names it. */
export interface ClashElement {
  globalId: string;
  class: string;
  name: string;
  type: string;
  storey: string;
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
/** What a run before has found already, where only some elements are others now. */
export interface Carried {
  /** Whose clashes have to be found anew: GlobalIds of both models. */
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
): RuledClash[] {
  const left = new RuledRows(a, rule);
  const right = a === b ? left : new RuledRows(b, rule);
  const [p, q] = [a.content.table.globalId, b.content.table.globalId];
  const side = ({ content: { scene, table } }: RuledModel) => ({ scene, rows: table.globalId.length });
  const one = side(a);
  const { clashes } = findClashes(
    one,
    a === b ? one : side(b),
    {
      // Without hard ones wanted they are still told apart from clearances.
      tolerance: rule.tolerance,
      clearance: rule.kinds.includes('clearance') ? rule.clearance : 0,
    },
    onPair,
    {
      a: left.takesPart,
      b: right.takesPart,
      pair: (i, j) => (!carried || carried.a.has(p[i]!) || carried.b.has(q[j]!)) && left.counts(i, right, j, a === b),
    },
  );
  const found = clashes.filter((clash) => isCounted(rule, clash)).map((clash) => told(clash, a, b));
  return carried ? [...stillThere(carried, new Set(p), new Set(q)), ...found] : found;
}

const stillThere = ({ a, b, clashes }: Carried, p: ReadonlySet<string>, q: ReadonlySet<string>): RuledClash[] =>
  clashes.filter(
    (clash) =>
      !a.has(clash.a.globalId) && !b.has(clash.b.globalId) && p.has(clash.a.globalId) && q.has(clash.b.globalId),
  );

function told(clash: Clash, a: RuledModel, b: RuledModel): RuledClash {
  const { kind, at } = clash;
  return {
    ...{ a: elementOf(a, clash.a), b: elementOf(b, clash.b), kind, at },
    depth: clash.kind === 'hard' ? clash.depth : null,
    gap: clash.kind === 'clearance' ? clash.gap : null,
  };
}

const elementOf = ({ content: { table } }: RuledModel, row: number): ClashElement => ({
  globalId: table.globalId[row]!,
  class: table.classes[table.class[row]!]!,
  name: table.name[row]!,
  type: table.types[table.type[row]!] ?? '',
  storey: table.nodes[storeyOf(table.nodes, table.node[row]!)]?.name ?? '',
});
