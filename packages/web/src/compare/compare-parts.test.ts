import { NO_CHANGES } from '@kindred/core/compare/change-counts';
import type { Brief, ComparedSheet } from '@kindred/contract/compare/compare';
import type { NumberedChange } from '@kindred/core/compare/numbered';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import BriefList from './BriefList.vue';
import ChangeList from './ChangeList.vue';
import ChangeSaid from './ChangeSaid.vue';
import ComparedSheets from './ComparedSheets.vue';

const person = { id: 'p', name: 'Maren Tolvik', initials: 'MT' };
const change = (number: number, kind: NumberedChange['kind'], over: Partial<NumberedChange> = {}): NumberedChange => ({
  ...{ number, kind, box: [0, 0, 1, 1], place: [0, 0, 1, 1] },
  ...over,
});
type Request = Brief['requests'][number];
const request = (id: string, text: string, over: Partial<Request> = {}): Request =>
  ({
    ...{
      id,
      text,
      versionId: 'v',
      page: 1,
      place: null,
      markupId: null,
      issueId: null,
      by: person,
      at: '',
      edition: 1,
    },
    ...{ changes: [], ticked: false, ...over },
  }) as Request;
const brief = (requests: Request[], toCollect = { markups: 0, issues: 0 }): Brief => ({
  ...{ requests, changes: [], raised: [], toCollect },
  counts: { found: 0, missing: 0, notAsked: 0, toTick: 0 },
});

describe('the list of changes', () => {
  const list = (chosen?: number) =>
    mount(ChangeList, {
      props: {
        ...{ kinds: ['moved', 'text'], chosen, zoneOf: () => 'C4' },
        changes: [
          change(1, 'moved', { shift: [5.67, 0] }),
          change(2, 'added'),
          change(3, 'text', { before: 'a', after: 'b' }),
        ],
        colours: { added: '#1', removed: '#2', moved: '#3', text: '#4', look: '#5' },
        said: new Map([
          [1, { asked: false, ticked: false }],
          [3, { asked: true, ticked: true }],
        ]),
      },
      slots: { chosen: '<p class="slot" />' },
    });
  it('says what happened, where, and whether it was asked for; leaves kinds out', () => {
    const [moved, text, ...more] = list().findAll('li');
    expect(moved!.text()).toContain('Moved by 2.00 mm');
    expect(moved!.text()).toContain('C4');
    expect(moved!.text()).toContain('not asked for?');
    expect(text!.text()).toMatch(/“a” → “b”.*asked for$/s);
    expect(more).toEqual([]);
  });
  it('opens the chosen one alone', () => {
    const wrapper = list(3);
    expect(wrapper.findAll('.slot')).toHaveLength(1);
    expect(wrapper.findAll('li')[1]!.find('.slot').exists()).toBe(true);
  });
});

describe('the brief', () => {
  const props = { mayAsk: true, position: 1, chosen: undefined, busy: false };
  it('takes a pasted list line by line, without its numbers', async () => {
    const wrapper = mount(BriefList, { props: { ...props, brief: brief([]) } });
    await wrapper.find('textarea').setValue('1. Move the door\n\n - Turn the stair\n2) 3 windows more\n');
    await wrapper.find('form').trigger('submit');
    expect(wrapper.emitted('add')).toEqual([[['Move the door', 'Turn the stair', '3 windows more']]]);
  });
  it('says what is missing and where the others are', async () => {
    const requests = [
      request('a', 'Move the door', {
        changes: [
          { position: 1, number: 4 },
          { position: 3, number: 1 },
        ],
        ticked: true,
      }),
      request('b', 'Turn the stair'),
    ];
    const wrapper = mount(BriefList, { props: { ...props, chosen: 'a', brief: brief(requests) } });
    const [found, missing] = wrapper.findAll('li');
    expect(found!.text()).toContain('change 1 on sheet 3');
    expect(missing!.text()).toContain('missing');
    await found!.findAll('.links button')[0]!.trigger('click');
    expect(wrapper.emitted('change')).toEqual([[{ position: 1, number: 4 }]]);
  });
  it('offers what markups and issues ask for, and nothing to whoever may only look', () => {
    const open = brief([], { markups: 2, issues: 1 });
    expect(mount(BriefList, { props: { ...props, brief: open } }).text()).toContain('Take over 2 markups and 1 issue');
    const looking = mount(BriefList, { props: { ...props, mayAsk: false, brief: open } });
    expect(looking.text()).not.toContain('Take over');
    expect(looking.find('textarea').exists()).toBe(false);
  });
});

describe('what is said of a change', () => {
  const said = { position: 1, number: 1, asked: true, requestIds: ['a'], ticked: false, by: null, issueId: null };
  const shown = (over: object = {}) =>
    mount(ChangeSaid, {
      props: { said: { ...said, ...over } as never, requests: [request('a', 'Move the door')], maySay: true },
    });
  it('proposes, and is ticked with the requests that it proposes', async () => {
    const wrapper = shown();
    expect(wrapper.text()).toContain('perhaps request 1');
    await wrapper.findAll('button')[0]!.trigger('click');
    await wrapper.findAll('button')[1]!.trigger('click');
    expect(wrapper.emitted('judge')).toEqual([
      [true, ['a']],
      [false, []],
    ]);
  });
  it('names who ticked, and takes it back', async () => {
    const wrapper = shown({ ticked: true, by: person });
    expect(wrapper.text()).toContain('ticked by Maren Tolvik');
    await wrapper.findAll('button')[0]!.trigger('click');
    expect(wrapper.emitted('judge')).toEqual([[null, []]]);
  });
});

describe('the sheets of a set', () => {
  const none = { ...NO_CHANGES };
  const sheet = (position: number, over: Partial<ComparedSheet>): ComparedSheet => ({
    ...{
      position,
      beforePage: position,
      afterPage: position,
      number: `A-${position}`,
      formerNumber: '',
      title: 'Plan',
    },
    ...{ outcome: 'compared', split: false, note: '', counts: none, brief: null, ...over },
  });
  it('says of each what became of it, and leaves out the silent ones when asked', async () => {
    const sheets = [
      sheet(1, { counts: { ...none, moved: 2 }, formerNumber: 'A-9' }),
      sheet(2, {}),
      sheet(3, { outcome: 'removed', afterPage: null }),
      sheet(4, { outcome: 'unlike' }),
    ];
    const wrapper = mount(ComparedSheets, { props: { sheets, page: 1 } });
    const words = (): string[] => wrapper.findAll('li').map((one) => one.text());
    expect(words()).toEqual([
      expect.stringMatching(/was A-9.*2 changes/),
      expect.stringContaining('Nothing changed'),
      expect.stringContaining('not there any more'),
      expect.stringContaining('nothing in common'),
    ]);
    expect(wrapper.findAll('li button')[2]!.attributes('disabled')).toBeDefined();
    await wrapper.find('input[type=checkbox]').setValue(true);
    expect(words()).toHaveLength(3);
    await wrapper.findAll('li button')[0]!.trigger('click');
    expect(wrapper.emitted('page')).toEqual([[1]]);
  });
});
