import { useLocalStorage, useMediaQuery } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch, type Ref } from 'vue';
import { useRoute } from 'vue-router';

export interface Selected {
  type: 'container' | 'issue' | 'review' | 'transmittal' | 'markup' | 'viewpoint';
  id: string;
}

/** Sheets and scenes need the room: there the drawer begins closed. */
const SURFACES = new Set(['sheets', 'scene']);
/** Where it would take the work's room, the drawer lies over it and begins closed. */
const NARROW = '(max-width: 1099px)';

/** What is selected, and whether the drawer shows what is related to it. */
export const useRelated = defineStore('related', () => {
  const route = useRoute();
  const narrow = useMediaQuery(NARROW);
  const beside = useLocalStorage('related-open', true);
  const besideSurface = useLocalStorage('related-open-surface', false);
  const over = ref(false);
  const kept = computed(() =>
    narrow.value ? over : SURFACES.has(String(route.name)) ? besideSurface : (beside as Ref<boolean>),
  );
  const open = computed({ get: () => kept.value.value, set: (value) => void (kept.value.value = value) });
  watch(
    () => route.path,
    () => void (over.value = false),
  );
  const selected = ref<Selected | null>(null);
  return {
    open,
    selected,
    select: (thing: Selected | null) => void (selected.value = thing),
    toggle: () => void (open.value = !open.value),
  };
});

/** A list that opens shows what is related to its first row, until something is chosen. */
export function useFirstAsSelected(type: Selected['type'], list: Ref<readonly { id: string }[] | undefined>): void {
  const related = useRelated();
  related.select(null);
  watch(list, (items) => items?.[0] && !related.selected && related.select({ type, id: items[0].id }), {
    immediate: true,
  });
}
