import { expect, it } from 'vitest';
import { sayChange } from './sheet-changes.ts';

it('says what happened, how far on paper, and to which words', () => {
  expect(sayChange({ kind: 'moved', shift: [3, 4] })).toBe('Moved by 1.76 mm');
  expect(sayChange({ kind: 'moved', shift: [0, 0], turn: -Math.PI / 2 })).toBe('Turned by 90°');
  expect(sayChange({ kind: 'moved', shift: [0, 0], mirrored: true })).toBe('Mirrored');
  expect(sayChange({ kind: 'text', before: 'Store', after: 'Kit room' })).toBe('“Store” → “Kit room”');
  expect(sayChange({ kind: 'added', after: 'D12' })).toBe('Added “D12”');
  expect(sayChange({ kind: 'removed' })).toBe('Removed');
});
