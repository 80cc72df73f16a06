import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CodedError } from '../platform/coded-error.ts';
import { readFilter, readOrder, type ODataFilter } from './odata.ts';

it('reads comparisons, and joins them as they bind', () => {
  expect(readFilter("topic_status eq 'Open' and (priority ne 'low' or creation_date ge 2026-01-01T00:00:00Z)")).toEqual(
    {
      kind: 'and',
      of: [
        { kind: 'compare', field: 'topic_status', operator: 'eq', value: 'Open' },
        {
          kind: 'or',
          of: [
            { kind: 'compare', field: 'priority', operator: 'ne', value: 'low' },
            { kind: 'compare', field: 'creation_date', operator: 'ge', value: '2026-01-01T00:00:00Z' },
          ],
        },
      ],
    },
  );
  expect(readFilter("contains(title, 'it''s')")).toMatchObject({ operator: 'contains', value: "it's" });
  expect(readFilter('not assigned_to eq null')).toMatchObject({ kind: 'not', of: { value: null } });
  expect(readFilter('index gt 12')).toMatchObject({ value: 12 });
  expect(readFilter("a eq 'x' or b eq 'y' and c eq 'z'")).toMatchObject({ kind: 'or', of: [{}, { kind: 'and' }] });
});

it.each([
  '',
  'title',
  'title eq',
  "title like 'x'",
  "(title eq 'x'",
  "title eq 'x' 'y'",
  "title eq 'x",
  '((((',
  `${'('.repeat(100)}a eq 1${')'.repeat(100)}`,
])('refuses %j', (said) => expect(() => readFilter(said)).toThrow(CodedError));

const word = fc
  .stringMatching(/^[a-z_]{1,12}$/)
  .filter((one) => !['and', 'or', 'not', 'contains', 'null', 'eq', 'ne', 'gt', 'ge', 'lt', 'le'].includes(one));
const { tree } = fc.letrec<{ tree: ODataFilter }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 4 },
    fc.record({
      kind: fc.constant('compare' as const),
      field: word,
      operator: fc.constantFrom('eq' as const, 'lt' as const, 'contains' as const),
      value: fc.string(),
    }),
    fc.record({ kind: fc.constantFrom('and' as const, 'or' as const), of: fc.tuple(tie('tree'), tie('tree')) }),
    fc.record({ kind: fc.constant('not' as const), of: tie('tree') }),
  ),
}));
const write = (filter: ODataFilter): string => {
  if (filter.kind === 'not') return `not (${write(filter.of)})`;
  if (filter.kind !== 'compare') return `(${write(filter.of[0])}) ${filter.kind} (${write(filter.of[1])})`;
  const value = `'${String(filter.value).replaceAll("'", "''")}'`;
  return filter.operator === 'contains'
    ? `contains(${filter.field},${value})`
    : `${filter.field} ${filter.operator} ${value}`;
};
it('reads back whatever is written', () => {
  fc.assert(
    fc.property(tree, (filter) => {
      expect(readFilter(write(filter))).toEqual(filter);
    }),
  );
});
it('never does anything but read or refuse', () => {
  fc.assert(
    fc.property(fc.string(), (said) => {
      try {
        readFilter(said);
      } catch (error) {
        expect(error).toBeInstanceOf(CodedError);
      }
    }),
  );
});

it('orders', () => {
  expect(readOrder('creation_date desc, title')).toEqual([
    { field: 'creation_date', descending: true },
    { field: 'title', descending: false },
  ]);
  expect(() => readOrder('title up')).toThrow(CodedError);
});
