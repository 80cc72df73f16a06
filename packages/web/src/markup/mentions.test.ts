import { expect, it } from 'vitest';
import { mentioned } from './mentions.ts';

const people = [
  { id: 'a', name: 'Ann' },
  { id: 'b', name: 'Ann Mayer' },
  { id: 'c', name: 'Cy' },
];

it('whoever is named after an @ is meant, by the longest name', () => {
  expect(mentioned('@Ann Mayer, look: @Cy says no', people)).toEqual(['b', 'c']);
  expect(mentioned('@Ann and @Ann Mayer', people)).toEqual(['b', 'a']);
  expect(mentioned('Ann, mail a@b.c', people)).toEqual([]);
});
