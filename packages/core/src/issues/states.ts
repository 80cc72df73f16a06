import type { Transitions } from '../platform/machine.ts';

export const ISSUE_STATUSES = ['open', 'in hand', 'answered', 'closed', 'void'] as const;
export type IssueStatus = (typeof ISSUE_STATUSES)[number];

export const ISSUE_ACTIONS = ['take in hand', 'answer', 'close', 'reopen', 'void'] as const;
export type IssueAction = (typeof ISSUE_ACTIONS)[number];

export const issueTransitions: Transitions<IssueStatus, IssueAction> = {
  open: { 'take in hand': 'in hand', answer: 'answered', close: 'closed', void: 'void' },
  'in hand': { answer: 'answered', close: 'closed', void: 'void' },
  answered: { close: 'closed', reopen: 'open' },
  closed: { reopen: 'open' },
  void: { reopen: 'open' },
};

/** The action that leads from one status to another, as a card that is moved on a board asks for it; undefined where none does. */
export const actionBetween = (from: IssueStatus, to: IssueStatus): IssueAction | undefined =>
  ISSUE_ACTIONS.find((action) => issueTransitions[from][action] === to);

/** Statuses in which somebody still has to do something. */
export const PENDING_ISSUE_STATUSES: readonly IssueStatus[] = ['open', 'in hand', 'answered'];
