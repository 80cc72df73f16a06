import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addWorkingDays, currentStep, finishingProblem } from './rules.ts';

it('holds a return code to its rules', () => {
  expect(finishingProblem('AGAIN', { mustHaveComments: true }, 0)).toMatchObject({ code: 'comments-missing' });
  expect(finishingProblem('AGAIN', { mustHaveComments: true }, 1)).toBeUndefined();
  expect(finishingProblem('GO', { noComments: true }, 2)).toEqual({
    code: 'comments-given',
    returnCode: 'GO',
    comments: 2,
  });
  expect(finishingProblem('GO', { noComments: true }, 0)).toBeUndefined();
});

it('the turn is with the first step that has someone unfinished', () => {
  fc.assert(
    fc.property(fc.array(fc.record({ step: fc.nat(4), finished: fc.boolean() })), (participants) => {
      const open = participants.filter(({ finished }) => !finished).map(({ step }) => step);
      expect(currentStep(participants)).toBe(open.length ? Math.min(...open) : undefined);
    }),
  );
});

it('counts working days over weekends', () => {
  expect(addWorkingDays(new Date('2026-11-20T15:00:00Z'), 1)).toBe('2026-11-23');
  expect(addWorkingDays(new Date('2026-11-23T00:00:00Z'), 5)).toBe('2026-11-30');
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 }), (days) => {
      const day = new Date(addWorkingDays(new Date('2026-01-01T12:00:00Z'), days)).getUTCDay();
      expect([0, 6]).not.toContain(day);
    }),
  );
});
