import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { contacts } from '../people/service.ts';
import type { Leaving } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { issues } from './schema.ts';

/** Open issues of someone who leaves pass to a successor, or wait for nobody; answers how many. */
export async function passOnIssues(
  { db, record, tell }: Change,
  { projectId, fromId, toId }: Leaving,
): Promise<number> {
  const rows = await db
    .update(issues)
    .set({ assigneeId: toId, updatedAt: now(), edition: sql`${issues.edition} + 1` })
    .where(
      and(
        eq(issues.projectId, projectId),
        eq(issues.assigneeId, fromId),
        inArray(issues.status, [...PENDING_ISSUE_STATUSES]),
      ),
    )
    .returning({ id: issues.id });
  for (const { id } of rows)
    await record({
      projectId,
      verb: 'passed on',
      subjectType: 'issue',
      subjectId: id,
      before: { assigneeId: fromId },
      after: { assigneeId: toId },
    });
  if (toId && rows.length)
    await tell({
      to: await contacts(db, projectId, [toId]),
      projectId,
      kind: 'issue',
      text: `${rows.length} open ${rows.length === 1 ? 'issue was' : 'issues were'} passed on to you`,
      link: `/projects/${projectId}/issues`,
    });
  return rows.length;
}
