import { flushPromises, mount } from '@vue/test-utils';
import { beforeEach, expect, it, vi } from 'vitest';
import { defineComponent, h, reactive, ref, shallowRef } from 'vue';
import { elementNumber } from './engine/element-numbers.ts';
import { PaintLayers } from './engine/paint-layers.ts';
import type { LoadedModel } from './models.ts';
import OthersSelections from './OthersSelections.vue';
import { readSelection, useOthersSelections } from './others-selections.ts';

const IDRIS = { id: 'idris', name: 'Idris', initials: 'IC', colour: '#112233' };
const live = vi.hoisted(() => ({ hear: undefined as unknown as (said: unknown) => void, told: [] as unknown[] }));
const present = reactive<(typeof IDRIS)[]>([]);
vi.mock('../identity/store.ts', () => ({ useSession: () => ({ me: { id: 'maren' } }) }));
vi.mock('../platform/live.ts', () => ({
  useLive: () => ({
    get present() {
      return present;
    },
    tellMomentary: (data: unknown) => void live.told.push(data),
    onMomentary(listener: (said: unknown) => void) {
      live.hear = listener;
      return () => undefined;
    },
  }),
}));

it.each([
  [{ selection: ['a', 'b'] }, ['a', 'b']],
  [{ selection: [] }, []],
  [{ selection: ['a', 1] }, undefined],
  [{ selection: Array.from({ length: 51 }, String) }, undefined],
  [{ selection: ['x'.repeat(65)] }, undefined],
  [{ pointer: [1, 2] }, undefined],
  [null, undefined],
  ['selection', undefined],
])('of %j is read %j', (data, ids) => expect(readSelection(data)).toEqual(ids));

const layers = shallowRef(new PaintLayers());
const painted = ref(0);
const models = shallowRef<LoadedModel[]>([]);
beforeEach(() => {
  vi.useFakeTimers();
  layers.value = new PaintLayers();
  layers.value.addModel(1, { elements: 3, paint: () => undefined });
  layers.value.onChanged = () => void painted.value++;
  models.value = [{ versionId: 'v', slot: 1, table: { globalId: ['a', 'b', 'c'] } } as unknown as LoadedModel];
  present.splice(0, present.length, IDRIS);
  live.told.length = 0;
});

it('mine is told to the others, theirs are painted and lead there, until they go', async () => {
  const paint = vi.spyOn(layers.value, 'selectOfOthers');
  const shown = vi.fn();
  const wrapper = mount(
    defineComponent(() => {
      const others = useOthersSelections(layers, painted, models);
      return () => h(OthersSelections, { others: others.value, onShow: shown });
    }),
  );
  layers.value.select([elementNumber(1, 1)]);
  await vi.advanceTimersByTimeAsync(300);
  expect(live.told).toEqual([{ selection: ['b'] }]);

  live.hear({ personId: 'idris', data: { selection: ['c', 'elsewhere'] } });
  live.hear({ personId: 'maren', data: { selection: ['a'] } });
  await flushPromises();
  expect(wrapper.text()).toContain('1 element');
  expect(paint).toHaveBeenLastCalledWith(new Map([[elementNumber(1, 2), 0x112233]]));
  await wrapper.get('button').trigger('click');
  expect(shown).toHaveBeenCalledWith([elementNumber(1, 2)]);

  present.splice(0);
  await flushPromises();
  expect(wrapper.find('button').exists()).toBe(false);
  expect(paint).toHaveBeenLastCalledWith(new Map());
  wrapper.unmount();
  expect(live.told.at(-1)).toEqual({ selection: [] });
});
