import { useInfiniteQuery } from '@pinia/colada';
import { computed, watch } from 'vue';

export interface PageOf<T> {
  items: T[];
  next: string | null;
}

/** A list that arrives page by page, each after the last row of the one before; `all`: without being asked for more. */
export function usePages<T, More = unknown>(
  key: () => (string | object)[],
  load: (after: string | undefined) => Promise<PageOf<T> & More>,
  { all = false } = {},
) {
  const pages = useInfiniteQuery<PageOf<T> & More, Error, string>({
    key: () => key() as never,
    query: ({ pageParam }) => load(pageParam || undefined),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
  });
  function more(): void {
    if (pages.hasNextPage.value && pages.asyncStatus.value === 'idle') void pages.loadNextPage();
  }
  if (all) watch([pages.hasNextPage, pages.asyncStatus], more, { immediate: true });
  const read = computed(() => (pages.data.value?.pages as (PageOf<T> & More)[] | undefined) ?? []);
  const items = computed(() => read.value.flatMap((page): T[] => page.items));
  return {
    items,
    /** The first page, with whatever else it says of the list. */
    first: computed(() => read.value[0]),
    loaded: computed(() => pages.status.value === 'success'),
    hasMore: computed(() => Boolean(pages.hasNextPage.value)),
    refetch: (): Promise<unknown> => pages.refetch(),
    more,
  };
}
