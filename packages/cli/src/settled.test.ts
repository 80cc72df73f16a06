import fc from 'fast-check';
import { expect, it } from 'vitest';
import { look, type Seen, type Watched } from './settled.ts';

it('never takes a file for whole before it has stayed the same for long enough', () => {
  const step = fc.record({ size: fc.nat(3), modified: fc.nat(3), wait: fc.integer({ min: 1, max: 5 }) });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 30 }), fc.integer({ min: 1, max: 8 }), (steps, settle) => {
      let watched = new Map<string, Watched>();
      let at = 0;
      const history: (Seen & { at: number })[] = [];
      for (const { size, modified, wait } of steps) {
        at += wait;
        history.push({ size, modified, at });
        const found = look(watched, new Map([['a.ifc', { size, modified }]]), at, settle);
        watched = found.watched;
        if (!found.settled.length) continue;
        expect(size).toBeGreaterThan(0);
        // Every look of the last `settle` milliseconds has seen it as it is now.
        const recent = history.filter((one) => one.at > at - settle);
        expect(recent.every((one) => one.size === size && one.modified === modified)).toBe(true);
      }
    }),
  );
});
