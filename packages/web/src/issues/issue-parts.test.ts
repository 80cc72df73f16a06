import type { Issue } from '@kindred/contract/issues/issues';
import type { Member } from '@kindred/contract/people/people';
import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import { h, type FunctionalComponent } from 'vue';
import { changesBack } from './change-issues.ts';
import { useChosenIssues } from './chosen-issues.ts';
import IssueCard from './IssueCard.vue';
import IssueRow from './IssueRow.vue';
import { filterOfGroup } from './issue-view.ts';
import ResponsibleSelect from './ResponsibleSelect.vue';

const person = { id: 'p', name: 'Ada Architect', email: 'a@b.example', initials: 'AA', colour: '#000', guest: false };
const issue = (more: Partial<Issue> = {}): Issue => ({
  ...{ id: 'i', number: 7, title: 'Too low', description: '', type: 'defect', priority: 'high', status: 'open' },
  ...{ responsible: null, verifier: null, author: person, writtenBy: null, dueOn: null, labels: ['roof'] },
  ...{ viewpointId: null, place: null, markupId: null, pictures: 0, comments: 2, edition: 3 },
  ...{ createdAt: '2026-01-01T00:00:00Z', updatedAt: '2026-01-02T00:00:00Z', answeredAt: null, closedAt: null },
  ...more,
});

it('a row says it all, is opened by Enter and ticked by Space', async () => {
  const row = mount(IssueRow, {
    props: { issue: issue({ dueOn: '2020-01-01' }), chosen: false, bars: '▮▮▮▯', blocks: false, said: '2 Jan' },
  });
  expect(row.text()).toContain('Too low');
  expect(row.text()).toContain('2 comments');
  expect(row.text()).toContain('roof');
  expect(row.find('.day .needs-you').exists()).toBe(true);
  await row.trigger('keydown.enter');
  await row.trigger('keydown.space');
  await row.find('input').trigger('change');
  expect(row.emitted('open')).toHaveLength(1);
  expect(row.emitted('toggle')).toHaveLength(2);
});

it('what is closed is not late', () => {
  const card = mount(IssueCard, {
    props: { issue: issue({ dueOn: '2020-01-01', status: 'closed' }), bars: '▮', blocks: true },
  });
  expect(card.find('.needs-you').exists()).toBe(false);
  expect(card.classes()).toContain('blocks');
});

it('what was changed of many can be put back as it was, a step cannot', () => {
  const before = issue({
    responsible: { kind: 'team', id: 't', name: 'Structure', person: null },
    dueOn: '2026-02-03',
  });
  expect(changesBack(before, { priority: 'low', responsible: null, action: 'close', reason: 'x' })).toEqual({
    priority: 'high',
    responsible: { kind: 'team', id: 't' },
  });
  expect(changesBack(before, { dueOn: null, labels: [], verifierId: 'p' })).toEqual({
    ...{ dueOn: '2026-02-03', labels: ['roof'], verifierId: null },
  });
});

it('issues are chosen one by one, or all together', () => {
  const chosen = useChosenIssues();
  const [a, b] = [issue({ id: 'a' }), issue({ id: 'b' })];
  chosen.toggle(a);
  chosen.toggleAll([a, b]);
  expect(chosen.list.value.map(({ id }) => id)).toEqual(['a', 'b']);
  chosen.toggleAll([a, b]);
  expect(chosen.list.value).toEqual([]);
});

it('groups without a value are lists of their own', () => {
  expect(filterOfGroup('label', '')).toEqual({ label: '-' });
  expect(filterOfGroup('team', '')).toEqual({ team: 'nobody' });
  expect(filterOfGroup('status', 'open')).toEqual({ status: 'open' });
});

it('a person, a team or a role is chosen from one list', async () => {
  const ElSelect: FunctionalComponent = (_props, { slots, emit, attrs }) =>
    h('div', { ...attrs, onClick: () => emit('update:modelValue', 'team/t') }, slots.default?.());
  ElSelect.emits = ['update:modelValue'];
  const ElOptionGroup: FunctionalComponent<{ label: string }> = ({ label }, { slots }) =>
    h('section', [label, slots.default?.()]);
  ElOptionGroup.props = { label: String };
  const ElOption: FunctionalComponent = (_props, { slots }) => h('p', slots.default?.());
  const view = mount(ResponsibleSelect, {
    props: {
      modelValue: null,
      members: [{ person, party: { code: 'TVA' } } as unknown as Member],
      teams: [{ id: 't', name: 'Structure' }],
      roles: [],
    },
    global: { components: { ElSelect, ElOptionGroup, ElOption } },
  });
  expect(view.findAll('section').map((group) => group.text())).toEqual([
    'PeopleAda Architect TVA',
    'Everybody in a teamStructure',
  ]);
  await view.find('[aria-label="Who answers"]').trigger('click');
  expect(view.emitted('update:modelValue')).toContainEqual([{ kind: 'team', id: 't' }]);
});
