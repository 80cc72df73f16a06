import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readPdfDate, writePdfDate } from './pdf-date.ts';

it.each([
  ["D:20261125101500+01'00'", '2026-11-25T10:15:00+01:00'],
  ["D:20261125101500-03'30", '2026-11-25T10:15:00-03:30'],
  ['D:20261125101500Z', '2026-11-25T10:15:00Z'],
  ["D:20261125101500Z00'00'", '2026-11-25T10:15:00Z'],
  ['20261125101500', '2026-11-25T10:15:00'],
  ['D:2026', '2026-01-01T00:00:00'],
  ['D:202611251015', '2026-11-25T10:15:00'],
  ['yesterday', null],
  ['D:20261399', null],
])('%s is %s', (text, moment) => expect(readPdfDate(text)).toBe(moment));

it('every moment is written and read again', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1990-01-01'), max: new Date('2100-01-01'), noInvalidDate: true }),
      fc.constantFrom('', 'Z', '+05:30', '-08:00'),
      (date, zone) => {
        const moment = `${date.toISOString().slice(0, 19)}${zone}`;
        expect(readPdfDate(writePdfDate(moment))).toBe(moment);
      },
    ),
  );
});
