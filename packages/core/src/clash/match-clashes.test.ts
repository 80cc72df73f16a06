import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../scene/pick.ts';
import { matchClashes } from './match-clashes.ts';
import type { RuledClash } from './run-rule.ts';

const element = (globalId: string, name: string) => ({ globalId, class: 'IfcBeam', name, type: '', storey: '' });
const clash = (a: string, b: string, at: Point = [0, 0, 0], names: [string, string] = [a, b]): RuledClash => ({
  ...{ a: element(a, names[0]), b: element(b, names[1]), kind: 'hard', depth: 0.1, gap: null, at },
});

describe('a clash in the next run', () => {
  it('is the one of the same elements, wherever it is now and whichever is named first', () => {
    expect(matchClashes([clash('a', 'b'), clash('a', 'c')], [clash('c', 'a', [9, 9, 9]), clash('x', 'y')])).toEqual([
      1,
      null,
    ]);
  });

  it('is the one at its place where every GlobalId is new', () => {
    const known = [clash('a', 'd1', [0.29, 0, 0], ['Bar', 'Duct']), clash('b', 'd1', [5, 0, 0], ['Bar', 'Duct'])];
    const found = [clash('p', 'q', [5.1, 0, 0], ['Duct', 'Bar']), clash('r', 'q', [0.31, 0, 0], ['Bar', 'Duct'])];
    expect(matchClashes(known, found)).toEqual([1, 0]);
    expect(matchClashes(known, [clash('r', 'q', [2, 0, 0], ['Bar', 'Duct'])])).toEqual([null]);
    expect(matchClashes(known, [clash('r', 'q', [5, 0, 0], ['Bar', 'Pipe'])])).toEqual([null]);
  });

  it('is never two of them, and every clash of a run that found the same again is known', () => {
    const point = fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.constant(0), fc.constant(0));
    const some = fc.array(fc.tuple(fc.nat(5), fc.nat(5), point), { maxLength: 30 });
    fc.assert(
      fc.property(some, some, (p, q) => {
        const of = (all: typeof p) => all.map(([a, b, at]) => clash(`a${a}`, `b${b}`, at, ['A', 'B']));
        const matched = matchClashes(of(p), of(q)).filter((k) => k !== null);
        expect(new Set(matched).size).toBe(matched.length);
        expect(matchClashes(of(p), of(p)).every((k) => k !== null)).toBe(true);
      }),
    );
  });
});
