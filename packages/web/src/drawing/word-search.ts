/** Looking for words: on the sheet that is open, and on the others of its drawing. */
import { findWords } from '@kindred/contract/drawing/drawing';
import { findText } from '@kindred/core/drawing/find-text';
import type { VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import type { Box } from '@kindred/core/markup/shapes';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

interface Searched {
  containerId: string;
  page: number;
  texts: readonly VectorText[];
}

/** `first`: words to begin with; `show`: brings a place of the sheet into sight. */
export function useWordSearch(first: string, searched: () => Searched, show: (box: Box) => void) {
  const project = useProject();
  const open = ref(first !== '');
  const words = ref(first);
  const at = ref(0);
  const found = computed(() => findText(searched().texts, words.value));
  watch([found, open], () => {
    at.value = 0;
    if (open.value) showFound(0);
  });
  function showFound(i: number): void {
    const hit = found.value[i];
    if (!hit) return;
    at.value = i;
    show(hit.box);
  }
  const { data: elsewhere } = useQuery({
    key: () => [project.projectId, 'container', 'words', searched().containerId, words.value.trim()],
    query: () =>
      call(findWords, {
        params: project.params,
        query: { q: words.value.trim(), containerId: searched().containerId, limit: 100 },
      }),
    enabled: () => open.value && words.value.trim().length > 1 && /[\p{L}\p{N}]/u.test(words.value),
  });
  return {
    open,
    words,
    at,
    found,
    others: computed(() => elsewhere.value?.items.filter((hit) => hit.page !== searched().page) ?? []),
    showFound,
    step: (by: number) => showFound((at.value + by + found.value.length) % (found.value.length || 1)),
    /** The place that is shown now. */
    place: computed(() => (open.value ? found.value[at.value]?.box : undefined)),
  };
}
