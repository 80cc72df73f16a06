import { defineStore } from 'pinia';
import { ref } from 'vue';
import { useLocalStorage } from '@vueuse/core';

export interface Selected {
  type: 'container' | 'issue' | 'review' | 'transmittal' | 'markup' | 'viewpoint';
  id: string;
}

/** What is selected, and whether the kin drawer shows what is related to it. */
export const useKin = defineStore('kin', () => {
  const open = useLocalStorage('kin-open', true);
  const selected = ref<Selected | null>(null);
  return { open, selected, select: (thing: Selected | null) => void (selected.value = thing), toggle: () => void (open.value = !open.value) };
});
