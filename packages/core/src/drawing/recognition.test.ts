import { expect, it } from 'vitest';
import { findText } from './find-text.ts';
import { hasUnreadWords, pageTextOf, recognisedTexts, type RecognisedWord } from './recognition.ts';
import { readTitleBlock } from './title-block.ts';

const word = (text: string, x: number, y: number, confidence = 90): RecognisedWord => ({
  ...{ text, confidence, x0: x, y0: y, x1: x + text.length * 16, y1: y + 24 },
});

it('words beside each other are one run, in points; what is unsure or no word is left out', () => {
  const texts = recognisedTexts(
    [
      word('room', 164, 101),
      word('Kit', 100, 100),
      word('Workshop', 600, 100),
      word('[|', 40, 40),
      word('o', 9, 9, 40),
    ],
    2,
  );
  expect(texts.map(({ text, x, y }) => [text, x, y])).toEqual([
    ['Kit room', 50, 62],
    ['Workshop', 300, 62],
  ]);
  expect(findText(texts, 'kit room')[0]!.box[0]).toBe(50);
});

it('a title block is read from them', () => {
  const cells: [string, string, number][] = [
    ['Drawing number', 'A-0901', 1000],
    ['Revision', 'P02', 1300],
    ['Scale', '1:100', 1500],
    ['Title', 'Survey', 1700],
  ];
  const words = cells.flatMap(([label, value, x]) => [
    ...label.split(' ').map((part, i) => word(part, x + i * 130, 1800)),
    word(value, x, 1840),
  ]);
  const block = readTitleBlock(pageTextOf(recognisedTexts(words, 2), [1000, 1000]));
  expect(block).toMatchObject({ number: 'A-0901', revision: 'P02', scale: '1:100', title: 'Survey' });
});

it('is needed where a picture or many lines stand without words', () => {
  const text = { text: 'Kit room', x: 0, y: 0, width: 9, size: 9, angle: 0 };
  const picture = [1, 0, 0, 1, 0, 0] as const;
  expect(hasUnreadWords({ texts: [], pictures: [[...picture]], starts: new Uint32Array(1) })).toBe(true);
  expect(hasUnreadWords({ texts: [], pictures: [], starts: new Uint32Array(100) })).toBe(true);
  expect(hasUnreadWords({ texts: [], pictures: [], starts: new Uint32Array(1) })).toBe(false);
  expect(hasUnreadWords({ texts: [text], pictures: [[...picture]], starts: new Uint32Array(100) })).toBe(false);
});
