import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addWorkingDays, isWorkingDay, workingDaysBetween } from './working-days.ts';

const none = new Set<string>();
it('weekends and holidays are not counted', () => {
  expect(addWorkingDays('2026-11-27', 1, none)).toBe('2026-11-30');
  expect(addWorkingDays('2026-11-27', 5, new Set(['2026-12-01']))).toBe('2026-12-07');
  expect(addWorkingDays('2026-11-28', 0, none)).toBe('2026-11-30');
  expect(addWorkingDays('2026-11-27', 0, none)).toBe('2026-11-27');
  expect(workingDaysBetween('2026-11-27', '2026-11-30', none)).toBe(1);
  expect(workingDaysBetween('2026-11-30', '2026-11-26', none)).toBe(-2);
});

it('counting gives back what was added, and the day is one that is worked', () => {
  const day = fc.integer({ min: 0, max: 20_000 }).map((n) => new Date(n * 86_400_000).toISOString().slice(0, 10));
  fc.assert(
    fc.property(day, fc.integer({ min: 1, max: 80 }), fc.array(day, { maxLength: 10 }), (from, days, off) => {
      const holidays = new Set(off);
      const due = addWorkingDays(from, days, holidays);
      expect(isWorkingDay(due, holidays)).toBe(true);
      expect(workingDaysBetween(from, due, holidays)).toBe(days);
    }),
  );
});
