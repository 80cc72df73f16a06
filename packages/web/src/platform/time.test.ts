import { afterEach, describe, expect, it, vi } from 'vitest';
import { bytes, day, isOverdue } from './time.ts';

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
