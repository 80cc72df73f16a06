import type { Transitions } from '../platform/machine.ts';

export const ISSUE_STATUSES = ['open', 'in hand', 'answered', 'closed', 'void'] as const;
export type IssueStatus = (typeof ISSUE_STATUSES)[number];
export const ISSUE_PRIORITIES = ['low', 'normal', 'high', 'blocking'] as const;
export type IssuePriority = (typeof ISSUE_PRIORITIES)[number];
export const ISSUE_TYPES = ['question', 'request', 'clash', 'problem'] as const;
export type IssueType = (typeof ISSUE_TYPES)[number];

export type IssueAction = 'take in hand' | 'answer' | 'close' | 'reopen' | 'void';

export const issueTransitions: Transitions<IssueStatus, IssueAction> = {
  open: { 'take in hand': 'in hand', answer: 'answered', close: 'closed', void: 'void' },
  'in hand': { answer: 'answered', close: 'closed', void: 'void' },
  answered: { close: 'closed', reopen: 'open' },
  closed: { reopen: 'open' },
  void: { reopen: 'open' },
};

/** Statuses in which somebody still has to do something. */
export const PENDING_ISSUE_STATUSES: readonly IssueStatus[] = ['open', 'in hand', 'answered'];
