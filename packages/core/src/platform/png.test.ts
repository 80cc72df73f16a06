import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CodedError } from './coded-error.ts';
import { cleanPng } from './png.ts';

const chunk = (name: string, data: number[] = []): number[] => [
  ...[24, 16, 8, 0].map((shift) => (data.length >>> shift) & 255),
  ...[...name].map((sign) => sign.charCodeAt(0)),
  ...data,
  ...[0, 0, 0, 0],
];
const header = (width: number, height: number): number[] =>
  chunk('IHDR', [
    ...[24, 16, 8, 0].map((s) => (width >>> s) & 255),
    ...[24, 16, 8, 0].map((s) => (height >>> s) & 255),
    8,
    6,
    0,
    0,
    0,
  ]);
const png = (...chunks: number[][]) => new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, ...chunks.flat()]);
const whole = png(header(4, 3), chunk('IDAT', [1, 2, 3]), chunk('IEND'));
const codeOf = (bytes: Uint8Array): string => {
  try {
    cleanPng(bytes, 100);
    return 'none';
  } catch (error) {
    if (error instanceof CodedError) return error.code;
    throw error;
  }
};

it('keeps what draws the picture, and nothing else', () => {
  const told = png(header(4, 3), chunk('tEXt', [65, 0, 66]), chunk('IDAT', [1, 2, 3]), chunk('IEND'), [1, 2, 3]);
  expect(cleanPng(told, 100)).toEqual(whole);
  expect(cleanPng(whole, 100)).toEqual(whole);
});

it('a picture of more pixels than that is refused by its header', () => {
  expect(codeOf(png(header(16383, 16383), chunk('IDAT', [1]), chunk('IEND')))).toBe('picture-too-large');
  expect(codeOf(png(header(2 ** 31, 2 ** 31), chunk('IDAT'), chunk('IEND')))).toBe('picture-too-large');
});

it('what is no whole PNG is refused', () => {
  const svg = new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"/>');
  for (const bytes of [
    svg,
    new Uint8Array(),
    png(),
    png(chunk('IDAT'), header(1, 1)),
    png(header(0, 1)),
    png(header(1, 1), chunk('IEND')),
  ])
    expect(codeOf(bytes)).toBe('no-picture');
  fc.assert(
    fc.property(fc.integer({ min: 0, max: whole.length - 1 }), (length) => {
      expect(codeOf(whole.subarray(0, length))).toBe('no-picture');
    }),
  );
});

it('any bytes are a picture or refused, never anything else', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 80 }), (bytes) => {
      expect(['none', 'no-picture', 'picture-too-large']).toContain(codeOf(png([...bytes])));
    }),
  );
});
