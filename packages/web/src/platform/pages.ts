import { useInfiniteQuery } from '@pinia/colada';
import { computed, watch } from 'vue';

export interface PageOf<T> {
  items: T[];
  next: string | null;
}

/** A list that arrives page by page, each after the last row of the one before; `all`: without being asked for more. */
export function usePages<T>(
  key: () => (string | object)[],
  load: (after: string | undefined) => Promise<PageOf<T>>,
  { all = false } = {},
) {
  const pages = useInfiniteQuery<PageOf<T>, Error, string>({
    key: () => key() as never,
    query: ({ pageParam }) => load(pageParam || undefined),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
  });
  function more(): void {
    if (pages.hasNextPage.value && pages.asyncStatus.value === 'idle') void pages.loadNextPage();
  }
  if (all) watch([pages.hasNextPage, pages.asyncStatus], more, { immediate: true });
  const items = computed(
    () => (pages.data.value?.pages as PageOf<T>[] | undefined)?.flatMap((page) => page.items) ?? [],
  );
  return {
    items,
    loaded: computed(() => pages.status.value === 'success'),
    hasMore: computed(() => Boolean(pages.hasNextPage.value)),
    refetch: (): Promise<unknown> => pages.refetch(),
    more,
  };
}
