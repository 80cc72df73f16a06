/** Storeys lifted apart: each by its number of storeys times the same height. */
import { levelsOf } from '@kindred/core/scene/levels';
import { storeyOf } from '@kindred/core/scene/storeys';
import type { LoadedModel } from './models.ts';

const levels = (models: readonly LoadedModel[]) => levelsOf(models.map(({ table }) => table.nodes));

/** By slot, metres for each row. `by`: from storey to storey. Storeys of several models at the same height move together. */
export function liftsOf(models: readonly LoadedModel[], by: number): Map<number, Float32Array> {
  const found = levels(models);
  return new Map(
    models.map(({ slot, table }, model) => {
      const liftOf = new Map(found.flatMap(({ nodes }, i) => nodes[model]!.map((node) => [node, i * by] as const)));
      return [slot, Float32Array.from(table.node, (node) => liftOf.get(storeyOf(table.nodes, node)) ?? 0)];
    }),
  );
}

/** The storeys of all models, from the lowest up, each once. */
export const storeysOf = (models: readonly LoadedModel[]): { name: string; elevation: number }[] =>
  levels(models).map(({ name, elevation }) => ({ name, elevation }));
