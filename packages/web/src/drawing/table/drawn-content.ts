/** Lines and words of the sheet on the table: what catches the pointer, what is searched. */
import { Snapper } from '@kindred/core/drawing/vectors/snap';
import type { VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import { wrap } from 'comlink';
import { onScopeDispose, shallowRef, watch } from 'vue';
import type { SnapWorker } from './snap-worker.ts';

export interface DrawnContent {
  snapper: Snapper;
  texts: VectorText[];
}

/** `load`: the packed page, undefined where there is none (a picture, or a drawing prepared before this was kept). */
export function useDrawnContent(key: () => string, load: () => Promise<Uint8Array | undefined>) {
  const content = shallowRef<DrawnContent>();
  let worker: Worker | undefined;
  watch(
    key,
    async (wanted) => {
      content.value = undefined;
      if (!wanted) return;
      const packed = await load();
      if (!packed || key() !== wanted) return;
      worker ??= new Worker(new URL('./snap-worker.ts', import.meta.url), { type: 'module' });
      const { parts, texts } = await wrap<SnapWorker>(worker).open(packed);
      if (key() === wanted) content.value = { snapper: new Snapper(parts), texts };
    },
    { immediate: true },
  );
  onScopeDispose(() => worker?.terminate());
  return content;
}
