import { expect, it } from 'vitest';
import { columnBeside } from './board.ts';

it('a card goes to the nearest column that its status leads to', () => {
  expect(columnBeside('open', 1)).toEqual({ status: 'in hand', action: 'take in hand' });
  expect(columnBeside('in hand', 1)).toEqual({ status: 'answered', action: 'answer' });
  expect(columnBeside('answered', -1)).toEqual({ status: 'open', action: 'reopen' });
  expect(columnBeside('closed', -1)).toEqual({ status: 'open', action: 'reopen' });
  expect(columnBeside('open', -1)).toBeUndefined();
  expect(columnBeside('void', 1)).toBeUndefined();
});
