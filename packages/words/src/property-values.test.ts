import { describe, expect, it } from 'vitest';
import { sayConverted, sayValue } from './property-values.ts';

describe('a value', () => {
  it.each([
    [{ value: 1130, unit: 'mm' }, '1130 mm'],
    [{ value: 0.123456 }, '0.1235'],
    [{ value: true }, 'yes'],
    [{ value: null }, 'none'],
    [{ value: 'EI 30' }, 'EI 30'],
  ])('%j stands as it was written: %s', (property, words) => expect(sayValue(property)).toBe(words));

  it.each([
    [{ value: 1130, unit: 'mm' }, 'metric', '1.130 m'],
    [{ value: 10, unit: 'ft' }, 'millimetres', '3048 mm'],
    [{ value: 304.8, unit: 'mm' }, 'feet and inches', '1′ 0″'],
    [{ value: 1e6, unit: 'mm²' }, 'metric', '1.00 m²'],
    [{ value: 2, unit: 'm³' }, 'metric', '2.00 m³'],
    [{ value: Math.PI, unit: 'rad' }, 'metric', '180.0°'],
    [{ value: 293.15, unit: 'K' }, 'metric', '20.0 °C'],
    [{ value: 20, unit: '°C' }, 'feet and inches', '68.0 °F'],
  ] as const)('%j in %s is %s', (property, units, words) =>
    expect(sayConverted(property, { units, inchFraction: 16 })).toBe(words),
  );

  it.each([{ value: 5, unit: 'kN' }, { value: 5 }, { value: 'x', unit: 'm' }])('%j has no other unit', (property) =>
    expect(sayConverted(property, { units: 'metric', inchFraction: 16 })).toBeNull(),
  );
});
