/** Cards in columns by status, and what moving one asks for. */
import { actionBetween, ISSUE_STATUSES, type IssueAction, type IssueStatus } from '@kindred/core/issues/states';

/** The nearest column to the left (−1) or right (1) that a card can go to from its own. */
export function columnBeside(from: IssueStatus, way: -1 | 1): { status: IssueStatus; action: IssueAction } | undefined {
  for (let at = ISSUE_STATUSES.indexOf(from) + way; ISSUE_STATUSES[at]; at += way) {
    const action = actionBetween(from, ISSUE_STATUSES[at]!);
    if (action) return { status: ISSUE_STATUSES[at]!, action };
  }
  return undefined;
}
