import { expect, it } from 'vitest';
import { fillStamp, stampFields } from './stamp-text.ts';

it('fields are filled, and what is no field stays as it was written', () => {
  const text = 'CHECKED {date}\n{name}, {code} {set} {name}';
  expect(stampFields(text)).toEqual(['date', 'name', 'code']);
  expect(fillStamp(text, { date: '26 Nov 2026', name: 'Ann {code}', code: 'A-1' })).toBe(
    'CHECKED 26 Nov 2026\nAnn {code}, A-1 {set} Ann {code}',
  );
  expect(fillStamp('{decision}!', {})).toBe('!');
});
