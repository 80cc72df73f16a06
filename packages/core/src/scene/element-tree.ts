import type { ElementTable } from './prepare-model.ts';
import { byElevation, storeyOf } from './storeys.ts';

/** One class on one storey. */
export interface ClassGroup {
  /** Index into `classes`. */
  class: number;
  rows: number[];
}
export interface StoreyGroup {
  /** Index into `nodes`: a storey, or what else an element stands in; −1: nowhere. */
  node: number;
  count: number;
  classes: ClassGroup[];
}

/** Elements by storey, from the lowest up, and by class. `only`: rows that are kept, all where it is null. O(elements). */
export function elementTree(table: ElementTable, only: ReadonlySet<number> | null = null): StoreyGroup[] {
  const storeys = new Map<number, StoreyGroup>();
  const groups = new Map<number, ClassGroup>();
  for (let row = 0; row < table.globalId.length; row++) {
    if (only && !only.has(row)) continue;
    const node = storeyOf(table.nodes, table.node[row]!);
    let storey = storeys.get(node);
    if (!storey) storeys.set(node, (storey = { node, count: 0, classes: [] }));
    const key = (node + 1) * table.classes.length + table.class[row]!;
    let group = groups.get(key);
    if (!group) {
      groups.set(key, (group = { class: table.class[row]!, rows: [] }));
      storey.classes.push(group);
    }
    group.rows.push(row);
    storey.count++;
  }
  return [...storeys.values()].sort((a, b) => byElevation(table.nodes[a.node], table.nodes[b.node]));
}
