/** Two PDFs of one's own, compared in this browser: they are sent nowhere. */
import type { NumberedComparison } from '@kindred/core/compare/numbered';
import { Similarity } from '@kindred/core/compare/similarity';
import { wrap, type Remote } from 'comlink';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import { openPdf, type SheetSource } from '../drawing/table/sources.ts';
import type { FilesWorker, PagePair } from './files-worker.ts';

export interface TwoFiles {
  before: File;
  after: File;
}
interface OpenFiles {
  before: SheetSource;
  after: SheetSource;
  pairs: PagePair[];
}

/** `files`: to be compared; `position`: of the pair of pages that is looked at. */
export function useTwoFiles(files: () => TwoFiles | undefined, position: () => number) {
  const open = shallowRef<OpenFiles>();
  const comparison = shallowRef<NumberedComparison>();
  const broken = ref('');
  let worker: Worker | undefined;
  let remote: Remote<FilesWorker>;
  function close(): void {
    worker?.terminate();
    open.value?.before.close();
    open.value?.after.close();
    open.value = comparison.value = undefined;
  }
  watch(files, async (wanted) => {
    close();
    broken.value = '';
    if (!wanted) return;
    const { before, after } = wanted;
    worker = new Worker(new URL('./files-worker.ts', import.meta.url), { type: 'module' });
    remote = wrap<FilesWorker>(worker);
    try {
      const pairs = await remote.open(before, after, new URL('/pdfjs', location.href).href);
      const sources = [await openPdf(before), await openPdf(after)] as const;
      if (files() === wanted) open.value = { pairs, before: sources[0], after: sources[1] };
      else for (const source of sources) source.close();
    } catch (error) {
      // Whatever a reader says of a file is no sentence for people; it is kept for whoever looks into it.
      console.warn(error);
      if (files() === wanted) broken.value = NOT_READ;
    }
  });
  watch(
    () => [open.value, position()] as const,
    async ([both, at]) => {
      comparison.value = undefined;
      const pair = both?.pairs[at];
      if (!both || !pair?.before || !pair.after) return;
      broken.value = '';
      const isCurrent = (): boolean => open.value === both && position() === at;
      try {
        const { similarity, ...found } = await remote.compare(pair.before, pair.after, pair.split);
        if (isCurrent()) comparison.value = { ...found, similarity: new Similarity(...similarity) };
      } catch (error) {
        console.warn(error);
        if (isCurrent()) broken.value = NOT_COMPARED;
      }
    },
  );
  onScopeDispose(close);
  return { open, comparison, broken };
}
const NOT_COMPARED =
  'These two sheets could not be compared: what one of them draws cannot be read to its end. Both are shown; the other sheets can still be chosen.';
const NOT_READ =
  'One of the two could not be read: they have to be PDFs, whole, and open without a password. Nothing was sent anywhere; choose others.';
