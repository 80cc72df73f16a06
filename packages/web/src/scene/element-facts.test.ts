/** The panels that ask what is said of elements, over an index that is real: only the worker between is left out. */
import { filterElements, type ElementFilter } from '@kindred/core/scene/element-filter';
import { ElementIndex, type ColumnSummary, type PropertyKey } from '@kindred/core/scene/element-index';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { groupElements, scheduleElements } from '@kindred/core/scene/schedule';
import { flushPromises, mount } from '@vue/test-utils';
import { beforeEach, expect, it, vi } from 'vitest';
import { ref, shallowRef } from 'vue';
import ColourPanel from './ColourPanel.vue';
import FilterPanel from './FilterPanel.vue';
import SchedulePanel from './SchedulePanel.vue';
import type { Facts } from './facts/facts.ts';

const table = {
  globalId: ['a', 'b', 'c', 'd'],
  name: ['Door 1', 'Door 2', 'Wall 1', 'Wall 2'],
  classes: ['IfcDoor', 'IfcWall'],
  class: [0, 0, 1, 1],
  types: ['Oak'],
  type: [0, -1, -1, -1],
  nodes: [],
  node: [-1, -1, -1, -1],
} as unknown as ElementTable;
const index = new ElementIndex(table, null);
const ALL = Uint32Array.of(0, 1, 2, 3);
const numbers = (rows: Uint32Array): Float64Array => Float64Array.from(rows);
const facts = {
  columns: shallowRef<ColumnSummary[]>(index.list()),
  edition: ref(1),
  silent: ref<string[]>([]),
  remote: {
    filter: (filter: ElementFilter) => Promise.resolve(numbers(filterElements(index, filter))),
    group: (by: PropertyKey) =>
      Promise.resolve(groupElements(index, by, ALL).map(({ value, rows }) => ({ value, elements: numbers(rows) }))),
    schedule: (asked: { by: PropertyKey[]; sum: PropertyKey[] }, of?: Float64Array) =>
      Promise.resolve(
        scheduleElements(index, asked, of ? Uint32Array.from(of) : ALL).map((line) => ({
          ...line,
          elements: numbers(line.rows),
        })),
      ),
  },
} as unknown as Facts;
const filters = vi.hoisted(() => ({
  kept: { value: [] as unknown[], __v_isRef: true },
  mayShare: { value: true, __v_isRef: true },
  ...{ keep: vi.fn(), share: vi.fn(), remove: vi.fn() },
}));
vi.mock('./kept-filters.ts', () => ({ useKeptFilters: () => filters }));
const global = { stubs: { PropertySelect: true } };
beforeEach(() => void vi.useFakeTimers());
async function settle(): Promise<void> {
  await vi.advanceTimersByTimeAsync(500);
  await flushPromises();
}
const named = (test: 'is' | 'contains', value: string): ElementFilter => ({
  match: 'all',
  conditions: [{ set: '', name: 'Name', test, value }],
});

it('a filter tells how many it finds, and hands them on', async () => {
  const wrapper = mount(FilterPanel, { props: { facts, modelValue: named('contains', 'door') }, global });
  await settle();
  expect(wrapper.get('[role=status]').text()).toContain('2 elements');
  const button = (words: string) => wrapper.findAll('button').find((one) => one.text() === words)!;
  await button('Rest as ghosts').trigger('click');
  expect(wrapper.emitted('isolate')).toEqual([[[0, 1], 'ghost']]);
  await wrapper.get('[aria-label="Value of Name"]').setValue('door 2');
  expect(wrapper.emitted<[ElementFilter]>('update:modelValue')!.at(-1)![0]).toEqual(named('contains', 'door 2'));
  await wrapper.setProps({ modelValue: named('is', 'nothing') });
  await settle();
  expect(wrapper.get('[role=status]').text()).toContain('0 elements');
  expect(button('Select').attributes('disabled')).toBeDefined();
});

it('a filter is kept for oneself or shared under a name, taken again, and thrown away', async () => {
  const older = { name: 'Doors', filter: named('is', 'x'), mayRemove: true };
  const theirs = { ...older, id: '1', name: 'Fire doors', owner: 'Cleo', mayRemove: false };
  filters.kept.value = [older, theirs];
  const wrapper = mount(FilterPanel, { props: { facts, modelValue: named('is', 'Wall 1') }, global });
  await wrapper.get('[aria-label="Name of the filter"]').setValue(' Walls ');
  await wrapper.get('form').trigger('submit');
  expect(filters.keep).toHaveBeenCalledWith('Walls', named('is', 'Wall 1'));
  await wrapper.get('[aria-label="Name of the filter"]').setValue('For all');
  await wrapper.get('form button[type=button]').trigger('click');
  expect(filters.share).toHaveBeenCalledWith('For all', named('is', 'Wall 1'));
  expect(wrapper.get('ul').text()).toContain('shared by Cleo');
  await wrapper.get('li button').trigger('click');
  expect(wrapper.emitted('update:modelValue')!.at(-1)).toEqual([older.filter]);
  expect(wrapper.find('[title="Remove Fire doors"]').exists()).toBe(false);
  await wrapper.get('[title="Remove Doors"]').trigger('click');
  expect(filters.remove).toHaveBeenCalledWith(older);
});

it('colours come with what they mean, and go again', async () => {
  const wrapper = mount(ColourPanel, { props: { facts, modelValue: { set: '', name: 'Class' } }, global });
  await settle();
  expect(wrapper.findAll('button').map((one) => one.text())).toEqual(['IfcDoor2', 'IfcWall2']);
  await wrapper.findAll('button')[1]!.trigger('click');
  expect(wrapper.emitted('select')).toEqual([[[2, 3], false]]);
  await wrapper.setProps({ modelValue: null });
  await settle();
  expect(wrapper.emitted('colour')!.at(-1)).toEqual([null]);
  expect(wrapper.findAll('button')).toHaveLength(0);
});

it('a schedule counts all elements or those that are selected, and leads to them', async () => {
  const props = { facts, selection: new Set([0, 2]), painted: 1 };
  const wrapper = mount(SchedulePanel, { props, global });
  await settle();
  const rows = () => wrapper.findAll('tbody tr').map((row) => row.findAll('td').map((cell) => cell.text()));
  expect(rows()).toEqual([
    ['IfcDoor', '2'],
    ['IfcWall', '2'],
  ]);
  expect(wrapper.get('tfoot').text()).toContain('4');
  await wrapper.findAll('tbody tr')[1]!.trigger('keydown', { key: 'Enter' });
  expect(wrapper.emitted('select')).toEqual([[[2, 3]]]);
  await wrapper.get('input[type=checkbox]').setValue(true);
  await settle();
  expect(rows()).toEqual([
    ['IfcDoor', '1'],
    ['IfcWall', '1'],
  ]);
});
