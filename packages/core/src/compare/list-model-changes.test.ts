import { expect, it } from 'vitest';
import type { ElementTable } from '../scene/prepare-model.ts';
import { listModelChanges } from './list-model-changes.ts';

const table = (ids: string[]): ElementTable => ({
  ...{ schema: 'IFC4', application: '', lengthUnit: 'metre', survey: null, notes: [] },
  classes: ['IfcWall', 'IfcDoor'],
  types: [],
  nodes: [{ class: 'IfcBuildingStorey', name: 'Ground floor', parent: -1, elevation: 0 }] as ElementTable['nodes'],
  globalId: ids,
  name: ids.map((id) => `Wall ${id}`),
  class: ids.map(() => 0),
  type: ids.map(() => -1),
  node: ids.map(() => 0),
});
const nothing = { moved: null, turned: null, geometry: null, properties: [] };

it('numbers what was added, removed and changed, each with what it is', () => {
  const fire = { set: 'Pset_WallCommon', name: 'FireRating', before: null, after: { value: 'EI 60' } };
  const changes = listModelChanges(table(['a', 'b', 'c', 'd']), table(['a', 'x', 'c', 'new']), {
    ...{ motion: null, added: [3], removed: [3], unchanged: [] },
    changed: [
      { ...nothing, before: 0, after: 0, renamed: false, moved: [1, 0, 0], properties: [fire] },
      { ...nothing, before: 1, after: 1, renamed: true, properties: [fire] },
      { ...nothing, before: 2, after: 2, renamed: false, moved: [1, 0, 0], geometry: { length: [4, 5] } },
    ],
  });
  const about = { class: 'IfcWall', storey: 'Ground floor', formerId: null };
  expect(changes).toEqual([
    { ...nothing, ...about, number: 1, kind: 'added', before: null, after: 3, globalId: 'new', name: 'Wall new' },
    { ...nothing, ...about, number: 2, kind: 'removed', before: 3, after: null, globalId: 'd', name: 'Wall d' },
    expect.objectContaining({ number: 3, kind: 'moved', globalId: 'a', properties: [fire] }),
    expect.objectContaining({ number: 4, kind: 'text', globalId: 'x', formerId: 'b' }),
    expect.objectContaining({ number: 5, kind: 'look', globalId: 'c', geometry: { length: [4, 5] } }),
  ]);
});
