import { afterEach, describe, expect, it, vi } from 'vitest';
import { settings } from './settings.ts';
import { bytes, day, isOverdue, useTime } from './time.ts';

afterEach(() => vi.useRealTimers());

describe('sizes', () => {
  it.each([
    [0, '0 B'],
    [999, '999 B'],
    [1000, '1.0 kB'],
    [9_940, '9.9 kB'],
    [12_300, '12 kB'],
    [2 ** 31, '2.1 GB'],
    [3e15, '3000 TB'],
  ])('%d is written %s', (size, words) => expect(bytes(size)).toBe(words));
});

describe('days', () => {
  it('stay what they are, whatever the zone', () => expect(day('2026-03-01')).toBe('1 Mar 2026'));

  it('are overdue from the day after', () => {
    vi.useFakeTimers({ now: new Date(2026, 10, 23, 12) });
    expect([null, '2026-11-22', '2026-11-23', '2026-11-24'].map(isOverdue)).toEqual([false, true, false, false]);
  });
});

describe('clocks of the project', () => {
  it('show a minute of a day, in summer and in winter', () => {
    settings.timeZone = 'Europe/Paris';
    const { atClock, clock } = useTime();
    expect(atClock(2026, 0, 12 * 60).toISOString()).toBe('2026-01-01T11:00:00.000Z');
    expect(atClock(2026, 171, 12 * 60).toISOString()).toBe('2026-06-21T10:00:00.000Z');
    expect(clock('2026-06-21T10:05:00Z')).toBe('12:05');
    settings.timeZone = '';
  });
});
