import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { expect, it } from 'vitest';
import { elementsAlike } from './alike.ts';
import { elementNumber } from './engine/element-numbers.ts';
import { liftsOf, storeysOf } from './lifting.ts';
import type { LoadedModel } from './models.ts';

const storey = (name: string, elevation: number | null) => ({
  ...{ name, elevation, class: 'IfcBuildingStorey', parent: -1 },
});
const model = (slot: number, part: Partial<ElementTable>): LoadedModel => ({
  slot,
  versionId: `v${slot}`,
  table: {
    ...{ classes: ['IfcWall', 'IfcDoor'], types: ['Thin', 'Thick'], name: [] },
    nodes: [storey('Upper', 3.9), storey('Ground', 0), { name: 'Kit', class: 'IfcSpace', parent: 0, elevation: null }],
    globalId: ['a', 'b', 'c', 'd'],
    class: [0, 0, 1, 0],
    type: [0, 0, -1, 1],
    node: [0, 1, 2, -1],
    ...part,
  } as ElementTable,
});
const architecture = model(1, {});
const structure = model(2, {
  nodes: [storey('Level 2', 3.93), storey('Level 1', 0.02), storey('Roof', 7.8)],
  node: [0, 1, 2, 2],
});

it('lifts storeys of several models that lie at the same height together, whatever they are called', () => {
  const lifts = liftsOf([architecture, structure], 2);
  expect([...lifts.get(1)!]).toEqual([2, 0, 2, 0]);
  expect([...lifts.get(2)!]).toEqual([2, 0, 4, 4]);
});

it('lists each storey once, from the lowest up', () => {
  expect(storeysOf([architecture, structure]).map(({ name }) => name)).toEqual(['Ground', 'Upper', 'Roof']);
});

it('finds what is of the same type, and those on the same storey only', () => {
  expect(elementsAlike([architecture, structure], architecture, 0, false)).toEqual([
    ...[0, 1].map((row) => elementNumber(1, row)),
    ...[0, 1].map((row) => elementNumber(2, row)),
  ]);
  expect(elementsAlike([architecture], architecture, 0, true)).toEqual([elementNumber(1, 0)]);
  // Without a type the class counts.
  expect(elementsAlike([architecture], architecture, 2, false)).toEqual([elementNumber(1, 2)]);
});
