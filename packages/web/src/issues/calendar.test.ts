import { expect, it } from 'vitest';
import { monthBeside, weeksOf } from './calendar.ts';

it('a month is whole weeks from Monday to Sunday', () => {
  const weeks = weeksOf('2026-11');
  expect(weeks[0]).toEqual([
    '2026-10-26',
    '2026-10-27',
    '2026-10-28',
    '2026-10-29',
    '2026-10-30',
    '2026-10-31',
    '2026-11-01',
  ]);
  expect(weeks.at(-1)!.at(-1)).toBe('2026-12-06');
  expect(weeksOf('2021-02')).toHaveLength(4);
});

it('months go on over the year', () => {
  expect(monthBeside('2026-12', 1)).toBe('2027-01');
  expect(monthBeside('2026-01', -1)).toBe('2025-12');
});
