/** Storeys of several models that are one: by where their floors lie, not by what they are called. */
import type { SpatialNode } from './ifc-structure.ts';
import { byElevation } from './storeys.ts';

export interface Level {
  /** As most models call it, or the first of them. */
  name: string;
  /** Of its lowest floor, metres. */
  elevation: number;
  /** For each model the nodes that are storeys of this level. */
  nodes: number[][];
}

/** Metres: floors of different models that lie so near are of one level: one counts from the slab, another from what is laid on it. */
const ONE_LEVEL = 0.5;
/** Metres: two storeys of one model that lie farther apart are two. */
const ONE_FLOOR = 0.05;

/** Whether a floor belongs to one of the levels; both by their elevations, metres. Which floor of a level is the lowest may have changed since. */
export const isOnLevel = (elevation: number, levels: readonly number[]): boolean =>
  levels.some((level) => Math.abs(elevation - level) <= ONE_LEVEL);

/** From the lowest up; storeys without an elevation are of no level. `models`: the spatial nodes of each. O(n log n). */
export function levelsOf(models: readonly (readonly SpatialNode[])[]): Level[] {
  const storeys = models
    .flatMap((nodes, model) =>
      nodes.flatMap((storey, node) =>
        storey.class === 'IfcBuildingStorey' && storey.elevation !== null ? [{ storey, node, model }] : [],
      ),
    )
    .sort((a, b) => byElevation(a.storey, b.storey));
  const levels: Level[] = [];
  for (const { storey, node, model } of storeys) {
    let level = levels.at(-1);
    const elevation = storey.elevation!;
    const isSplit = level?.nodes[model]!.some((other) => elevation - models[model]![other]!.elevation! > ONE_FLOOR);
    if (!level || isSplit || elevation - level.elevation > ONE_LEVEL) {
      levels.push((level = { name: '', elevation, nodes: models.map(() => []) }));
    }
    level.nodes[model]!.push(node);
  }
  for (const level of levels)
    level.name = mostUsed(level.nodes.flatMap((nodes, model) => nodes.map((node) => models[model]![node]!.name)));
  return levels;
}

/** Of those that are used most that of the first model; a name is better than none. */
function mostUsed(names: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const name of names) if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? '';
}
