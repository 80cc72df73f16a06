import type { Markup } from '@kindred/contract/markup/markup';
import { beforeEach, expect, it, vi } from 'vitest';
import { ref } from 'vue';
import { useChosenMarkups } from './chosen-markups.ts';
import type { useMarkups } from './markups.ts';

const at = (id: string, x: number, over: Partial<Markup> = {}): Markup =>
  ({
    id,
    page: 1,
    shape: { kind: 'text', box: [x, 0, 10, 10] },
    style: {},
    text: id,
    status: 'ask',
    draft: true,
    author: { id: 'me' },
    ...over,
  }) as Markup;

function table(list: Markup[], mayChange: (markup: Markup) => boolean = () => true) {
  const change = vi.fn<(list: unknown[]) => Promise<boolean>>(() => Promise.resolve(true));
  const add = vi.fn<(list: unknown[]) => Promise<boolean>>(() => Promise.resolve(true));
  const remove = vi.fn<(list: unknown[]) => Promise<boolean>>(() => Promise.resolve(true));
  const markups = { list: ref(list), change, add, remove } as unknown as ReturnType<typeof useMarkups>;
  const page = ref(1);
  const chosen = useChosenMarkups({ markups, page: () => page.value, mayChange, me: () => 'me' });
  return { chosen, change, add, remove, page };
}
const afters = (change: ReturnType<typeof table>['change']) =>
  (change.mock.calls[0]![0] as { markup: Markup; after: Partial<Markup> }[]).map(({ markup, after }) => [
    markup.id,
    after,
  ]);

beforeEach(() => localStorage.clear());

it('what one may not change stays where it is', async () => {
  const { chosen, change } = table([at('a', 0), at('b', 50)], ({ id }) => id === 'b');
  await chosen.move(['a', 'b'], 5, 5);
  expect(afters(change)).toEqual([['b', { shape: { kind: 'text', box: [55, 5, 10, 10] } }]]);
});

it('a group is chosen as one', () => {
  const { chosen } = table([
    at('a', 0, { style: { group: 'g' } }),
    at('b', 50, { style: { group: 'g' } }),
    at('c', 90),
  ]);
  expect(chosen.withGroups(['a', 'c'])).toEqual(['a', 'c', 'b']);
});

it('brought to the front it lies over everything else of the sheet', async () => {
  const { chosen, change } = table([at('a', 0), at('b', 50, { style: { order: 4 } })]);
  chosen.ids.value = ['a'];
  await chosen.reorder('front');
  expect(afters(change)).toEqual([['a', { style: { order: 5 } }]]);
});

it('arranged together, each gets its own place', async () => {
  const { chosen, change } = table([at('a', 0), at('b', 50)]);
  chosen.ids.value = ['a', 'b'];
  await chosen.arrange((shapes) => [...shapes].reverse());
  expect(afters(change).map(([id, after]) => [id, (after as Markup).shape])).toEqual([
    ['a', { kind: 'text', box: [50, 0, 10, 10] }],
    ['b', { kind: 'text', box: [0, 0, 10, 10] }],
  ]);
});

it('a copy stands aside on its own sheet, at the same place on another', async () => {
  const { chosen, add, page } = table([at('a', 0)]);
  chosen.ids.value = ['a'];
  chosen.copy();
  await chosen.paste();
  page.value = 2;
  await chosen.paste();
  expect(add.mock.calls.map(([[one]]) => one)).toMatchObject([
    { page: 1, shape: { box: [12, 12, 10, 10] } },
    { page: 2, shape: { box: [0, 0, 10, 10] } },
  ]);
});

it('only drafts of one’s own are removed', async () => {
  const { chosen, remove } = table([
    at('a', 0),
    at('b', 50, { draft: false }),
    at('c', 60, { author: { id: 'x' } as Markup['author'] }),
  ]);
  chosen.ids.value = ['a', 'b', 'c'];
  await chosen.remove();
  expect((remove.mock.calls[0]![0] as Markup[]).map(({ id }) => id)).toEqual(['a']);
  expect(chosen.ids.value).toEqual([]);
});
