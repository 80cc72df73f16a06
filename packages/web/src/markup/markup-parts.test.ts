/** The parts beside and below a sheet: what they show, and what they say was done. */
import type { Markup, MarkupComment, MarkupEdition } from '@kindred/contract/markup/markup';
import type { Member } from '@kindred/contract/people/people';
import type { Stamp } from '@kindred/contract/markup/stamps';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import ArrangeMenu from './ArrangeMenu.vue';
import MarkupDetail from './MarkupDetail.vue';
import MarkupEditor from './MarkupEditor.vue';
import StampFigure from './StampFigure.vue';
import StampStrip from './StampStrip.vue';
import StyleBar from './StyleBar.vue';

const person = (id: string, name: string) => ({
  id,
  name,
  initials: name[0]!,
  colour: '#112233',
  email: '',
  guest: false,
});
const ann = person('a', 'Ann Author');
const bo = person('b', 'Bo Builder');
const members = [ann, bo].map((one) => ({ id: `m-${one.id}`, person: one, party: null })) as unknown as Member[];
const markup = (over: Partial<Markup> = {}): Markup =>
  ({
    ...{
      id: 'm1',
      threadId: 'm1',
      number: 4,
      text: 'Widen it',
      status: 'ask',
      author: ann,
      writtenBy: null,
      draft: false,
    },
    ...{
      assignee: null,
      dueOn: null,
      carriedFrom: null,
      carriedTo: null,
      picture: false,
      createdAt: '2026-11-20',
      comments: 0,
    },
    ...{ shape: { kind: 'cloud', points: [] }, page: 1, edition: 2, ...over },
  }) as unknown as Markup;
const edition = (over: Partial<MarkupEdition>): MarkupEdition => ({
  ...{ edition: 1, versionNumber: 1, text: 'Widen it', status: 'ask', assignee: null, dueOn: null, redrawn: false },
  ...{ by: ann, writtenBy: null, at: '2026-11-20' },
  ...over,
});

describe('the detail of a markup', () => {
  const detail = (over: Partial<Markup> = {}, props: object = {}) =>
    mount(MarkupDetail, {
      props: {
        ...{ markup: markup(over), comments: [], editions: [], members, mayRewrite: true, mayMark: true },
        ...{ picture: '/picture', issue: undefined, mayRaise: true, say: (moment: string) => moment, ...props },
      },
      global: { stubs: { ElMention: true, ElDatePicker: true, PersonSelect: true } },
    });

  it('says whose it is, where it came from and where it goes on', async () => {
    const wrapper = detail({ writtenBy: 'Tom', carriedFrom: 1, picture: true });
    expect(wrapper.text()).toContain('Tom (in another program; brought in by Ann Author)');
    expect(wrapper.find('img').attributes('src')).toBe('/picture');
    await wrapper
      .findAll('button')
      .find((one) => one.text() === 'carried from version 1')!
      .trigger('click');
    expect(wrapper.emitted('version')).toEqual([[1]]);
    expect(detail({ carriedTo: 3 }).text()).toContain('goes on in version 3');
  });

  it('what was carried on is changed there, not here', () => {
    expect(detail().find('textarea').exists()).toBe(true);
    expect(detail({ carriedTo: 3 }).find('textarea').exists()).toBe(false);
    expect(detail({}, { mayRewrite: false }).find('textarea').exists()).toBe(false);
  });

  it('words are saved when somebody says so', async () => {
    const wrapper = detail();
    await wrapper.find('textarea').setValue('Widen it to 1,010');
    await wrapper
      .findAll('button')
      .find((one) => one.text() === 'Save words')!
      .trigger('click');
    expect(wrapper.emitted('change')).toEqual([[{ text: 'Widen it to 1,010' }]]);
  });

  it('tells what each edition made different, in the order of time', () => {
    const editions = [
      edition({}),
      edition({ edition: 2, status: 'act', assignee: bo, dueOn: '2026-12-01' }),
      edition({
        edition: 3,
        status: 'act',
        assignee: bo,
        dueOn: '2026-12-01',
        text: 'Other',
        redrawn: true,
        writtenBy: 'Tom',
      }),
      edition({ versionNumber: 2 }),
    ];
    const history = detail({}, { editions })
      .findAll('details li')
      .map((one) => one.find('span').text());
    expect(history).toEqual([
      'made: ask',
      'ask → act, to Bo Builder, due 2026-12-01',
      'other words, redrawn',
      'carried to version 2',
    ]);
  });

  it('shows what was said, and the issue or the way to one', async () => {
    const comment: MarkupComment = {
      id: 'c',
      text: 'Why?',
      author: bo,
      writtenBy: null,
      versionNumber: 1,
      at: '2026-11-21',
    };
    const wrapper = detail({}, { comments: [comment], issue: { id: 'i', number: 7 } });
    expect(wrapper.find('.comments').text()).toContain('Why?');
    await wrapper
      .findAll('button')
      .find((one) => one.text() === 'Issue 7')!
      .trigger('click');
    expect(wrapper.emitted('issue')).toEqual([['i']]);
    expect(detail().text()).toContain('Raise an issue from it');
    expect(detail({}, { mayRaise: false }).text()).not.toContain('Raise an issue');
  });
});

describe('how marks are drawn', () => {
  it('what is as usual is not written', async () => {
    const wrapper = mount(StyleBar, { props: { look: { colour: '#B4502D', width: 3, group: 'g' } } });
    expect(wrapper.find('[aria-label="Pen: rust"]').attributes('aria-pressed')).toBe('true');
    await wrapper.find('[aria-label="Pen: ink"]').trigger('click');
    await wrapper.find('.status').trigger('click');
    await wrapper.find('[aria-label="broad line"]').trigger('click');
    await wrapper.find('input').setValue(false);
    expect(wrapper.emitted('change')).toEqual([
      [{ colour: '#1D2A2F', width: 3, group: 'g' }],
      [{ width: 3, group: 'g' }],
      [{ colour: '#B4502D', group: 'g' }],
      [{ colour: '#B4502D', width: 3, group: 'g', filled: false }],
    ]);
  });

  it('stamps are chosen among those one may place, or words of one’s own', async () => {
    const stamp = { id: 's', name: 'Checked', text: 'CHECKED', colour: '#14706A', picture: true } as Stamp;
    const wrapper = mount(StampStrip, { props: { modelValue: '', stamps: [stamp], pictureOf: () => '/p' } });
    expect(wrapper.findAll('button').map((one) => one.text())).toEqual(['own words', 'Checked']);
    await wrapper.findAll('button')[1]!.trigger('click');
    expect(wrapper.emitted('update:modelValue')).toEqual([['s']]);
  });

  it('a stamp with a picture has no words over it', () => {
    const props = { colour: '#14706A', text: 'CHECKED\nAnn', width: 170, height: 60, picture: '' };
    expect(
      mount(StampFigure, { props })
        .findAll('tspan')
        .map((one) => one.text()),
    ).toEqual(['CHECKED', 'Ann']);
    const pictured = mount(StampFigure, { props: { ...props, picture: '/p' } });
    expect([pictured.findAll('tspan').length, pictured.find('image').attributes('href')]).toEqual([0, '/p']);
  });

  it('several are arranged, one is turned or kept where it is', () => {
    const stubs = {
      ElDropdown: { template: '<div><slot /><slot name="dropdown" /></div>' },
      ElDropdownMenu: { template: '<ul><slot /></ul>' },
      ElDropdownItem: { template: '<li><slot /></li>' },
    };
    const items = (several: boolean, locked = false) =>
      mount(ArrangeMenu, { props: { several, locked, grouped: false }, global: { stubs } })
        .findAll('li')
        .map((one) => one.text());
    expect(items(true)).toHaveLength(13);
    expect(items(false)).toEqual(['Turn by a quarter', 'Over all others', 'Under all others', 'Keep it where it is']);
    expect(items(false, true)).toContain('Let it be moved again');
  });
});

it('words of what was drawn are written beside it, within the window; Escape lets go', async () => {
  const wrapper = mount(MarkupEditor, {
    props: { shape: { kind: 'text', box: [0, 0, 10, 10] }, saving: false, at: [900, 20], window: [800, 600] },
  });
  expect(wrapper.attributes('style')).toContain('left: 512px');
  await wrapper.find('textarea').setValue('Fire door');
  await wrapper.find('input[value=act]').setValue();
  await wrapper.trigger('submit');
  expect(wrapper.emitted('save')).toEqual([['Fire door', 'act']]);
  await wrapper.trigger('keydown.esc');
  expect(wrapper.emitted('close')).toHaveLength(1);
});
