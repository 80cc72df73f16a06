import { expect, it } from 'vitest';
import { readPages } from './page-range.ts';

it('reads pages and ranges, each once and in order; what lies beyond the end is left out', () => {
  expect(readPages('1-3, 7', 10)).toEqual([1, 2, 3, 7]);
  expect(readPages('5 2–3;3', 10)).toEqual([2, 3, 5]);
  expect(readPages('8-999999', 10)).toEqual([8, 9, 10]);
});

it('says nothing where something else is written, or nothing is there', () => {
  for (const text of ['', 'all', '1-', '3-1', '0', '12', '-1', '1..3']) expect(readPages(text, 10)).toBeUndefined();
});
