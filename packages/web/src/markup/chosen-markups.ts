/** Markups of the sheet that is open: which are chosen, and what is done to them together. */
import type { Markup } from '@kindred/contract/markup/markup';
import { moved, type MarkupShape } from '@kindred/core/markup/shapes';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Changeable } from './commands.ts';
import type { useMarkups } from './markups.ts';

interface Settings {
  markups: ReturnType<typeof useMarkups>;
  page: () => number;
  mayChange: (markup: Markup) => boolean;
  /** The id of whoever looks. */
  me: () => string | undefined;
}
/** A copy stands beside what it was copied from. */
const ASIDE = 12;

export function useChosenMarkups({ markups, page, mayChange, me }: Settings) {
  const ids = ref<string[]>([]);
  /** Copied markups can be put on another sheet, at the same place. */
  const copied = useLocalStorage<Changeable[]>('copied-markups', []);
  const onPage = computed(() => markups.list.value.filter((markup) => markup.page === page()));
  const list = computed(() => onPage.value.filter(({ id }) => ids.value.includes(id)));
  const changeEach = (those: readonly Markup[], after: (markup: Markup) => Partial<Changeable>): Promise<boolean> =>
    markups.change(those.filter(mayChange).map((markup) => ({ markup, after: after(markup) })));
  return {
    ids,
    onPage,
    list,
    /** Points to the right and down. */
    move: (which: readonly string[], dx: number, dy: number): Promise<boolean> =>
      changeEach(
        onPage.value.filter(({ id }) => which.includes(id)),
        ({ shape }) => ({ shape: moved(shape, dx, dy) }),
      ),
    reshape: (id: string, shape: MarkupShape): Promise<boolean> =>
      changeEach(
        onPage.value.filter((markup) => markup.id === id),
        () => ({ shape }),
      ),
    change: (after: (markup: Markup) => Partial<Changeable>): Promise<boolean> => changeEach(list.value, after),
    /** Drafts of one's own; what is published stays. */
    async remove(): Promise<void> {
      const drafts = list.value.filter(({ draft, author }) => draft && author.id === me());
      if (drafts.length && (await markups.remove(drafts))) ids.value = [];
    },
    copy(): void {
      copied.value = list.value.map(({ shape, style, metresPerPoint, text, status }) => ({
        ...{ page: page(), shape, style, metresPerPoint, text, status },
      }));
    },
    paste: (): Promise<boolean> =>
      markups.add(
        copied.value.map((one) => ({
          ...one,
          shape: one.page === page() ? moved(one.shape, ASIDE, ASIDE) : one.shape,
          page: page(),
        })),
      ),
  };
}
