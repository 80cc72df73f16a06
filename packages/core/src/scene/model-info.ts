import type { Bounds } from './bounds.ts';
import type { ModelNote } from './model-notes.ts';
import { isElement, type PreparedModel } from './prepare-model.ts';
import { byElevation, storeyOf } from './storeys.ts';

interface Corners {
  min: [number, number, number];
  max: [number, number, number];
}
export interface ModelInfo {
  schema: string;
  application: string;
  lengthUnit: string;
  /** Instances of IfcElement with a shape; openings left out. */
  elements: number;
  byClass: Record<string, number>;
  storeys: { name: string; elevation: number | null; elements: number }[];
  /** Metres, Z up; terrain and site apart. */
  bounds: Corners;
  siteBounds: Corners | null;
  triangles: number;
  notes: ModelNote[];
}

export function modelInfo({ scene, table, bounds }: PreparedModel): ModelInfo {
  const byClass: Record<string, number> = {};
  const perNode = new Map<number, number>();
  let elements = 0;
  for (const [row, index] of table.class.entries()) {
    const name = table.classes[index]!;
    if (!isElement(name)) continue;
    elements++;
    byClass[name] = (byClass[name] ?? 0) + 1;
    const storey = storeyOf(table.nodes, table.node[row]!);
    perNode.set(storey, (perNode.get(storey) ?? 0) + 1);
  }
  const storeys = table.nodes
    .map((node, index) => ({ ...node, elements: perNode.get(index) ?? 0 }))
    .filter((node) => node.class === 'IfcBuildingStorey')
    .sort(byElevation)
    .map(({ name, elevation, elements }) => ({ name, elevation, elements }));
  const { indexStarts } = scene.shapes;
  let triangles = 0;
  for (const shape of scene.instances.shape) triangles += (indexStarts[shape + 1]! - indexStarts[shape]!) / 3;
  return {
    schema: table.schema,
    application: table.application,
    lengthUnit: table.lengthUnit,
    elements,
    byClass,
    storeys,
    bounds: corners(bounds.elements),
    siteBounds: bounds.site && corners(bounds.site),
    triangles,
    notes: table.notes,
  };
}

const corners = ([x0, y0, z0, x1, y1, z1]: Bounds): Corners => ({ min: [x0, y0, z0], max: [x1, y1, z1] });
