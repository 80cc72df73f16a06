import { expect, it } from 'vitest';
import type { SpatialNode } from './ifc-structure.ts';
import { levelsOf } from './levels.ts';
import { levelOfRows } from './rows-on-levels.ts';

const node = (of: string, name: string, elevation: number | null, parent: number) =>
  ({ class: of, name, elevation, parent }) as SpatialNode;

it('knows on which level each element stands, whatever its model calls the storey', () => {
  const one = [
    node('IfcBuilding', 'House', null, -1),
    node('IfcBuildingStorey', 'Ground', 0, 0),
    node('IfcBuildingStorey', 'Upper', 3, 0),
    node('IfcSpace', 'Room', null, 2),
  ];
  const other = [node('IfcBuildingStorey', 'Level 02', 3.1, -1)];
  const levels = levelsOf([one, other]);
  expect([...levelOfRows({ nodes: one, node: [1, 2, 3, 0, -1] }, levels, 0)]).toEqual([0, 1, 1, -1, -1]);
  expect([...levelOfRows({ nodes: other, node: [0] }, levels, 1)]).toEqual([1]);
});
