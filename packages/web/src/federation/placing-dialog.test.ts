import type { ModelPlace } from '@kindred/contract/federation/federations';
import { placeModel } from '@kindred/contract/scene/placings';
import { flushPromises, mount } from '@vue/test-utils';
import { beforeEach, expect, it, vi } from 'vitest';

const call = vi.fn<(operation: unknown, asked?: object) => Promise<unknown>>(() => Promise.resolve(undefined));
vi.mock('../platform/api.ts', () => ({ call }));
vi.mock('../portfolio/store.ts', () => ({ useProject: () => ({ projectId: 'p', params: { projectId: 'p' } }) }));
vi.mock('@pinia/colada', () => ({ useQueryCache: () => ({ invalidateQueries: () => Promise.resolve() }) }));
const { default: PlacingDialog } = await import('./PlacingDialog.vue');

const place = (over: Partial<ModelPlace> = {}): ModelPlace => ({
  containerId: 'c',
  position: { lengthUnit: 'metre', survey: null, bounds: [0, 0, 0, 10, 5, 3] },
  ...{ findings: [], placing: null, set: null, ...over },
});
const FormDialog = {
  props: ['ready', 'run'],
  template: '<form :data-ready="ready" @submit.prevent="run()"><slot /></form>',
};
const ElInput = {
  props: ['modelValue'],
  emits: ['update:modelValue'],
  template: '<input :value="modelValue" @input="$emit(\'update:modelValue\', $event.target.value)" />',
};
const dialog = (own: ModelPlace) =>
  mount(PlacingDialog, {
    props: { name: 'Ducts', place: own, all: [{ name: 'Ducts', place: own }] },
    global: { stubs: { FormDialog, ElInput } },
  });
const values = (view: ReturnType<typeof dialog>) => view.findAll('input').map(({ element }) => element.value);
async function submit(view: ReturnType<typeof dialog>) {
  await view.find('form').trigger('submit');
  await flushPromises();
  return call.mock.calls.map(([operation, asked]) => [operation === placeModel, (asked as { body: object }).body]);
}
beforeEach(() => call.mockClear());

it('begins with what was found, draws it, and takes other numbers', async () => {
  const view = dialog(place({ placing: { turn: -22.9999999, shift: [1.5, 0, 2] } }));
  expect(values(view)).toEqual(['-23', '1.5', '0', '2']);
  expect(view.find('rect.after').exists()).toBe(true);
  await view.findAll('input')[0]!.setValue('90');
  expect(Math.round(Number(view.find('rect.after').attributes('width')))).toBe(5);
  expect(await submit(view)).toEqual([[true, { placing: { turn: 90, shift: [1.5, 0, 2] } }]]);
});

it('is not ready with what is no number, and nothing at all is as it was delivered', async () => {
  const set = { placing: { turn: 5, shift: [0, 0, 0] }, by: {}, at: '', number: 1 } as unknown as ModelPlace['set'];
  const view = dialog(place({ set }));
  expect(values(view)[0]).toBe('5');
  await view.findAll('input')[0]!.setValue('');
  expect(view.find('form').attributes('data-ready')).toBe('false');
  await view.findAll('input')[0]!.setValue('0');
  expect(view.find('form').attributes('data-ready')).toBe('true');
  expect(await submit(view)).toEqual([[true, { placing: null }]]);
});
