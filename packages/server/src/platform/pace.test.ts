import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Pace } from './pace.ts';

it('lets a burst through, then as many as come back', () => {
  const pace = new Pace(3, 2);
  expect([1, 2, 3, 4].map(() => pace.take('ada', 0))).toEqual([true, true, true, false]);
  expect(pace.has('ada', 0)).toBe(false);
  expect(pace.take('ada', 499)).toBe(false);
  expect(pace.take('ada', 500)).toBe(true);
  expect(pace.take('ben', 500)).toBe(true);
  expect(pace.has('nobody', 500)).toBe(true);
});

it('never lets more through than the burst and what came back in the time', () => {
  const waits = fc.array(fc.nat(400), { minLength: 1, maxLength: 200 });
  fc.assert(
    fc.property(waits, fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 50 }), (pauses, burst, perSecond) => {
      const pace = new Pace(burst, perSecond);
      let [now, taken] = [0, 0];
      for (const pause of pauses) {
        now += pause;
        if (pace.take('one', now)) taken++;
      }
      expect(taken).toBeLessThanOrEqual(burst + (now / 1000) * perSecond + 1e-6);
    }),
  );
});

it('without a limit everything passes, and nothing is remembered', () => {
  const pace = new Pace(0, 0);
  for (let i = 0; i < 1000; i++) expect(pace.take('one', 0)).toBe(true);
});
