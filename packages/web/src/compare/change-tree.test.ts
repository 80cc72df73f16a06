import { CHANGE_KINDS } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { describe, expect, it } from 'vitest';
import { elementNumber } from '../scene/engine/element-numbers.ts';
import { PaintLayers, type Look } from '../scene/engine/paint-layers.ts';
import { changeTree, filterChanges } from './change-tree.ts';
import { paintChanges, type ShownChanges } from './changes-in-scene.ts';

const change = (number: number, over: Partial<ModelChange>): ModelChange => ({
  ...{ number, kind: 'text', before: 0, after: 0, globalId: `id${number}`, formerId: null },
  ...{ class: 'IfcWall', name: `Wall ${number}`, storey: 'Ground', moved: null, turned: null, geometry: null },
  ...{ properties: [], ...over },
});
const added = change(1, { kind: 'added', before: null, after: 3 });
const removed = change(2, { kind: 'removed', before: 1, after: null, class: 'IfcDoor', storey: 'Upper' });
const moved = change(3, { kind: 'moved', before: 2, after: 1 });
const said = change(4, {
  before: 3,
  after: 2,
  properties: [{ set: 'Pset_Fire', name: 'FireRating', before: null, after: { value: 'EI 90' } }],
});
const all = [added, removed, moved, said];

describe('the tree of changes', () => {
  const told = (by: Parameters<typeof changeTree>[1]) =>
    changeTree(all, by).map(({ label, count, children }) => [label, count, children!.map(({ label }) => label)]);
  it('groups by what happened, by storey, by class', () => {
    expect(told('change')).toEqual([
      ['added', 1, ['Wall 1']],
      ['removed', 1, ['Wall 2']],
      ['moved', 1, ['Wall 3']],
      ['values', 1, ['Wall 4']],
    ]);
    expect(told('storey').map(([label, count]) => [label, count])).toEqual([
      ['Ground', 3],
      ['Upper', 1],
    ]);
    expect(told('class').map(([label]) => label)).toEqual(['Door', 'Wall']);
  });
  it('finds by name, class and value, within the kinds that are shown', () => {
    expect(filterChanges(all, CHANGE_KINDS, 'firerating 90')).toEqual([said]);
    expect(filterChanges(all, CHANGE_KINDS, 'door')).toEqual([removed]);
    expect(filterChanges(all, ['added', 'moved'], '')).toEqual([added, moved]);
  });
});

describe('changes in the scene', () => {
  const colours = { added: '#000001', removed: '#000002', moved: '#000003', text: '#000004', look: '#000005' };
  function looks(over: Partial<ShownChanges>, together = true): Record<'before' | 'after', Look[]> {
    const paint = new PaintLayers();
    const rows = { before: Array<Look>(4).fill('own'), after: Array<Look>(4).fill('own') };
    const versions = (['after', 'before'] as const).slice(0, together ? 2 : 1);
    versions.forEach((side, slot) =>
      paint.addModel(slot, { elements: 4, paint: (row, look) => void (rows[side][row] = look) }),
    );
    const shown = versions.map((side, slot) => ({ side, slot, elements: 4 }));
    paintChanges(paint, shown, { changes: all, colours, unchanged: 'ghost', chosen: undefined, ...over });
    expect(elementNumber(1, 0)).not.toBe(elementNumber(0, 0));
    return rows;
  }
  it('shows the later version with what is gone, each in its colour', () => {
    expect(looks({})).toEqual({ before: ['hidden', 2, 'hidden', 'hidden'], after: ['ghost', 3, 4, 1] });
    expect(looks({ unchanged: 'own', changes: [moved] })).toEqual({
      before: ['hidden', 'hidden', 'hidden', 'hidden'],
      after: ['own', 3, 'own', 'own'],
    });
  });
  it('shows how the chosen element was before it moved, and nothing twice of one that only says something else', () => {
    expect(looks({ chosen: moved })).toEqual({
      before: ['hidden', 2, 2, 'hidden'],
      after: ['ghost', 'selected', 4, 1],
    });
    expect(looks({ chosen: said }).before).toEqual(['hidden', 2, 'hidden', 'hidden']);
    expect(looks({ chosen: removed }).before).toEqual(['hidden', 'selected', 'hidden', 'hidden']);
  });
  it('shows a version alone with all its changes', () => {
    expect(looks({ chosen: said }, false).after).toEqual(['ghost', 3, 'selected', 1]);
  });
});
