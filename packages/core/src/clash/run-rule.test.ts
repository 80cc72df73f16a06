import { describe, expect, it } from 'vitest';
import type { ShownPart } from '../federation/shown-part.ts';
import { boxes, type TestBox } from '../scene/boxes.fixture.ts';
import type { PropertySet } from '../scene/ifc-properties.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import type { ClashRule, RuledModel } from './rule.ts';
import { runRule as run } from './run-rule.ts';

interface TestElement {
  id: string;
  class: string;
  x: number;
  name?: string;
  system?: string;
}
/** Cubes of a metre along the x axis. */
function model(elements: readonly TestElement[], discipline: string): RuledModel {
  const classes = [...new Set(elements.map((one) => one.class))];
  const table: ElementTable = {
    ...{ schema: 'IFC4', application: '', lengthUnit: 'metre', survey: null, notes: [], types: [], nodes: [] },
    classes,
    globalId: elements.map(({ id }) => id),
    name: elements.map(({ name, id }) => name ?? id),
    class: elements.map((one) => classes.indexOf(one.class)),
    type: elements.map(() => -1),
    node: elements.map(() => -1),
  };
  const sets = elements.map(({ system }): PropertySet => ({
    ...{ name: 'Groups', kind: 'groups', from: 'element' },
    properties: system ? [{ name: 'System', value: system }] : [],
  }));
  const numbers = Uint32Array.from(elements, (_, i) => i);
  const starts = Uint32Array.from({ length: elements.length + 1 }, (_, i) => i);
  const scene = boxes(elements.map(({ x }): TestBox => ({ min: [x, 0, 0], size: [1, 1, 1] })));
  return { content: { scene, table, properties: { sets, numbers, starts } }, parts: { Discipline: discipline } };
}
const everything = { match: 'all' as const, conditions: [] };
const only = (name: string, value: string, set = '') => ({
  match: 'all' as const,
  conditions: [{ set, name, test: 'is' as const, value }],
});
const rule = (over: Partial<ClashRule> = {}): ClashRule => ({
  ...{ a: everything, b: everything, kinds: ['hard'], tolerance: 0.001, clearance: 0.2, ignores: [] },
  ...over,
});
const runRule = (...asked: Parameters<typeof run>) => run(...asked).clashes;
const pairs = (of: ReturnType<typeof runRule>) => of.map(({ a, b }) => `${a.globalId} ${b.globalId}`).sort();

const structure = model(
  [
    { id: 'wall', class: 'IfcWall', x: 0 },
    { id: 'door', class: 'IfcDoor', x: 0.5 },
    { id: 'beam', class: 'IfcBeam', x: 10 },
  ],
  'S',
);
const services = model(
  [
    { id: 'duct', class: 'IfcDuctSegment', x: 0.8, system: 'Supply' },
    { id: 'lagging', class: 'IfcCovering', x: 10.2, name: 'Pipe insulation', system: 'Supply' },
    { id: 'pipe', class: 'IfcPipeSegment', x: 10.9, system: 'Supply' },
    { id: 'near', class: 'IfcPipeSegment', x: 12.05 },
  ],
  'M',
);

describe('a rule of clashes', () => {
  it('is of what line-ups show: their models, levels, and not what they hide', () => {
    const shown = (part: Partial<ShownPart>) => ({
      a: null,
      b: { isLeftOut: false, levels: null, hidden: [], ...part },
    });
    const found = (part: Partial<ShownPart>) => pairs(runRule(rule(), structure, { ...services, shown: shown(part) }));
    // Set A of the services still meets the structure: each set is asked on both sides.
    const oneWay = (part: Partial<ShownPart>) => {
      const ducts = { ...rule(), a: only('Discipline', 'S', 'Code'), b: only('Discipline', 'M', 'Code') };
      return pairs(runRule(ducts, structure, { ...services, shown: shown(part) }));
    };
    expect(found({})).toEqual(pairs(runRule(rule(), structure, services)));
    expect(oneWay({})).not.toEqual([]);
    expect(oneWay({ isLeftOut: true })).toEqual([]);
    expect(oneWay({ levels: [0] })).toEqual([]);
    expect(oneWay({ levels: [0, null] })).toEqual(oneWay({}));
    expect(oneWay({ hidden: ['duct'] }).some((pair) => pair.includes('duct'))).toBe(false);
  });
  it('holds one set against another, whichever model they lie in', () => {
    expect(pairs(runRule(rule(), structure, services))).toEqual([
      'beam lagging',
      'beam pipe',
      'door duct',
      'wall duct',
    ]);
    const ducts = only('Class', 'IfcDuctSegment');
    expect(pairs(runRule(rule({ a: ducts, b: only('Discipline', 'S', 'Code') }), structure, services))).toEqual([
      'door duct',
      'wall duct',
    ]);
    expect(runRule(rule({ a: ducts, b: only('Class', 'IfcBeam') }), structure, services)).toEqual([]);
  });

  it('passes over what it is told to', () => {
    expect(pairs(runRule(rule(), structure, structure))).toEqual(['wall door']);
    expect(runRule(rule({ ignores: ['hosted elements'] }), structure, structure)).toEqual([]);
    expect(runRule(rule({ ignores: ['same model'] }), structure, structure)).toEqual([]);
    expect(pairs(runRule(rule({ ignores: ['insulation'] }), structure, services))).not.toContain('beam lagging');
    expect(pairs(runRule(rule(), services, services))).toEqual(['lagging pipe']);
    expect(runRule(rule({ ignores: ['same system'] }), services, services)).toEqual([]);
  });

  it('tells hard ones, clearances and the same twice apart', () => {
    const found = runRule(rule({ kinds: ['clearance'] }), services, services);
    expect(found).toMatchObject([{ a: { globalId: 'pipe' }, b: { globalId: 'near' }, kind: 'clearance', depth: null }]);
    expect(found[0]!.gap).toBeCloseTo(0.15, 5);
    const twice = model([{ id: 'again', class: 'IfcWall', x: 0 }], 'A');
    expect(runRule(rule({ kinds: ['duplicate'] }), structure, twice)).toMatchObject([{ kind: 'duplicate' }]);
  });

  it('looks anew only at what changed, and finds the same', () => {
    const before = runRule(rule(), structure, services);
    const moved = model(
      [
        { id: 'duct', class: 'IfcDuctSegment', x: 5 },
        { id: 'lagging', class: 'IfcCovering', x: 10.2 },
        { id: 'pipe', class: 'IfcPipeSegment', x: 10.9 },
        { id: 'new', class: 'IfcPipeSegment', x: 0.2 },
      ],
      'M',
    );
    let looked = 0;
    const carried = { a: new Set<string>(), b: new Set(['duct', 'new', 'near']), clashes: before };
    const found = runRule(rule(), structure, moved, carried, (count) => (looked = count));
    expect(pairs(found)).toEqual(pairs(runRule(rule(), structure, moved)));
    expect(looked).toBe(2);
  });
});
