import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineworkFrom } from './linework.ts';
import { gridOf, gridReference } from './sheet-grid.ts';
import type { TextLine } from './text-lines.ts';

const name = (text: string, x: number, y: number): TextLine => ({
  ...{ text, key: text, angle: 0, size: 8, width: 5 },
  x: x - 2.5,
  y: y + 2.4,
});
/** Lines 100 points apart with their names beyond the upper and the left end. */
function page(columns: readonly string[], rows: readonly string[], more: TextLine[] = []) {
  const upright = columns.map((_, i) => [100 + 100 * i, 60, 100 + 100 * i, 500]);
  const level = rows.map((_, i) => [60, 100 + 100 * i, 700, 100 + 100 * i]);
  return {
    ...{ width: 800, height: 600, linework: lineworkFrom([...upright, ...level]) },
    texts: [
      ...columns.map((text, i) => name(text, 100 + 100 * i, 45)),
      ...rows.map((text, i) => name(text, 45, 100 + 100 * i)),
      ...more,
    ],
  };
}
const at = (x: number, y: number): [number, number, number, number] => [x - 4, y - 3, 8, 6];

describe('the grid of a drawing', () => {
  const grid = gridOf(page(['A', 'B', 'C', 'D', 'E'], ['4', '3', '2', '1']))!;

  it('names the field between its lines, or the line itself', () => {
    expect(gridReference(at(350, 250), grid)).toBe('C–D / 3–2');
    expect(gridReference(at(202, 250), grid)).toBe('B / 3–2');
    expect(gridReference(at(500, 400), grid)).toBe('E / 1');
    expect(gridReference(at(40, 250), grid)).toBeUndefined();
  });

  it('answers for every place inside with the lines around it', () => {
    const inside = fc.double({ min: 100, max: 499, noNaN: true });
    fc.assert(
      fc.property(inside, (x) => {
        const [from, to = from] = gridReference(at(x, 250), grid)!.split(' / ')[0]!.split('–');
        const line = (letter: string | undefined): number => 100 + 100 * 'ABCDE'.indexOf(letter!);
        expect(line(from) - 10.001).toBeLessThanOrEqual(x);
        expect(line(to) + 10.001).toBeGreaterThanOrEqual(x);
      }),
    );
  });

  it('is not taken from numbers that are in no order, have no lines, or are too few', () => {
    expect(gridOf(page(['A', 'C', 'B'], []))).toBeUndefined();
    expect(gridOf(page(['A', 'B'], []))).toBeUndefined();
    const lone = { ...page([], []), texts: ['1', '2', '3'].map((text, i) => name(text, 100 + 90 * i, 45)) };
    expect(gridOf(lone)).toBeUndefined();
  });
});
