import { expect, it } from 'vitest';
import { mayChangeIssue, type IssuePart } from './may-change.ts';

const issue = { authorId: 'author', assigneeId: 'responsible' };
it.each<[string, boolean, IssuePart, boolean]>([
  ['author', false, 'void', true],
  ['author', false, 'title', true],
  ['responsible', false, 'answer', true],
  ['responsible', false, 'assigneeId', true],
  ['responsible', false, 'void', false],
  ['responsible', false, 'priority', false],
  ['other', false, 'answer', false],
  ['other', true, 'void', true],
])('%s (changes all: %s), %s: %s', (person, changesAll, part, may) => {
  expect(mayChangeIssue(issue, person, changesAll, part)).toBe(may);
  // Nobody is responsible: nobody answers as such.
  expect(mayChangeIssue({ ...issue, assigneeId: null }, 'responsible', false, part)).toBe(false);
});
