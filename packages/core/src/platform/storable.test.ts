import fc from 'fast-check';
import { expect, it } from 'vitest';
import { isStorable, storable } from './storable.ts';

it('texts lose NUL and halves of pairs, numbers are finite, the rest stays', () => {
  expect(storable({ a: ['x\u0000y', '\uD83Cz', '🏗'], n: NaN, m: 2, none: null, yes: true })).toEqual({
    a: ['xy', '\uFFFDz', '🏗'],
    n: 0,
    m: 2,
    none: null,
    yes: true,
  });
});

it('whatever comes can be stored, and is the same when it comes again', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      const clean = storable(`${text}\uDC00\u0000`);
      expect(clean).not.toContain('\u0000');
      expect(clean).toBe(new TextDecoder().decode(new TextEncoder().encode(clean)));
      expect(storable(clean)).toBe(clean);
      expect([isStorable([{ clean }]), isStorable({ [`${clean}\u0000`]: 1 })]).toEqual([true, false]);
    }),
  );
});
