import type { FoundTopic } from '@kindred/contract/bcf/bcf';
import { expect, it } from 'vitest';
import { bodyOf, inOrder, sideOf, type FieldSide } from './import-choices.ts';

const topic = (guid: string, more: Partial<FoundTopic> = {}): FoundTopic => ({
  ...{ guid, title: guid, found: 'changed', issue: null, fields: [], comments: 0, viewpoints: 0 },
  ...more,
});
const field = (name: 'title' | 'status', found: 'theirs' | 'both') => ({ field: name, mine: 'a', theirs: 'b', found });
const none = { leave: new Set<string>(), sides: new Map<string, FieldSide>() };

it('takes what was changed there, and leaves what was changed on both sides', () => {
  const one = topic('g', { fields: [field('status', 'theirs'), field('title', 'both')] });
  expect(one.fields.map((each) => sideOf(none, 'g', each))).toEqual(['theirs', 'mine']);
  expect(bodyOf([one], none)).toEqual({ leave: [], theirs: {}, mine: {} });
});

it('says only what is chosen otherwise', () => {
  const one = topic('g', { fields: [field('status', 'theirs'), field('title', 'both')] });
  const sides = new Map<string, FieldSide>([
    ['g/status', 'mine'],
    ['g/title', 'theirs'],
  ]);
  expect(bodyOf([one], { ...none, sides })).toEqual({ leave: [], theirs: { g: ['title'] }, mine: { g: ['status'] } });
  expect(bodyOf([one], { leave: new Set(['g']), sides })).toEqual({ leave: ['g'], theirs: {}, mine: {} });
});

it('what has to be decided stands first', () => {
  const all = [topic('n', { found: 'new' }), topic('c'), topic('x', { found: 'conflict' })];
  expect(inOrder(all).map(({ guid }) => guid)).toEqual(['x', 'c', 'n']);
});
