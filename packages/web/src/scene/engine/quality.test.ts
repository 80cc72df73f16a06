import { expect, it } from 'vitest';
import { Quality } from './quality.ts';

const draw = (quality: Quality, milliseconds: number, pictures: number): boolean[] =>
  Array.from({ length: pictures }, () => quality.drew(milliseconds)).filter(Boolean);

it('steps down while pictures are slow: fewer pixels first, far detail at last; and up again when they are fast', () => {
  const quality = new Quality();
  expect([quality.share, quality.detail]).toEqual([1, true]);
  expect(draw(quality, 60, 6)).toEqual([true]);
  expect([quality.share, quality.detail]).toEqual([0.75, true]);
  expect(draw(quality, 60, 30)).toHaveLength(2);
  expect([quality.share, quality.detail]).toEqual([0.5, false]);
  expect(draw(quality, 10, 18)).toHaveLength(3);
  expect([quality.share, quality.detail]).toEqual([1, true]);
});

it('stays where it is while pictures are neither slow nor fast, and forgets the last movement at rest', () => {
  const quality = new Quality();
  expect(draw(quality, 30, 30)).toEqual([]);
  draw(quality, 60, 5);
  quality.rest();
  expect(draw(quality, 60, 5)).toEqual([]);
});
