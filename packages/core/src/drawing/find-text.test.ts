import { expect, it } from 'vitest';
import { findText } from './find-text.ts';

const run = (text: string, x: number, y: number, angle = 0) => ({ text, x, y, width: 40, size: 8, angle });
const texts = [
  run('Kit  room', 10, 100),
  run('KITCHEN', 300, 20),
  run('Küche', 5, 300),
  run('Door D-104', 50, 60, -Math.PI / 2),
];

it.each([
  ['kit', ['KITCHEN', 'Kit  room']],
  ['kit room', ['Kit  room']],
  ['kuche', ['Küche']],
  ['D-104', ['Door D-104']],
  ['roof', []],
  ['  ', []],
])('“%s” finds %j, from the top down', (words, found) =>
  expect(findText(texts, words).map(({ text }) => text)).toEqual(found),
);

it('with the box around it, upright or turned', () => {
  expect(findText(texts, 'kit room')[0]!.box).toEqual([10, 92, 40, 10]);
  const [x, y, width, height] = findText(texts, 'D-104')[0]!.box;
  expect([x, y, width, height].map(Math.round)).toEqual([42, 20, 10, 40]);
});
