import type { IssueConcern, IssueTypeRule } from './settings.ts';
import type { IssueAction } from './states.ts';

/** Fields by their names in the contract. */
export const ISSUE_FIELDS = [
  'title',
  'description',
  'type',
  'priority',
  'responsible',
  'verifierId',
  'dueOn',
  'labels',
] as const;
export type IssueField = (typeof ISSUE_FIELDS)[number];

/** Passing an issue on is part of being responsible; what it says is not. */
const OF_RESPONSIBLE: readonly IssueField[] = ['responsible'];

/** `concerns`: what the person is to the issue. */
export const mayChangeField = (concerns: ReadonlySet<IssueConcern>, field: IssueField): boolean =>
  concerns.has('changer') || concerns.has('raiser') || (concerns.has('responsible') && OF_RESPONSIBLE.includes(field));

export const mayTakeStep = (
  { steps }: IssueTypeRule,
  concerns: ReadonlySet<IssueConcern>,
  action: IssueAction,
): boolean => steps[action].by.some((concern) => concerns.has(concern));
