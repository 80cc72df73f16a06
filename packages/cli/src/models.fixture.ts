/** Prepared models of boxes, for tests of commands. */
import { boxes, type TestBox } from '@kindred/core/scene/boxes.fixture';
import type { PreparedModel } from '@kindred/core/scene/prepare-model';
import { encodeProperties } from '@kindred/core/scene/property-file';

export interface TestElement extends TestBox {
  id: string;
  name?: string;
  fire?: string;
}

export function modelOf(elements: readonly TestElement[]): PreparedModel {
  const set = ({ fire }: TestElement) =>
    JSON.stringify({
      name: 'Pset_WallCommon',
      kind: 'properties',
      from: 'element',
      properties: [{ name: 'FireRating', value: fire ?? null }],
    });
  return {
    scene: boxes(elements),
    table: {
      ...{ schema: 'IFC4', application: '', lengthUnit: 'metre', survey: null, notes: [], types: [] },
      ...{ classes: ['IfcWall'], nodes: [{ name: '00', class: 'IfcBuildingStorey', parent: -1, elevation: 0 }] },
      globalId: elements.map(({ id }) => id),
      name: elements.map(({ name }) => name ?? 'Wall'),
      class: elements.map(() => 0),
      type: elements.map(() => -1),
      node: elements.map(() => 0),
    },
    properties: encodeProperties({
      sets: elements.map(set),
      numbers: elements.map((_, i) => i),
      starts: Array.from({ length: elements.length + 1 }, (_, i) => i),
    }),
    bounds: { elements: [0, 0, 0, 1, 1, 1], site: null },
  };
}
