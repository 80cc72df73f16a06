/** Storeys lifted apart: each by its number of storeys times the same height. */
import { byElevation, storeyOf } from '@kindred/core/scene/storeys';
import type { LoadedModel } from './models.ts';

/** By slot, metres for each row. `by`: from storey to storey. Storeys of several models at the same height move together. */
export function liftsOf(models: readonly LoadedModel[], by: number): Map<number, Float32Array> {
  const heights = new Set<number>();
  for (const { table } of models)
    for (const { class: of, elevation } of table.nodes)
      if (of === 'IfcBuildingStorey' && elevation !== null) heights.add(Math.round(elevation * 10) / 10);
  const order = [...heights].sort((a, b) => a - b);
  return new Map(
    models.map(({ slot, table }) => {
      const liftOf = table.nodes.map(({ elevation }) =>
        elevation === null ? 0 : Math.max(0, order.indexOf(Math.round(elevation * 10) / 10)) * by,
      );
      return [
        slot,
        Float32Array.from(table.node, (node) => {
          const storey = storeyOf(table.nodes, node);
          return storey < 0 ? 0 : (liftOf[storey] ?? 0);
        }),
      ];
    }),
  );
}

/** The storeys of all models, from the lowest up, each once. */
export function storeysOf(models: readonly LoadedModel[]): { name: string; elevation: number }[] {
  const found = new Map<string, { name: string; elevation: number }>();
  for (const { table } of models)
    for (const node of [...table.nodes].sort(byElevation)) {
      if (node.class !== 'IfcBuildingStorey' || node.elevation === null) continue;
      const key = node.elevation.toFixed(1);
      if (!found.has(key)) found.set(key, { name: node.name, elevation: node.elevation });
    }
  return [...found.values()].sort((a, b) => a.elevation - b.elevation);
}
