import { describe, expect, it } from 'vitest';
import type { PropertySet } from '../scene/ifc-properties.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import { isSame, PropertyComparison, type SaidModel } from './compare-properties.ts';

const set = (name: string, properties: PropertySet['properties'], more: Partial<PropertySet> = {}): PropertySet => ({
  ...{ name, kind: 'properties', from: 'element', properties },
  ...more,
});
function model(sets: PropertySet[], more: Partial<Record<'name' | 'type' | 'storey', string>> = {}): SaidModel {
  return {
    table: {
      ...{
        classes: ['IfcWall'],
        types: more.type ? [more.type] : [],
        class: [0],
        type: [more.type ? 0 : -1],
        node: [0],
      },
      nodes: [{ name: more.storey ?? '00', class: 'IfcBuildingStorey', parent: -1, elevation: 0 }],
      ...{ globalId: ['a'], name: [more.name ?? 'Wall'] },
    } as unknown as ElementTable,
    properties: {
      sets,
      numbers: Uint32Array.from(sets, (_, i) => i),
      starts: Uint32Array.of(0, sets.length),
    },
  };
}
const changes = (before: SaidModel, after: SaidModel) => new PropertyComparison(before, after).changesOf(0, 0);

describe('what is said of an element', () => {
  it('is told with what was said: changed, new, gone, and what it is itself', () => {
    const before = model(
      [
        set('P', [
          { name: 'Fire', value: 'EI 30' },
          { name: 'Old', value: 1 },
        ]),
      ],
      { type: 'A', storey: '00' },
    );
    const after = model(
      [
        set('P', [
          { name: 'Fire', value: 'EI 60' },
          { name: 'New', value: true },
        ]),
      ],
      { type: 'B', storey: '01' },
    );
    expect(changes(before, after)).toEqual([
      { set: '', name: 'Type', before: { value: 'A' }, after: { value: 'B' } },
      { set: '', name: 'Storey', before: { value: '00' }, after: { value: '01' } },
      { set: 'P', name: 'Fire', before: { value: 'EI 30' }, after: { value: 'EI 60' } },
      { set: 'P', name: 'Old', before: { value: 1 }, after: null },
      { set: 'P', name: 'New', before: null, after: { value: true } },
    ]);
  });

  it('is the same in another order, in another unit, and whether its type or it says so', () => {
    const width = (value: number, unit: string) => set('Q', [{ name: 'Width', value, unit }]);
    const fire = set('P', [{ name: 'Fire', value: 'EI 30' }]);
    expect(changes(model([width(300, 'mm'), fire]), model([fire, width(0.3, 'm')]))).toEqual([]);
    expect(changes(model([{ ...fire, from: 'type' }]), model([fire]))).toEqual([]);
    const overridden = [fire, { ...set('P', [{ name: 'Fire', value: 'EI 90' }]), from: 'type' as const }];
    expect(changes(model(overridden), model([fire]))).toEqual([]);
  });

  it('counts what has one name several times one by one: layers', () => {
    const layers = (...all: string[]) =>
      set(
        'Layers',
        all.map((value) => ({ name: 'Layer', value })),
        { kind: 'materials' },
      );
    expect(changes(model([layers('Clay', 'Lime')]), model([layers('Clay', 'Gypsum')]))).toEqual([
      { set: 'Layers', name: 'Layer', before: { value: 'Lime' }, after: { value: 'Gypsum' } },
    ]);
  });

  it('differs where numbers do, not where they were rounded', () => {
    expect(isSame({ value: 2400, unit: 'mm' }, { value: 2.4000001, unit: 'm' })).toBe(true);
    expect(isSame({ value: 2400, unit: 'mm' }, { value: 2.401, unit: 'm' })).toBe(false);
    expect(isSame({ value: 90, unit: '°' }, { value: Math.PI / 2, unit: 'rad' })).toBe(true);
    expect(isSame({ value: 3, unit: 'kg' }, { value: 3, unit: 'lb' })).toBe(false);
    expect(isSame({ value: '3' }, { value: 3 })).toBe(false);
    expect(isSame({ value: 0 }, { value: 0 })).toBe(true);
  });
});
