import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { expect, it } from 'vitest';
import { elementNumber } from './engine/element-numbers.ts';
import { LevelFilter, NO_LEVEL } from './level-filter.ts';
import type { LoadedModel } from './models.ts';

const model = (slot: number, versionId: string, storeys: [string, number][], node: number[]): LoadedModel => ({
  ...{ slot, versionId },
  table: {
    nodes: storeys.map(([name, elevation]) => ({ class: 'IfcBuildingStorey', name, elevation, parent: -1 })),
    node,
    globalId: node.map(String),
  } as unknown as ElementTable,
});
const models = [
  model(
    0,
    'a',
    [
      ['Ground', 0],
      ['Upper', 3],
    ],
    [0, 1, 1, -1],
  ),
  model(1, 's', [['Level 01', 0.1]], [0, 0]),
];
const disciplineOf = (versionId: string): string => ({ a: 'Architecture', s: 'Structure' })[versionId]!;

it('shows level by level, and discipline by discipline, over all models', () => {
  const filter = new LevelFilter(models);
  expect(filter.levels).toEqual([
    { name: 'Ground', elevation: 0, elements: 3 },
    { name: 'Upper', elevation: 3, elements: 2 },
    { name: NO_LEVEL, elevation: null, elements: 1 },
  ]);
  const found = (levels: string[] | null, disciplines: string[] | null) => [
    ...filter.elements({ levels, disciplines }, disciplineOf),
  ];
  const [a, s] = [(row: number) => elementNumber(0, row), (row: number) => elementNumber(1, row)];
  expect(found(['Ground'], null)).toEqual([a(0), s(0), s(1)]);
  expect(found(['Upper', NO_LEVEL], ['Architecture'])).toEqual([a(1), a(2), a(3)]);
  expect(found(null, ['Structure'])).toEqual([s(0), s(1)]);
  expect(found(null, null)).toHaveLength(6);
  expect(found([], null)).toEqual([]);
});
