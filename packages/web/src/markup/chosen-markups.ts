/** Markups of the sheet that is open: which are chosen, and what is done to them together. */
import type { Markup } from '@kindred/contract/markup/markup';
import { moved, type MarkupShape, type MarkupStyle } from '@kindred/core/markup/shapes';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Changeable, NewMarkup } from './commands.ts';
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
  const copied = useLocalStorage<NewMarkup[]>('copied-markups', []);
  const onPage = computed(() => markups.list.value.filter((markup) => markup.page === page()));
  const list = computed(() => onPage.value.filter(({ id }) => ids.value.includes(id)));
  /** What hangs together is chosen together. */
  function withGroups(chosen: readonly string[]): string[] {
    const groups = new Set(
      onPage.value.flatMap(({ id, style }) => (chosen.includes(id) && style.group ? [style.group] : [])),
    );
    const more = onPage.value.filter(({ style }) => style.group && groups.has(style.group)).map(({ id }) => id);
    return [...new Set([...chosen, ...more])];
  }
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
    withGroups,
    /** All of them at once, shape by shape. */
    arrange(to: (shapes: MarkupShape[]) => MarkupShape[]): Promise<boolean> {
      const those = list.value.filter(mayChange);
      const shapes = to(those.map(({ shape }) => shape));
      return markups.change(those.map((markup, i) => ({ markup, after: { shape: shapes[i]! } })));
    },
    restyle: (part: Partial<MarkupStyle>): Promise<boolean> =>
      changeEach(list.value, ({ style }) => ({ style: withoutUndefined({ ...style, ...part }) })),
    /** Over or under everything else of the sheet. */
    reorder(to: 'front' | 'back'): Promise<boolean> {
      const orders = onPage.value.map(({ style }) => style.order ?? 0);
      const order = to === 'front' ? Math.max(0, ...orders) + 1 : Math.min(0, ...orders) - 1;
      return changeEach(list.value, ({ style }) => ({ style: { ...style, order } }));
    },
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

const withoutUndefined = (style: MarkupStyle): MarkupStyle =>
  Object.fromEntries(Object.entries(style).filter(([, value]) => value !== undefined));
