import type { Clash } from '@kindred/contract/clash/clashes';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { PaintLayers, type Look } from '../scene/engine/paint-layers.ts';
import { clashMatrix, clashTree, countPiles, filterClashes } from './clash-tree.ts';
import ClashDetails from './ClashDetails.vue';
import { boxAround, ClashElements, paintClashes } from './clashes-in-scene.ts';
import ClashMatrix from './ClashMatrix.vue';
import { RULE_TEMPLATES } from './rule-templates.ts';
import { CLASH_PILES, sayClash, sayOpen } from './words.ts';

const element = (versionId: string, globalId: string, name: string): Clash['a'] => ({
  ...{ versionId, containerId: `c${versionId}`, globalId, class: 'IfcBeam', name, type: '', storey: 'Ground' },
});
const person = { id: 'p', name: 'Maren Tolvik', initials: 'MT' };
const clash = (number: number, over: Partial<Clash> = {}): Clash =>
  ({
    ...{ id: `id${number}`, number, groupId: 'g1', kind: 'hard', state: 'new', depth: 0.15, gap: null },
    ...{ a: element('s', `s${number}`, `Beam ${number}`), b: element('m', 'm1', 'Duct'), at: [number, 0, 3] },
    ...{ since: '2026-10-01T00:00:00Z', accepted: null, assignee: null, issue: null, ...over },
  }) as Clash;
const accepted = {
  by: person,
  at: '2026-10-02T00:00:00Z',
  reason: 'A hole is drawn',
  until: null,
} as Clash['accepted'];
const all = [
  clash(1),
  clash(2, { state: 'standing', accepted }),
  clash(3, { state: 'gone', groupId: 'g2' }),
  clash(4, { state: 'back', groupId: 'g2', assignee: person as Clash['assignee'] }),
];

describe('clashes in words', () => {
  it('say how two elements meet, and how much is open', () => {
    expect(sayClash(clash(1))).toBe('150 mm deep');
    expect(sayClash(clash(1, { depth: null }))).toContain('not known');
    expect(sayClash(clash(1, { kind: 'clearance', depth: null, gap: 0.0354 }))).toBe('35.4 mm apart');
    expect(sayClash(clash(1, { kind: 'duplicate' }))).toBe('the same twice');
    expect(sayOpen({ new: 2, standing: 5, back: 1, accepted: 3, gone: 1 })).toBe(
      '8 open, 3 of them new, 3 accepted, 1 clash gone',
    );
    expect(sayOpen({ new: 0, standing: 0, back: 0, accepted: 0, gone: 0 })).toBe('nothing open');
  });
  it('stand in one pile each, and are found by words', () => {
    expect(countPiles(all)).toEqual({ new: 1, standing: 0, back: 1, accepted: 1, gone: 1 });
    expect(filterClashes(all, CLASH_PILES, 'beam 4 tolvik').map(({ number }) => number)).toEqual([4]);
    expect(filterClashes(all, ['new', 'back'], '').map(({ number }) => number)).toEqual([1, 4]);
  });
});

describe('the tree and the matrix', () => {
  it('put those of one cause together, most first', () => {
    const groups = [{ id: 'g1', number: 1, name: 'Duct against 2 × IfcBeam' }];
    const tree = clashTree(all.slice(0, 3), groups, 'cause');
    expect(tree.map(({ label, count }) => [label, count])).toEqual([
      ['Duct against 2 × Beam', 2],
      ['Beam 3 × Duct', 1],
    ]);
    expect(clashTree(all, groups, 'responsible').map(({ label }) => label)).toEqual(['Nobody yet', 'Maren Tolvik']);
  });
  it('count between two, whichever is named first', () => {
    const turned = clash(5, { a: element('m', 'm1', 'Duct'), b: element('s', 's9', 'Beam 9') });
    const { sides, count } = clashMatrix([...all, turned], ({ versionId }) => versionId);
    expect(sides).toEqual(['m', 's']);
    expect([count('m', 's'), count('s', 'm'), count('m', 'm')]).toEqual([5, 5, 0]);
    const shown = mount(ClashMatrix, { props: { clashes: all, sideOf: ({ versionId }: Clash['a']) => versionId } });
    expect(shown.find('[aria-label="4 between s and m"]').text()).toBe('4');
  });
});

describe('clashes in the scene', () => {
  const models = [
    { versionId: 's', slot: 0, table: { globalId: ['s1', 's2', 'other'] } },
    { versionId: 'm', slot: 1, table: { globalId: ['m1'] } },
  ];
  function looks(clashes: readonly Clash[], unchanged: 'ghost' | 'own' | 'hidden'): Look[][] {
    const paint = new PaintLayers();
    const rows: Look[][] = models.map(({ table }) => table.globalId.map(() => 'own'));
    for (const { slot, table } of models)
      paint.addModel(slot, {
        elements: table.globalId.length,
        paint: (row, look) => void (rows[slot]![row] = look),
      });
    paintClashes(paint, models, new ClashElements(models), clashes, unchanged);
    return rows;
  }
  it('are in two colours, the rest a trace, nothing, or as it is', () => {
    const [a, b] = [0x0072b2, 0xc2407f];
    expect(looks([clash(1)], 'ghost')).toEqual([[a, 'ghost', 'ghost'], [b]]);
    expect(looks([clash(1), clash(2)], 'hidden')).toEqual([[a, a, 'hidden'], [b]]);
    expect(looks([clash(9)], 'own')).toEqual([['own', 'own', 'own'], [b]]);
  });
  it('are looked at with what is around them', () => {
    expect(boxAround([clash(1), clash(4)])).toEqual([-0.4, -1.4, 1.6, 5.4, 1.4, 4.4].map((v) => expect.closeTo(v)));
    expect(boxAround([])).toBeNull();
  });
});

it('says of one clash what meets, and of many what they have in common', () => {
  const details = (clashes: readonly Clash[]) =>
    mount(ClashDetails, { props: { title: 'Title', clashes, modelOf: () => 'Structural model' } }).text();
  expect(details([all[1]!])).toContain('A hole is drawn');
  expect(details([all[0]!])).toContain('Structural model');
  expect(details(all)).toContain('4 clashes · up to 150 mm deep · Ground');
});

it('offers rules of which each names what it looks at', () => {
  expect(new Set(RULE_TEMPLATES.map(({ name }) => name)).size).toBe(RULE_TEMPLATES.length);
  for (const { says, kinds } of RULE_TEMPLATES) expect([says.length > 10, kinds.length > 0]).toEqual([true, true]);
});
