/** Elements of several models by the level that they stand on. */
import type { Level } from './levels.ts';
import type { ElementTable } from './prepare-model.ts';
import { storeyOf } from './storeys.ts';

/** For each row the position of its level in `levels`, −1 where it stands on none. `model`: its position among those that the levels are of. O(rows). */
export function levelOfRows(
  { nodes, node }: Pick<ElementTable, 'nodes' | 'node'>,
  levels: readonly Level[],
  model: number,
): Int16Array {
  const ofStorey = new Map(levels.flatMap((level, i) => level.nodes[model]!.map((storey) => [storey, i] as const)));
  const ofNode = Int16Array.from(nodes, (_, at) => ofStorey.get(storeyOf(nodes, at)) ?? -1);
  return Int16Array.from(node, (at) => (at < 0 ? -1 : ofNode[at]!));
}
