import type { SpatialNode } from './ifc-structure.ts';

/** The storey that a node is or stands in; the node itself when there is none above it. */
export function storeyOf(nodes: readonly SpatialNode[], node: number): number {
  for (let at = node; at >= 0; at = nodes[at]!.parent) if (nodes[at]!.class === 'IfcBuildingStorey') return at;
  return node;
}

/** From the lowest up; what has no elevation stands last. For `sort`. */
export const byElevation = (a: SpatialNode | undefined, b: SpatialNode | undefined): number =>
  (a?.elevation ?? Infinity) - (b?.elevation ?? Infinity) || 0;
