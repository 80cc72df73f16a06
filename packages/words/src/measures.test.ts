import { expect, it } from 'vitest';
import { sayMeasure, sayTotal } from './measures.ts';

const metric = { units: 'metric', inchFraction: 16 } as const;
it.each([
  [{ of: 'length', metres: 12.3456 }, metric, '12.35 m'],
  [{ of: 'length', metres: 12.3456 }, { ...metric, units: 'millimetres' }, '12346 mm'],
  [{ of: 'length', metres: 1 }, { ...metric, units: 'feet and inches' }, '3′ 3 3/8″'],
  [{ of: 'area', squareMetres: 24, around: 20 }, metric, '24.00 m² (20.00 m around)'],
  [
    { of: 'area', squareMetres: 9.290304, around: 3.048 },
    { ...metric, units: 'feet and inches' },
    '100.0 sq ft (10′ 0″ around)',
  ],
  [{ of: 'angle', degrees: 89.96 }, metric, '90.0°'],
  [{ of: 'count', count: 1 }, metric, '1 piece'],
  [{ of: 'count', count: 5 }, metric, '5 pieces'],
] as const)('%j in %j is “%s”', (measure, units, said) => expect(sayMeasure(measure, units)).toBe(said));

it('sums are said without what cannot be summed up', () => {
  const metric = { units: 'metric', inchFraction: 16 } as const;
  expect(sayTotal({ sum: 12.345, unit: 'area' }, metric)).toBe('12.35 m²');
  expect(sayTotal({ sum: 3, unit: 'count' }, metric)).toBe('3 pieces');
  expect(sayTotal({ sum: 10, unit: 'area' }, { ...metric, units: 'feet and inches' })).toBe('107.6 sq ft');
});
