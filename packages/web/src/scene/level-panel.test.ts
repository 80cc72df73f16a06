import { listLineUps, saveLineUp, type LineUp } from '@kindred/contract/federation/federations';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { flushPromises, mount } from '@vue/test-utils';
import { beforeEach, expect, it, vi } from 'vitest';
import { ref } from 'vue';
import { elementNumber } from './engine/element-numbers.ts';
import type { LoadedModel } from './models.ts';

const kept: LineUp = {
  ...{ id: 'l', name: 'Upper, no door', shared: true, owner: 'Ada', mine: false },
  models: [{ containerId: 'container-a', versionId: 'a' }],
  levels: [{ name: 'First floor', elevation: 3.1 }],
  ...{ hidden: ['door'], versionIds: ['a'] },
};
const call = vi.fn<(operation: unknown, asked?: object) => Promise<unknown>>((operation) =>
  Promise.resolve(operation === listLineUps ? [kept] : undefined),
);
vi.mock('../platform/api.ts', () => ({ call }));
vi.mock('../platform/say.ts', () => ({
  attempt: async (run: () => Promise<unknown>) => (await run(), true),
  sayDone: () => undefined,
}));
vi.mock('../portfolio/store.ts', () => ({
  useProject: () => ({ projectId: 'p', params: { projectId: 'p' }, view: null }),
}));
vi.mock('@pinia/colada', () => ({
  useQuery: () => ({ data: ref([kept]), refetch: () => Promise.resolve() }),
}));
const { default: LevelPanel } = await import('./LevelPanel.vue');

const storey = (name: string, elevation: number) => ({ class: 'IfcBuildingStorey', name, elevation, parent: -1 });
const model = (slot: number, versionId: string): LoadedModel => ({
  ...{ slot, versionId },
  table: {
    nodes: [storey('Ground', 0), storey('Upper', 3)],
    node: [0, 1, 1],
    globalId: ['wall', 'door', 'beam'],
  } as unknown as ElementTable,
});
const [architecture, structure] = [model(0, 'a'), model(1, 's')];
const panel = () =>
  mount(LevelPanel, {
    props: {
      models: [architecture, structure],
      disciplineOf: (versionId: string) => ({ a: 'Architecture', s: 'Structure' })[versionId]!,
      open: ['a', 's'].map((versionId) => ({ containerId: `container-${versionId}`, versionId })),
      hidden: () => [elementNumber(1, 2)],
    },
    global: {
      stubs: {
        ElInput: {
          props: ['modelValue'],
          emits: ['update:modelValue'],
          template: '<input :value="modelValue" @input="$emit(\'update:modelValue\', $event.target.value)" />',
        },
        ElButton: { template: '<button><slot /></button>' },
      },
    },
  });
const press = (view: ReturnType<typeof panel>, text: string) =>
  view
    .findAll('button')
    .find((button) => button.text().startsWith(text))!
    .trigger('click');
const saved = () =>
  call.mock.calls
    .filter(([operation]) => operation === saveLineUp)
    .map(([, asked]) => (asked as { body: object }).body);
beforeEach(() => call.mockClear());

it('keeps the levels by elevation, the models of the disciplines that are chosen, and what is hidden', async () => {
  const view = panel();
  await press(view, 'Upper');
  await press(view, 'Structure');
  expect([...(view.emitted('isolate')!.at(-1)![0] as Iterable<number>)]).toEqual([
    elementNumber(1, 1),
    elementNumber(1, 2),
  ]);
  await view.find('form input').setValue('Steel above');
  await view.find('form').trigger('submit');
  await flushPromises();
  expect(saved()).toEqual([
    {
      ...{ name: 'Steel above', shared: false, hidden: ['beam'] },
      levels: [{ name: 'Upper', elevation: 3 }],
      models: [{ containerId: 'container-s', versionId: null }],
    },
  ]);
  const boxes = view.findAll('input[type=checkbox]');
  await boxes[1]!.setValue(true);
  await boxes[2]!.setValue(false);
  await view.find('form input').setValue('As it is today');
  await view.find('form').trigger('submit');
  await flushPromises();
  expect(saved()[1]).toMatchObject({ hidden: [], models: [{ containerId: 'container-s', versionId: 's' }] });
});

it('takes one up: its models first, then its levels as they are called here, and what it hides', async () => {
  const view = panel();
  await press(view, 'Upper, no door');
  expect(view.emitted('models')).toEqual([[['a']]]);
  expect(view.emitted('hide')).toBeUndefined();
  await view.setProps({ models: [architecture] });
  await flushPromises();
  expect([...(view.emitted('isolate')!.at(-1)![0] as Iterable<number>)]).toEqual([
    elementNumber(0, 1),
    elementNumber(0, 2),
  ]);
  expect(view.emitted('hide')).toEqual([[[elementNumber(0, 1)]]]);
});
