import type { IssueAction } from './states.ts';

interface Concerned {
  authorId: string;
  assigneeId: string | null;
}
/** A step, or a field by its name. */
export type IssuePart = IssueAction | 'assigneeId' | 'title' | 'description' | 'priority' | 'dueOn';
/** Passing an issue on is part of being responsible; what it says is not. */
const OF_RESPONSIBLE = new Set<IssuePart>(['take in hand', 'answer', 'reopen', 'assigneeId']);

/**
 * Whoever raised an issue, or is responsible for it, goes on with it; others change it only with the right to. `changesAll`: whether
 * the person has the right “change” for issues.
 */
export const mayChangeIssue = (issue: Concerned, personId: string, changesAll: boolean, part: IssuePart): boolean =>
  changesAll || issue.authorId === personId || (issue.assigneeId === personId && OF_RESPONSIBLE.has(part));
