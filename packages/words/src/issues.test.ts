import { expect, it } from 'vitest';
import { issueSettingsProblem, missingIssueFields, relationWords, whoMayStep } from './issues.ts';

it('says what is missing, and who may do it', () => {
  expect(missingIssueFields('defect', ['place', 'dueOn', 'responsible'])).toBe(
    'An issue of the type “defect” needs a place on a sheet or in a model, a due day and who answers.',
  );
  expect(missingIssueFields('defect', ['labels'])).toBe('An issue of the type “defect” needs a label.');
  expect(whoMayStep('clash', 'close', ['raiser', 'verifier'])).toBe(
    '“close” is for whoever raised it or whoever verifies it, as this project has it for the type “clash”.',
  );
  expect(whoMayStep('clash', 'void', [])).toBe('Nobody may “void” an issue of the type “clash” in this project.');
});

it('says why settings cannot be kept', () => {
  expect(issueSettingsProblem({ code: 'same-name', name: 'Roof' })).toContain('“Roof”');
  expect(issueSettingsProblem({ code: 'nobody-may', type: 'clash', action: 'close' })).toContain('stuck');
  expect(issueSettingsProblem({ code: 'no-types' })).toContain('type');
  expect(issueSettingsProblem({ code: 'no-priorities' })).toContain('priority');
});

it('relations read from both ends', () => {
  expect(relationWords('blocks', false)).toBe('blocks');
  expect(relationWords('blocks', true)).toBe('is blocked by');
  expect(relationWords('follows from', true)).toBe('led to');
});
