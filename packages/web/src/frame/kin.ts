import { defineStore } from 'pinia';
import { computed, ref, watch, type Ref } from 'vue';
import { useRoute } from 'vue-router';
import { useLocalStorage } from '@vueuse/core';

export interface Selected {
  type: 'container' | 'issue' | 'review' | 'transmittal' | 'markup' | 'viewpoint';
  id: string;
}

const SURFACES = new Set(['sheets', 'scene']);

/** What is selected, and whether the kin drawer shows what is related to it. */
export const useKin = defineStore('kin', () => {
  const route = useRoute();
  const beside = useLocalStorage('kin-open', true);
  const besideSurface = useLocalStorage('kin-open-surface', false);
  /** Sheets and scenes need the room: there the drawer begins closed. */
  const open = computed({
    get: () => (SURFACES.has(String(route.name)) ? besideSurface : beside).value,
    set: (value) => void ((SURFACES.has(String(route.name)) ? besideSurface : beside).value = value),
  });
  const selected = ref<Selected | null>(null);
  return {
    open,
    selected,
    select: (thing: Selected | null) => void (selected.value = thing),
    toggle: () => void (open.value = !open.value),
  };
});

/** A list that opens shows the kin of its first row, until something is chosen. */
export function useFirstAsKin(type: Selected['type'], list: Ref<readonly { id: string }[] | undefined>): void {
  const kin = useKin();
  kin.select(null);
  watch(list, (items) => items?.[0] && !kin.selected && kin.select({ type, id: items[0].id }), { immediate: true });
}
