/** Elements like one: of its type, or of its class where it has none. */
import { storeyOf } from '@kindred/core/scene/storeys';
import { elementNumber } from './engine/element-numbers.ts';
import type { LoadedModel } from './models.ts';

/** `here`: only those on its storey, by the height of the storey's floor. O(elements of all models). */
export function elementsAlike(
  models: readonly LoadedModel[],
  { table }: LoadedModel,
  row: number,
  here: boolean,
): number[] {
  const floorOf = (of: LoadedModel['table'], at: number): number | null =>
    of.nodes[storeyOf(of.nodes, of.node[at]!)]?.elevation ?? null;
  const [className, typeName, floor] = [
    table.classes[table.class[row]!],
    table.types[table.type[row]!],
    floorOf(table, row),
  ];
  return models.flatMap(({ slot, table: other }) =>
    other.globalId.flatMap((_, at) =>
      other.classes[other.class[at]!] === className &&
      other.types[other.type[at]!] === typeName &&
      (!here || floorOf(other, at) === floor)
        ? [elementNumber(slot, at)]
        : [],
    ),
  );
}
