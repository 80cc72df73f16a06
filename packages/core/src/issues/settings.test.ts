import { describe, expect, it } from 'vitest';
import {
  missingFields,
  rankOf,
  ruleOf,
  settingsProblem,
  STARTER_ISSUE_SETTINGS,
  starterType,
  usualPriority,
} from './settings.ts';
import { actionBetween } from './states.ts';

const settings = STARTER_ISSUE_SETTINGS;

describe('settings of issues', () => {
  it('those of a new project can be kept', () => expect(settingsProblem(settings)).toBeUndefined());
  it('names mean one thing each, however they are written', () => {
    const types = [starterType('Clash'), starterType('clash ')];
    expect(settingsProblem({ ...settings, types })).toEqual({ code: 'same-name', name: 'clash ' });
    expect(settingsProblem({ ...settings, labels: ['roof', 'Roof'] })).toEqual({ code: 'same-name', name: 'Roof' });
  });
  it('no issue can be stuck because nobody may close it', () => {
    const stuck = starterType('defect');
    stuck.steps.close.by = [];
    expect(settingsProblem({ ...settings, types: [stuck] })).toEqual({
      code: 'nobody-may',
      type: 'defect',
      action: 'close',
    });
    expect(settingsProblem({ ...settings, types: [] })).toEqual({ code: 'no-types' });
    expect(settingsProblem({ ...settings, priorities: [] })).toEqual({ code: 'no-priorities' });
  });
  it('a type that the project has no more follows the first', () => {
    expect(ruleOf(settings, 'clash').name).toBe('clash');
    expect(ruleOf(settings, 'from elsewhere').name).toBe('question');
  });
  it('ranks of priorities', () => {
    expect(rankOf(settings, 'low')).toBe(1);
    expect(rankOf(settings, 'blocking')).toBe(4);
    expect(rankOf(settings, 'Urgent')).toBe(0);
    expect(usualPriority(settings)).toBe('normal');
  });
  it('says which required fields are empty', () => {
    const filled = { description: true, responsible: false, dueOn: true, place: false, labels: true };
    expect(missingFields(starterType('defect', ['place', 'description', 'responsible']), filled)).toEqual([
      'place',
      'responsible',
    ]);
  });
});

it('a card that is moved asks for the action between two statuses', () => {
  expect(actionBetween('open', 'closed')).toBe('close');
  expect(actionBetween('closed', 'open')).toBe('reopen');
  expect(actionBetween('closed', 'answered')).toBeUndefined();
});
