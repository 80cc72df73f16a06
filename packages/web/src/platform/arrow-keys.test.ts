import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boxTowards } from './arrow-keys.ts';

const cell = (column: number, row: number) => ({
  left: column * 50,
  right: column * 50 + 40,
  top: row * 20,
  bottom: row * 20 + 16,
});
const COLUMNS = 4;
const grid = Array.from({ length: 12 }, (_, i) => cell(i % COLUMNS, Math.floor(i / COLUMNS)));

describe('arrows', () => {
  it.each([
    ['ArrowRight', 5, 6],
    ['ArrowLeft', 5, 4],
    ['ArrowDown', 5, 9],
    ['ArrowUp', 5, 1],
    ['Home', 5, 0],
    ['End', 5, 11],
    ['ArrowRight', 3, undefined],
    ['ArrowUp', 2, undefined],
    ['a', 5, undefined],
  ])('%s from %i leads to %s', (key, from, to) => expect(boxTowards(grid, from, key)).toBe(to));

  it('there and back again in a grid', () => {
    const back: Record<string, string> = {
      ArrowRight: 'ArrowLeft',
      ArrowLeft: 'ArrowRight',
      ArrowUp: 'ArrowDown',
      ArrowDown: 'ArrowUp',
    };
    fc.assert(
      fc.property(fc.nat(grid.length - 1), fc.constantFrom(...Object.keys(back)), (from, key) => {
        const to = boxTowards(grid, from, key);
        if (to !== undefined) expect(boxTowards(grid, to, back[key]!)).toBe(from);
      }),
    );
  });
});
