import type { IssuePriority, IssueStatus } from '@kindred/core/issues/states';

export const ISSUE_SIGNS: Record<IssueStatus, string> = {
  open: 'sign needs-you full',
  'in hand': 'sign caution',
  answered: 'sign info full',
  closed: 'sign action full',
  void: 'sign quiet',
};
/** Filled bars, one to four: rank is read by length. */
export const PRIORITY_BARS: Record<IssuePriority, string> = {
  low: '▮▯▯▯',
  normal: '▮▮▯▯',
  high: '▮▮▮▯',
  blocking: '▮▮▮▮',
};
