import { describe, expect, it } from 'vitest';
import { elementTree } from './element-tree.ts';
import type { ElementTable } from './prepare-model.ts';
import { byElevation, storeyOf } from './storeys.ts';

const node = (name: string, type: string, parent: number, elevation: number | null = null) => ({
  name,
  class: type,
  parent,
  elevation,
});
const nodes = [
  node('Depot', 'IfcBuilding', -1),
  node('Upper', 'IfcBuildingStorey', 0, 3.5),
  node('Ground', 'IfcBuildingStorey', 0, 0),
  node('Kit room', 'IfcSpace', 2),
  node('Mezzanine', 'IfcBuildingStorey', 0),
];
const table = {
  nodes,
  classes: ['IfcWall', 'IfcDoor'],
  types: ['Timber 90'],
  globalId: ['g0', 'g1', 'g2', 'g3', 'g4', 'g5'],
  name: ['West wall', 'East wall', 'Door 12', 'Door 13', 'Parapet', 'Stair'],
  class: [0, 0, 1, 1, 0, 0],
  type: [-1, -1, 0, 0, -1, -1],
  node: [2, 3, 3, 1, -1, 4],
} as unknown as ElementTable;

describe('the tree of elements', () => {
  it('stands from the lowest storey up; a room belongs to its storey, what has no elevation comes last', () => {
    const said = elementTree(table).map((storey) => [
      nodes[storey.node]?.name ?? 'nowhere',
      storey.count,
      storey.classes.map((group) => [table.classes[group.class], group.rows]),
    ]);
    expect(said).toEqual([
      [
        'Ground',
        3,
        [
          ['IfcWall', [0, 1]],
          ['IfcDoor', [2]],
        ],
      ],
      ['Upper', 1, [['IfcDoor', [3]]]],
      ['nowhere', 1, [['IfcWall', [4]]]],
      ['Mezzanine', 1, [['IfcWall', [5]]]],
    ]);
  });

  it('keeps the rows that are asked for', () => {
    const found = elementTree(table, new Set([3, 5])).flatMap(({ classes }) => classes.flatMap((group) => group.rows));
    expect(found).toEqual([3, 5]);
    expect(elementTree(table, new Set())).toEqual([]);
  });
});

it('without a storey above it a node stands for itself', () => {
  expect(storeyOf(nodes, 0)).toBe(0);
  expect(storeyOf(nodes, 3)).toBe(2);
  expect(storeyOf(nodes, -1)).toBe(-1);
  expect(byElevation(undefined, nodes[4])).toBe(0);
});
