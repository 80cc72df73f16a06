import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNumber, writeNumber } from './number-text.ts';

describe('a number that somebody typed', () => {
  it.each([
    ['en', '1,234', 1234],
    ['de', '1,234', 1.234],
    ['de', '1.234', 1234],
    ['en', '1.234', 1.234],
    ['en', '1,234,567', 1234567],
    ['de', '1.234.567,89', 1234567.89],
    ['en', '1,234,567.89', 1234567.89],
    ['en', '12,5', 12.5],
    ['de', '12.5', 12.5],
    ['de-CH', "1'234.5", 1234.5],
    ['fr', '1 234,5', 1234.5],
    ['en', '-0.5', -0.5],
    ['en', '\u22123', -3],
    ['en', '.5', 0.5],
  ])('in %s, %s, is %d', (locale, text, value) => expect(readNumber(text, locale)).toBe(value));

  it.each(['', 'abc', '1,23,456', '1.2.3', '12,34.5', '1e5', '--1', '1-2', '1,2,3'])('%j is none', (text) => {
    expect(readNumber(text, 'en')).toBeUndefined();
  });
});

it('comes back as it was written, in any language', () => {
  fc.assert(
    fc.property(
      fc
        .double({ min: -1e12, max: 1e12, noNaN: true, noDefaultInfinity: true })
        .map((x) => Math.round(x * 1000) / 1000 || 0),
      fc.constantFrom('en', 'de', 'fr', 'de-CH', 'nb', 'es', 'nl'),
      (value, locale) => {
        const written = writeNumber(value, locale);
        expect(readNumber(written, locale)).toBe(value);
      },
    ),
  );
});
