/** What changed between two sheets, worked out beside the page as soon as both are known. */
import { boxOnAfter, type SheetChange } from '@kindred/core/compare/compare-sheets';
import { Similarity } from '@kindred/core/compare/similarity';
import { wrap, type Remote } from 'comlink';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { CompareWorker } from './compare-worker.ts';

export interface NumberedChange extends SheetChange {
  /** From 1, as the list and the sheet call it. */
  number: number;
  /** Left, top, width, height on the second sheet. */
  place: [number, number, number, number];
}
export interface SheetComparisonShown {
  similarity: Similarity;
  unlike: boolean;
  /** There are pictures, which are not compared. */
  pictures: boolean;
  changes: NumberedChange[];
  /** Fields that say something new with every issue. */
  routine: SheetChange[];
}
export interface SheetPage {
  versionId: string;
  page: number;
}

/** `load`: what a page draws, packed; undefined where that is not known. */
export function useSheetComparison(
  pair: () => { before: SheetPage; after: SheetPage } | undefined,
  load: (page: SheetPage) => Promise<Uint8Array | undefined>,
) {
  const comparison = shallowRef<SheetComparisonShown>();
  const failed = ref<'' | 'unknown' | 'broken'>('');
  let worker: Worker | undefined;
  let remote: Remote<CompareWorker>;
  function start(): void {
    worker = new Worker(new URL('./compare-worker.ts', import.meta.url), { type: 'module' });
    remote = wrap<CompareWorker>(worker);
  }
  watch(
    () => JSON.stringify(pair()),
    async (key) => {
      comparison.value = undefined;
      failed.value = '';
      const wanted = pair();
      if (!wanted) return;
      const [before, after] = await Promise.all([load(wanted.before), load(wanted.after)]);
      if (JSON.stringify(pair()) !== key) return;
      if (!before || !after) return void (failed.value = 'unknown');
      if (!worker) start();
      const found = await remote.compare(before, after);
      if (JSON.stringify(pair()) === key) comparison.value = shownOf(found);
    },
    { immediate: true },
  );
  onScopeDispose(() => worker?.terminate());
  return { comparison, failed };
}

export function shownOf({
  similarity: numbers,
  unlike,
  pictures,
  changes,
}: Awaited<ReturnType<CompareWorker['compare']>>): SheetComparisonShown {
  const similarity = new Similarity(...numbers);
  return {
    similarity,
    unlike,
    pictures,
    changes: changes
      .filter(({ routine }) => !routine)
      .map((change, i) => {
        const [x0, y0, x1, y1] = boxOnAfter(change, similarity);
        return { ...change, number: i + 1, place: [x0, y0, x1 - x0, y1 - y0] };
      }),
    routine: changes.filter(({ routine }) => routine),
  };
}
