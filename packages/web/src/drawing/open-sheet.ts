import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import { openPdf, openPicture, type SheetSource } from './table/sources.ts';

export interface SheetFile {
  versionId: string;
  url: string;
  kind: 'drawing' | 'image';
}

/** The drawing that is open, or a sentence where it cannot be opened; closed when another is wanted, or none. */
export function useOpenSheet(wanted: () => SheetFile | null) {
  const source = shallowRef<SheetSource>();
  const broken = ref('');
  function close(): void {
    source.value?.close();
    source.value = undefined;
  }
  watch(
    () => wanted()?.versionId,
    async (versionId) => {
      close();
      broken.value = '';
      const file = wanted();
      if (!file) return;
      try {
        const opened = await (file.kind === 'image' ? openPicture : openPdf)(file.url);
        if (wanted()?.versionId === versionId) source.value = opened;
        else opened.close();
      } catch (error) {
        // Whatever a reader says of a file is no sentence for people; it is kept for whoever looks into it.
        console.warn(error);
        broken.value =
          'The drawing could not be opened in this browser. Download it from the page of its versions instead.';
      }
    },
    { immediate: true },
  );
  onScopeDispose(close);
  return { source, broken };
}
