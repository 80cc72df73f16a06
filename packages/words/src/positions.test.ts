import { expect, it } from 'vitest';
import { sayPlacing, sayPosition } from './positions.ts';

it('says where a model lies, and what would bring it to the others', () => {
  expect(sayPosition({ code: 'wrong-unit', values: { factor: 0.001 } })).toContain('a thousand times too large');
  expect(sayPosition({ code: 'wrong-unit', values: { factor: 304.8 } })).toContain('multiplied by 304.8');
  expect(sayPosition({ code: 'far', values: { metres: 348_570 } })).toContain('348,570 m away');
  expect(sayPosition({ code: 'other-survey', values: { metres: 2, degrees: 1.00004 } })).toContain('2 m and 1° away');
  expect(sayPlacing({ turn: -23, shift: [348_600, 5_912_400.0004, 0] })).toBe(
    'turned by -23°, shifted by 348,600 / 5,912,400 / 0 m',
  );
});
