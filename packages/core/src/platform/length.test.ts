import fc from 'fast-check';
import { expect, it } from 'vitest';
import { formatLength } from './length.ts';

it('writes metres, and feet with the nearest fraction of an inch', () => {
  expect(formatLength(12.345, 'metric')).toBe('12.35 m');
  expect(formatLength(-0.001, 'metric')).toBe('0.00 m');
  expect(formatLength(0.3048, 'feet and inches')).toBe('1′ 0″');
  expect(formatLength(12.35, 'feet and inches', 16)).toBe('40′ 6 1/4″');
  expect(formatLength(-0.0254 * 3.5, 'feet and inches', 8)).toBe('−0′ 3 1/2″');
  expect(formatLength(Number.NaN, 'metric')).toBe('–');
});

it('read back, differs by half a fraction at the most, and never shows twelve inches', () => {
  const metres = fc.double({ min: -5000, max: 5000, noNaN: true });
  fc.assert(
    fc.property(metres, fc.constantFrom(1, 2, 4, 8, 16, 32, 64), (length, fraction) => {
      const written = formatLength(length, 'feet and inches', fraction);
      const [, sign, feet, inches, over = '0', under = '1'] = /^(−?)(\d+)′ (\d+)(?: (\d+)\/(\d+))?″$/.exec(written)!;
      expect(Number(inches)).toBeLessThan(12);
      const back = (Number(feet) * 12 + Number(inches) + Number(over) / Number(under)) * 0.0254 * (sign ? -1 : 1);
      expect(Math.abs(back - length)).toBeLessThanOrEqual(0.0254 / fraction / 2 + 1e-9);
    }),
  );
});
