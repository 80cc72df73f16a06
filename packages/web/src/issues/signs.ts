import type { IssueStatus } from '@kindred/core/issues/states';

export const ISSUE_SIGNS: Record<IssueStatus, string> = {
  open: 'sign needs-you full',
  'in hand': 'sign caution',
  answered: 'sign info full',
  closed: 'sign action full',
  void: 'sign quiet',
};
export const STEP_WORDS = {
  'take in hand': 'Take in hand',
  answer: 'Answer',
  close: 'Close',
  reopen: 'Reopen',
  void: 'Void',
} as const;
