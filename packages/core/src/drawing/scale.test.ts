import { expect, it } from 'vitest';
import { readScale } from './scale.ts';

it.each([
  ['1:100', 100],
  ['1 : 50', 50],
  ['1/20', 20],
  ['SCALE 1:200 @ A1', 200],
  ['M 1:1.000', 1000],
  ['1:12,500', 12500],
  ['1:2,5', 2.5],
  ['2:1', 0.5],
  ['1/4" = 1\'-0"', 48],
  ['1 1/2" = 1\'-0"', 8],
  ['1″ = 20′', 240],
  ['3/32" = 1\'', 128],
])('%s is %d times larger', (text, scale) => expect(readScale(text)).toBeCloseTo(scale, 6));

it.each(['', 'NTS', 'as shown', '12/03/2026', '1:0', 'A1', '100'])('“%s” is no scale', (text) =>
  expect(readScale(text)).toBeUndefined(),
);
