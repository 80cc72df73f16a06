import { expect, it } from 'vitest';
import { drawnTo, isSeen, type PictureMark } from './marking.ts';

const begun = (tool: PictureMark['tool']): PictureMark => ({ tool, points: [10, 10], text: '' });

it('a line by hand keeps all its points, an arrow its two ends', () => {
  const way = [
    [12, 12],
    [40, 20],
  ] as const;
  expect(way.reduce(drawnTo, begun('pen')).points).toEqual([10, 10, 12, 12, 40, 20]);
  expect(way.reduce(drawnTo, begun('arrow')).points).toEqual([10, 10, 40, 20]);
});

it('a click is no mark, nor are words without words', () => {
  expect(isSeen(drawnTo(begun('box'), [11, 9]))).toBe(false);
  expect(isSeen(drawnTo(begun('box'), [11, 90]))).toBe(true);
  expect(isSeen(begun('word'))).toBe(false);
  expect(isSeen({ ...begun('word'), text: 'here' })).toBe(true);
});
