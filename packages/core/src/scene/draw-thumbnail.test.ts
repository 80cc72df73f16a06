import { expect, it } from 'vitest';
import { boxes, type TestBox } from './boxes.fixture.ts';
import { drawThumbnail, ThumbnailDrawing } from './draw-thumbnail.ts';

const near: TestBox = { min: [0, 0, 0], size: [4, 2, 3] };
const far: TestBox = { min: [5, 1, 0], size: [2, 2, 6] };

it('draws packages one after the other as if they were one, wherever each counts from', () => {
  const together = drawThumbnail(boxes([near, far]), 96, 64);
  const drawing = new ThumbnailDrawing([0, 0, 0, 7, 3, 6], [0, 0, 0], 96, 64);
  drawing.add(boxes([{ ...far, min: [1, 1, 0] }], [4, 0, 0]));
  drawing.add(boxes([near]));
  expect(drawing.picture.pixels).toEqual(together.pixels);
  expect(together.pixels.filter((value, i) => i % 4 === 3 && value === 255).length).toBeGreaterThan(500);
});

it('leaves out what one looks through', () => {
  const glass = boxes([near]);
  glass.instances.colour[3] = 40;
  expect(drawThumbnail(glass, 96, 64).pixels.every((value) => value === 0)).toBe(true);
});
