import { expect, it } from 'vitest';
import { elementNumber } from './engine/element-numbers.ts';
import { colourValues, coloursBySlot, cssColour, labelOf } from './value-colours.ts';

const group = (value: string | number | boolean | null, ...rows: number[]) => ({
  value,
  elements: Float64Array.from(rows, (row) => elementNumber(2, row)),
});

it('gives every name a colour of its own, and one to what says nothing', () => {
  const values = colourValues([group('Oak', 0, 1), group('Steel', 2), group(null, 3)], false);
  expect(values.map(({ label, count }) => [label, count])).toEqual([
    ['Oak', 2],
    ['Steel', 1],
    ['not said', 1],
  ]);
  expect(new Set(values.map(({ colour }) => colour)).size).toBe(3);
  const rows = coloursBySlot(values, new Map([[2, 6]])).get(2)!;
  expect([rows[0] === rows[1], rows[0] === rows[2], rows[5]]).toEqual([true, false, -1]);
});

it('gathers many numbers in steps, none of them lost; many names under one colour at last', () => {
  const numbers = Array.from({ length: 40 }, (_, i) => group(i * 0.5, i));
  const steps = colourValues(numbers, true, 'm');
  expect(steps).toHaveLength(6);
  expect(steps.reduce((sum, { count }) => sum + count, 0)).toBe(40);
  expect(steps[0]!.label).toBe('0 m to 3.25 m');
  const names = colourValues(
    Array.from({ length: 30 }, (_, i) => group(`n${i}`, i)),
    false,
  );
  expect(names).toHaveLength(17);
  expect(names.at(-1)).toMatchObject({ label: '14 further values', count: 14 });
});

it('says values and colours as one reads them', () => {
  expect([labelOf(true), labelOf(0.123456, 'm'), labelOf('EI60')]).toEqual(['yes', '0.123 m', 'EI60']);
  expect(cssColour(0x00ff7f)).toBe('#00ff7f');
});
