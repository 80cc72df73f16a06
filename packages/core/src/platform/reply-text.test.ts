import { expect, it } from 'vitest';
import { replyText } from './reply-text.ts';

it.each([
  ['It is done.', 'It is done.'],
  ['It is done.\r\n\r\n> Is it done?\r\n', 'It is done.'],
  ['Two lines\nof it.\n\nOn Thu, 26 Nov 2026, Maren wrote:\n> Is it done?', 'Two lines\nof it.'],
  ['Yes\n\nOn Thu, 26 Nov 2026 at 10:12, Maren Tolvik\n<maren@example.invalid> wrote:\n\n> Is it?', 'Yes'],
  ['Yes\n-- \nMaren', 'Yes'],
  ['Choose:\na or b', 'Choose:\na or b'],
  ['> only theirs', ''],
])('%j says %j', (body, said) => expect(replyText(body)).toBe(said));
