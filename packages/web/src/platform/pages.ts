import { useInfiniteQuery } from '@pinia/colada';
import { computed } from 'vue';

export interface PageOf<T> {
  items: T[];
  next: string | null;
}

/** A list that arrives page by page, each after the last row of the one before. */
export function usePages<T>(key: () => (string | object)[], load: (after: string | undefined) => Promise<PageOf<T>>) {
  const pages = useInfiniteQuery<PageOf<T>, Error, string>({
    key: () => key() as never,
    query: ({ pageParam }) => load(pageParam || undefined),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
  });
  const items = computed(
    () => (pages.data.value?.pages as PageOf<T>[] | undefined)?.flatMap((page) => page.items) ?? [],
  );
  return {
    items,
    loaded: computed(() => pages.status.value === 'success'),
    hasMore: computed(() => Boolean(pages.hasNextPage.value)),
    more(): void {
      if (pages.hasNextPage.value && pages.asyncStatus.value === 'idle') void pages.loadNextPage();
    },
  };
}
