import fc from 'fast-check';
import { expect, it } from 'vitest';
import { endsOf } from './ends.ts';
import { Similarity } from './similarity.ts';

const ends = [0, 0, 10, 0];
it('what moved was elsewhere, what came was nowhere, what went is nowhere', () => {
  expect(endsOf({ kind: 'moved', ends, shift: [5, 1] }, Similarity.none)).toEqual({
    ...{ before: [-5, -1, 5, -1], was: [-5, -1, 5, -1], after: ends },
  });
  expect(endsOf({ kind: 'added', ends }, Similarity.none)).toEqual({ before: [], was: [], after: ends });
  expect(endsOf({ kind: 'removed', ends }, Similarity.none)).toEqual({ before: ends, was: ends, after: [] });
  expect(endsOf({ kind: 'moved', ends, shift: [5, 1], turn: 1 }, Similarity.none).was).toEqual([]);
});
it('property: where it was lies on the sheet before where the similarity brings it from', () => {
  const value = fc.double({ min: -1000, max: 1000, noNaN: true });
  fc.assert(
    fc.property(value, value, fc.double({ min: -3, max: 3, noNaN: true }), (x, y, angle) => {
      const similarity = Similarity.about([0, 0], [x, y], angle, 1.5);
      const { before, was } = endsOf({ kind: 'removed', ends }, similarity);
      const [u, v] = similarity.map(before[2]!, before[3]!);
      expect([u - was[2]!, v - was[3]!].every((off) => Math.abs(off) < 1e-6)).toBe(true);
    }),
  );
});
