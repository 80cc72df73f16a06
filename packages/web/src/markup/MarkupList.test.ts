import type { Markup } from '@kindred/contract/markup/markup';
import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import MarkupList from './MarkupList.vue';

const author = { id: 'p', name: 'Ann Author', initials: 'AA', colour: '#123456' };
const markup = (number: number, draft: boolean, text = `Words ${number}`) =>
  ({
    id: `m${number}`,
    number,
    text,
    draft,
    status: 'ask',
    author,
    page: 1,
    shape: { kind: 'cloud', points: [] },
  }) as unknown as Markup;
const list = (markups: Markup[] | undefined, mayChange = true) =>
  mount(MarkupList, {
    props: {
      markups,
      here: ['m2'],
      mayChange,
      measureOf: ({ number }) => (number === 9 ? '5.00 m' : ''),
      sayTotal: ({ sum, unit }) => `${sum} ${unit}`,
      sheetOf: () => '',
    },
    slots: {
      detail: ({ markup: one }: { markup: Markup }) => `detail of ${one.number}`,
    },
  });
const buttons = (wrapper: ReturnType<typeof list>) => wrapper.findAll('button').map((button) => button.text());

it('says that there is none only when that is known', () => {
  expect(list(undefined).text()).not.toContain('None on this version');
  expect(list([]).text()).toContain('None on this version');
});

it('offers to publish drafts, one or all, and the status of what is published', async () => {
  const drafts = [markup(1, true), markup(2, true)];
  const wrapper = list([...drafts, markup(3, false)]);
  expect(buttons(wrapper)).toEqual([
    'Publish 2 drafts',
    'Words 1',
    'Publish',
    'Delete',
    'Words 2',
    'Publish',
    'Delete',
    'Words 3',
  ]);
  await wrapper.setProps({ here: ['m3'] });
  expect(wrapper.findAll('[aria-label^="Status of markup"]')).toHaveLength(1);
  await wrapper.setProps({ here: ['m2'] });
  expect(wrapper.find('article.here').text()).toContain('Words 2');
  expect(wrapper.text()).toContain('detail of 2');
  expect(wrapper.text()).not.toContain('detail of 1');
  await wrapper.findAll('button')[0]!.trigger('click');
  await wrapper.findAll('button')[2]!.trigger('click');
  await wrapper.findAll('button')[6]!.trigger('click');
  expect(wrapper.emitted('publish')).toEqual([[drafts], [[drafts[0]]]]);
  expect(wrapper.emitted('remove')).toEqual([[drafts[1]]]);
});

it('shows those of a status or an author, and what they measure together', async () => {
  const length = (number: number, status: 'ask' | 'note'): Markup =>
    ({
      ...markup(number, false),
      status,
      metresPerPoint: 0.5,
      shape: {
        kind: 'dimension',
        points: [
          [0, 0],
          [10, 0],
        ],
      },
    }) as Markup;
  const wrapper = list([length(1, 'ask'), { ...length(3, 'note'), text: 'Words 1' }, markup(4, false)]);
  expect(wrapper.find('.totals').text()).toContain('10 length');
  await wrapper.setProps({ status: 'note' });
  expect(wrapper.findAll('article')).toHaveLength(1);
  expect(wrapper.find('.totals').text()).toContain('5 length');
  await wrapper.setProps({ author: 'somebody else' });
  expect(wrapper.findAll('article')).toHaveLength(0);
});

it('lets whoever may not change them look only; one without words has the name of its kind, or what it measures', async () => {
  const wrapper = list([markup(4, false, '')], false);
  expect(buttons(wrapper)).toEqual(['Revision cloud']);
  expect(buttons(list([markup(9, false, '')]))).toEqual(['5.00 m']);
  expect(wrapper.find('[aria-label^="Status"]').exists()).toBe(false);
  await wrapper.find('button').trigger('click');
  expect(wrapper.emitted('show')).toEqual([[markup(4, false, '')]]);
});
