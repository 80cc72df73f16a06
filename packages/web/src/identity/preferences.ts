/** How one likes things: kept with the account, so that it is the same on every machine. */
import { changePreference, listPreferences } from '@kindred/contract/identity/identity';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch, type WritableComputedRef } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useSession } from './store.ts';

/** What is changed again within that time is kept once. */
const SETTLE_MS = 400;

const usePreferences = defineStore('preferences', () => {
  const session = useSession();
  const values = ref<Record<string, unknown>>({});
  watch(
    () => session.me?.id,
    (id) =>
      id &&
      void attempt(async () => {
        // What was chosen before the answer came is newer.
        values.value = { ...(await call(listPreferences)), ...values.value };
      }),
    { immediate: true },
  );
  const waiting = new Map<string, () => unknown>();
  function change(key: string, value: unknown): void {
    values.value = { ...values.value, [key]: value };
    if (!waiting.has(key))
      waiting.set(
        key,
        useDebounceFn(
          () => attempt(() => call(changePreference, { body: { key, value: values.value[key] } })),
          SETTLE_MS,
        ),
      );
    void waiting.get(key)!();
  }
  return { values, change };
});

/** `key`: what it belongs to may change while it is used. */
export function usePreference<T>(key: string | (() => string), initial: T): WritableComputedRef<T> {
  const preferences = usePreferences();
  const name = (): string => (typeof key === 'string' ? key : key());
  return computed({
    get: () => (preferences.values[name()] as T | undefined) ?? initial,
    set: (value) => preferences.change(name(), value),
  });
}
