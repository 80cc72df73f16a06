import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { VectorColumns, type SheetVectors, type VectorText } from '../drawing/vectors/sheet-vectors.ts';
import { compareSheets } from './compare-sheets.ts';
import { LetterShapes } from './outlined-words.ts';

type Ring = (readonly [number, number])[];
/** Shapes that stand for letters, in a square of 1; each has corners enough for one. */
const SHAPES: Record<string, Ring> = {
  L: [
    [0, 0],
    [0.2, 0],
    [0.2, 0.8],
    [0.6, 0.8],
    [0.6, 1],
    [0, 1],
  ],
  T: [
    [0, 0],
    [0.6, 0],
    [0.6, 0.2],
    [0.4, 0.2],
    [0.4, 1],
    [0.2, 1],
    [0.2, 0.2],
    [0, 0.2],
  ],
  Z: [
    [0, 0],
    [0.6, 0],
    [0.6, 0.2],
    [0.25, 0.8],
    [0.6, 0.8],
    [0.6, 1],
    [0, 1],
    [0, 0.8],
    [0.35, 0.2],
    [0, 0.2],
  ],
  F: [
    [0, 0],
    [0.6, 0],
    [0.6, 0.2],
    [0.2, 0.2],
    [0.2, 0.4],
    [0.5, 0.4],
    [0.5, 0.6],
    [0.2, 0.6],
    [0.2, 1],
    [0, 1],
  ],
  // Its counter is a ring of its own.
  O: [
    [0, 0],
    [0.6, 0],
    [0.7, 0.5],
    [0.6, 1],
    [0, 1],
    [-0.1, 0.5],
  ],
};
const rings = (word: string, x: number, y: number, size: number): Ring[] =>
  [...word].flatMap((letter, i) => {
    const place = (ring: Ring): Ring => ring.map(([u, v]) => [x + size * (0.75 * i + u), y - size * (1 - v)] as const);
    const own = [place(SHAPES[letter]!)];
    return letter === 'O'
      ? [
          ...own,
          place([
            [0.15, 0.2],
            [0.45, 0.2],
            [0.45, 0.8],
            [0.15, 0.8],
          ]),
        ]
      : own;
  });
function sheet(areas: readonly Ring[], texts: VectorText[] = []): SheetVectors {
  const columns = new VectorColumns();
  for (const ring of areas) {
    for (const [x, y] of ring) columns.add(x, y);
    columns.end(0);
  }
  for (let i = 0; i < 12; i++) {
    columns.add(20, 20 + 40 * i);
    columns.add(560 + 9 * i, 20 + 40 * i);
    columns.end(1);
  }
  const look = { colour: '#000000', dash: [], layer: '' };
  const styles = [
    { ...look, kind: 'area' as const, width: 0 },
    { ...look, kind: 'line' as const, width: 0.5 },
  ];
  return { width: 800, height: 600, styles, texts, pictures: [], ...columns.columns() };
}
const told = (before: SheetVectors, after: SheetVectors) => {
  const { changes, unread } = compareSheets(before, after);
  return { changes: changes.map(({ kind, shift }) => ({ kind, shift: shift?.map(Math.round) })), unread };
};
const word = fc.string({ unit: fc.constantFrom('L', 'T', 'Z', 'F', 'O'), minLength: 2, maxLength: 7 });

describe('words that are drawn as outlines', () => {
  it('are the same however their rings begin, run and follow each other', () => {
    fc.assert(
      fc.property(word, fc.integer({ min: 0, max: 5 }), fc.boolean(), (said, first, backwards) => {
        const drawn = rings(said, 100, 250, 10);
        const again = drawn.map((ring) => {
          const turned = [...ring.slice(first), ...ring.slice(0, first)];
          return backwards ? turned.reverse() : turned;
        });
        expect(told(sheet(drawn), sheet(again.reverse()))).toEqual({ changes: [], unread: false });
      }),
      { numRuns: 60 },
    );
  });

  it('say something else in one change, move in one change, come and go in one', () => {
    fc.assert(
      fc.property(word, word, (said, other) => {
        fc.pre(said !== other && said.length === other.length);
        const [mine, theirs] = [rings(said, 100, 250, 10), rings(other, 100, 250, 10)];
        expect(told(sheet(mine), sheet(theirs)).changes).toMatchObject([{ kind: 'text' }]);
        const moved = rings(said, 130, 262, 10);
        expect(told(sheet(mine), sheet(moved)).changes).toEqual([{ kind: 'moved', shift: [30, 12] }]);
        expect(told(sheet(mine), sheet([])).changes).toMatchObject([{ kind: 'removed' }]);
        expect(told(sheet([]), sheet(mine)).changes).toMatchObject([{ kind: 'added' }]);
      }),
      { numRuns: 40 },
    );
  });

  it('are not held against letters that can be read: that is said', () => {
    const text = { text: 'LOFT', x: 100, y: 250, width: 30, size: 12.5, angle: 0 };
    expect(told(sheet([], [text]), sheet(rings('LOFT', 100, 250, 10)))).toEqual({ changes: [], unread: true });
    expect(told(sheet(rings('LOFT', 100, 250, 10)), sheet([], [text]))).toEqual({ changes: [], unread: true });
  });
});

it('two shapes that are nearly the same have one name, mirrored ones have two', () => {
  const shapes = new LetterShapes();
  const flat = (ring: Ring, map = (x: number): number => x): Float32Array =>
    Float32Array.from(ring.flatMap(([x, y]) => [10 * map(x), 10 * y]));
  const name = shapes.letterOf([flat(SHAPES['F']!)]);
  expect(shapes.letterOf([flat(SHAPES['F']!.map(([x, y]) => [x + 0.003, y - 0.003] as const))])).toBe(name);
  expect(shapes.letterOf([flat(SHAPES['F']!, (x) => 0.6 - x)])).not.toBe(name);
});
