import { refDebounced } from '@vueuse/core';
import { ref, watch, type Ref } from 'vue';

/** A field of search whose words stand in the address as `q`, once one pauses; it follows when the address changes. */
export function useTypedSearch({
  query,
  set,
}: {
  query: (name: string) => string;
  set: (values: Record<string, string | undefined>) => Promise<unknown>;
}): Ref<string> {
  const typed = ref(query('q'));
  const sought = refDebounced(typed, 200);
  watch(sought, (q) => void set({ q: q.trim() || undefined }));
  watch(
    () => query('q'),
    (q) => {
      if (q !== sought.value.trim()) typed.value = q;
    },
  );
  return typed;
}
