import type { Member } from '@kindred/contract/people/people';
import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import { h, type FunctionalComponent } from 'vue';
import PersonSelect from './PersonSelect.vue';

const ElSelect: FunctionalComponent<{ clearable?: boolean }> = ({ clearable }, context) =>
  h('div', { 'data-clearable': String(clearable) }, context?.slots.default?.());
ElSelect.props = { clearable: Boolean };
const ElOption: FunctionalComponent<{ value: string }> = ({ value }, context) =>
  h('p', { 'data-value': value }, context?.slots.default?.());
ElOption.props = { value: String };
const member = (id: string, name: string) =>
  ({ id: `member-${id}`, person: { id, name }, party: { code: 'TVA' } }) as unknown as Member;
const select = (props: object) =>
  mount(PersonSelect, {
    props: { modelValue: null, members: [member('a', 'Ada'), member('b', 'Ben')], ...props },
    global: { components: { ElSelect, ElOption } },
  });

it('offers people by their own id, with what tells them apart behind the name', () => {
  const view = select({ note: ({ party }: Member) => party!.code });
  expect(view.findAll('p').map((line) => [line.attributes('data-value'), line.text()])).toEqual([
    ['a', 'Ada TVA'],
    ['b', 'Ben TVA'],
  ]);
});

it('or by that of their membership', () => {
  expect(select({ membership: true }).find('p').attributes('data-value')).toBe('member-a');
});

it('one may be taken back, several are taken out one by one', () => {
  expect(select({}).find('div').attributes('data-clearable')).toBe('true');
  expect(select({ multiple: true, modelValue: [] }).find('div').attributes('data-clearable')).toBe('false');
});
