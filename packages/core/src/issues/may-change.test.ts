import { expect, it } from 'vitest';
import { mayChangeField, mayTakeStep } from './may-change.ts';
import { starterType, type IssueConcern } from './settings.ts';
import type { IssueAction } from './states.ts';

const starter = starterType('question');
it.each<[IssueConcern[], IssueAction, boolean]>([
  [['raiser'], 'void', true],
  [['responsible'], 'answer', true],
  [['responsible'], 'void', false],
  [['responsible'], 'close', false],
  [['verifier'], 'close', true],
  [['verifier'], 'answer', false],
  [[], 'answer', false],
  [['changer'], 'void', true],
])('%s may %s: %s', (concerns, action, may) => {
  expect(mayTakeStep(starter, new Set(concerns), action)).toBe(may);
});

it('closing can be kept for whoever raised it and the verifier', () => {
  const strict = {
    ...starter,
    steps: { ...starter.steps, close: { ...starter.steps.close, by: ['raiser', 'verifier'] } },
  } satisfies typeof starter;
  expect(mayTakeStep(strict, new Set(['changer']), 'close')).toBe(false);
  expect(mayTakeStep(strict, new Set(['changer', 'verifier']), 'close')).toBe(true);
});

it('whoever is responsible passes it on, and changes nothing else of it', () => {
  const responsible = new Set<IssueConcern>(['responsible']);
  expect(mayChangeField(responsible, 'responsible')).toBe(true);
  expect(mayChangeField(responsible, 'title')).toBe(false);
  expect(mayChangeField(new Set(['raiser']), 'title')).toBe(true);
  expect(mayChangeField(new Set(['verifier']), 'title')).toBe(false);
});
