import { FILTER_TESTS } from '@kindred/core/scene/element-filter';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { filterText, NO_FILTER, readFilter } from './filter-text.ts';

const condition = fc.record({
  set: fc.string(),
  name: fc.string(),
  test: fc.constantFrom(...FILTER_TESTS),
  value: fc.string(),
});

it('any filter comes back from its text', () => {
  const filter = fc.record({
    match: fc.constantFrom('all' as const, 'any' as const),
    conditions: fc.array(condition, { minLength: 1, maxLength: 8 }),
  });
  fc.assert(
    fc.property(filter, (one) => {
      expect(readFilter(filterText(one))).toEqual(one);
    }),
  );
  expect(filterText(NO_FILTER)).toBe('');
});

it('what is no filter is none at all', () => {
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
      expect(readFilter(text).conditions).toEqual([]);
    }),
  );
  for (const wrong of ['["all",["a","b","guess","c"]]', '["some"]', '["all",["a"]]', '["all",[1,2,3,4]]'])
    expect(readFilter(wrong)).toEqual(NO_FILTER);
});
