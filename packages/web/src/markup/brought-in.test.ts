import type { FoundMarkup } from '@kindred/contract/markup/import';
import { expect, it } from 'vitest';
import { bySheet, choicesOf } from './brought-in.ts';

const one = (key: string, found: FoundMarkup['found'], page = 1): FoundMarkup => ({
  ...{ key, found, page, parts: [], conflicts: [], author: '', ours: null, answers: [] },
  theirs: { text: '', status: 'note', shape: { kind: 'note', points: [[0, 0]] } },
});

it('what is news is taken, a conflict waits for a choice, what is the same is not shown', () => {
  const found = [one('a', 'new', 2), one('b', 'conflict'), one('c', 'same'), one('d', 'answered', 2)];
  expect(choicesOf(found)).toEqual({ a: 'theirs', b: 'leave', d: 'theirs' });
  expect(bySheet(found).map(({ page, found: list }) => [page, list.map(({ key }) => key)])).toEqual([
    [1, ['b']],
    [2, ['a', 'd']],
  ]);
});
