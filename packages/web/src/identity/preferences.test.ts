import { changePreference, listPreferences } from '@kindred/contract/identity/identity';
import { flushPromises } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { ref } from 'vue';

const call = vi.fn<(operation: unknown, asked?: object) => Promise<unknown>>((operation) =>
  Promise.resolve(operation === listPreferences ? { pen: { width: 2 }, 'scale/a': { whole: 1 } } : undefined),
);
vi.mock('../platform/api.ts', () => ({ call }));
vi.mock('./store.ts', () => ({ useSession: () => ({ me: { id: 'maren' } }) }));
const { usePreference } = await import('./preferences.ts');

beforeEach(() => {
  setActivePinia(createPinia());
  call.mockClear();
});

it('is what was kept, and what is chosen before that comes wins', async () => {
  const [pen, units] = [usePreference('pen', {}), usePreference('units', 'project')];
  expect(pen.value).toEqual({});
  units.value = 'metric';
  await flushPromises();
  expect([pen.value, units.value]).toEqual([{ width: 2 }, 'metric']);
});

it('what is changed several times at once is kept once, as it was at last; each thing has its own', async () => {
  vi.useFakeTimers();
  const sheet = ref('a');
  const scale = usePreference(() => `scale/${sheet.value}`, {});
  await flushPromises();
  scale.value = { whole: 2 };
  scale.value = { whole: 3 };
  sheet.value = 'b';
  expect(scale.value).toEqual({});
  await vi.runAllTimersAsync();
  vi.useRealTimers();
  const kept = call.mock.calls.filter(([operation]) => operation === changePreference);
  expect(kept.map(([, asked]) => asked)).toEqual([{ body: { key: 'scale/a', value: { whole: 3 } } }]);
});
