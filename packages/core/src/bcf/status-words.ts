/** BCF leaves the words of a status to each program: which of ours is meant by the usual ones. */
import { ISSUE_STATUSES, type IssueStatus } from '../issues/states.ts';

const MEANT: Record<IssueStatus, readonly string[]> = {
  open: [
    'new',
    'active',
    'reopened',
    're-opened',
    'todo',
    'to do',
    'unresolved',
    'error',
    'warning',
    'info',
    'unknown',
  ],
  'in hand': ['in progress', 'in work', 'in review', 'assigned', 'started', 'ongoing', 'pending', 'waiting'],
  answered: ['resolved', 'done', 'fixed', 'solved', 'completed', 'complete', 'responded', 'implemented'],
  closed: ['verified', 'approved', 'accepted', 'finished', 'archived'],
  void: [
    'cancelled',
    'canceled',
    'rejected',
    'duplicate',
    'invalid',
    'obsolete',
    'not an issue',
    'wontfix',
    "won't fix",
  ],
};
const BY_WORD = new Map<string, IssueStatus>(
  ISSUE_STATUSES.flatMap((status) => [status, ...MEANT[status]].map((word) => [word, status] as const)),
);

/** Capitals, hyphens and underscores count for nothing; null where nobody can say what is meant. */
export function statusFrom(word: string | null): IssueStatus | null {
  const said = (word ?? '').trim().toLowerCase();
  return (
    BY_WORD.get(said) ?? BY_WORD.get(said.replace(/[_-]+/g, ' ')) ?? BY_WORD.get(said.replace(/[\s_-]+/g, '')) ?? null
  );
}
