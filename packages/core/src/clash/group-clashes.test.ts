import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { groupClashes, type KnownOf, type Met } from './group-clashes.ts';

const clash = (a: number, b: number): Met => ({ a: `a${a}`, b: `b${b}` });
const nothing: KnownOf = {
  type: (element) => element,
  system: () => '',
  storey: () => '',
  model: (element) => element[0]!,
  elementsIn: () => 1000,
};
const types: KnownOf = { ...nothing, type: (element) => `${element[0]}${Number(element.slice(1)) % 2}` };

describe('clashes with one cause', () => {
  it('are one group: a pipe through forty bars', () => {
    const bars = Array.from({ length: 40 }, (_, i) => clash(7, i));
    expect(groupClashes([clash(1, 99), ...bars], types)).toEqual([
      { cause: { element: 'a7' }, clashes: bars.map((_, i) => i + 1) },
      { cause: null, clashes: [0] },
    ]);
  });

  it('are a pattern where two types meet again and again, each time others of them', () => {
    const pairs = [clash(2, 4), clash(4, 6), clash(6, 8), clash(1, 3)];
    expect(groupClashes(pairs, types)).toEqual([
      { cause: { types: ['a0', 'b0'] }, clashes: [0, 1, 2] },
      { cause: null, clashes: [3] },
    ]);
  });

  it('are those of a system where each is another of its elements', () => {
    const known = { ...nothing, system: (element: string) => (element.startsWith('a') ? 'Supply' : '') };
    const met = [clash(1, 1), clash(2, 2), clash(3, 3)];
    expect(groupClashes(met, known)).toEqual([{ cause: { system: 'Supply', element: 'a1' }, clashes: [0, 1, 2] }]);
  });

  it('are those of a storey where most of its elements clash and others of its model do not, unless a single thing stands in their way', () => {
    const counts: Record<string, number> = { one: 8, two: 8, other: 100, a: 16, b: 100 };
    const known: KnownOf = {
      ...nothing,
      storey: (element) => (element.startsWith('b') ? 'other' : Number(element.slice(1)) < 10 ? 'one' : 'two'),
      elementsIn: (key) => counts[key]!,
    };
    const met = [0, 1, 2, 3, 4, 5].map((i) => clash(i, i));
    expect(groupClashes(met, known)).toEqual([
      { cause: { storey: 'one', elements: 6, of: 8 }, clashes: [0, 1, 2, 3, 4, 5] },
    ]);
    const through = [0, 1, 2, 3, 4, 5].map((i) => clash(i, 7));
    expect(groupClashes(through, known)).toMatchObject([{ cause: { element: 'b7' } }]);
    const causes = (clashes: readonly Met[], over: Record<string, number> = {}) =>
      groupClashes(clashes, { ...known, elementsIn: (key) => ({ ...counts, ...over })[key]! }).map(
        ({ cause }) => cause,
      );
    expect(causes(met, { one: 9, a: 17 })).toEqual(Array(6).fill(null));
    // Each of six walls is gone through by four pipes of its own.
    const pierced = Array.from({ length: 24 }, (_, i) => clash(i % 6, i));
    expect(causes(pierced)).toEqual([0, 1, 2, 3, 4, 5].map((i) => ({ element: `a${i}` })));
    // A model of one storey, and one whose other storey is no better.
    expect(causes(met, { a: 8 })).toEqual(Array(6).fill(null));
    const above = [10, 11, 12, 13].map((i) => clash(i, i));
    expect(causes([...met, ...above])).toEqual(Array(10).fill(null));
    expect(causes([...met, ...above.slice(0, 2)])[0]).toMatchObject({ storey: 'one' });
  });

  it('are each in one group, the largest first', () => {
    const pair = fc.tuple(fc.nat(8), fc.nat(8)).map(([a, b]) => clash(a, b));
    fc.assert(
      fc.property(fc.array(pair, { maxLength: 40 }), (clashes) => {
        const groups = groupClashes(clashes, types);
        expect(groups.flatMap((group) => group.clashes).sort((p, q) => p - q)).toEqual(clashes.map((_, i) => i));
        const sizes = groups.map((group) => group.clashes.length);
        expect(sizes).toEqual(sizes.toSorted((p, q) => q - p));
        for (const { cause, clashes: own } of groups)
          if (cause && 'element' in cause)
            expect(own.every((i) => [clashes[i]!.a, clashes[i]!.b].includes(cause.element))).toBe(true);
      }),
    );
  });
});
