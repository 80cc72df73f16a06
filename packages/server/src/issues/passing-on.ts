import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { contacts } from '../people/service.ts';
import type { Leaving, TeamLeaving } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { issues } from './schema.ts';

/** A team's issues pass to the one that takes over. */
export async function passTeamIssuesOn({ db }: Change, { projectId, fromId, toId }: TeamLeaving): Promise<void> {
  await db
    .update(issues)
    .set({ assigneeTeamId: toId })
    .where(and(eq(issues.projectId, projectId), eq(issues.assigneeTeamId, fromId)));
}

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
  // What they were to look at falls back to whoever raised it.
  await db
    .update(issues)
    .set({ verifierId: toId })
    .where(
      and(
        eq(issues.projectId, projectId),
        eq(issues.verifierId, fromId),
        inArray(issues.status, [...PENDING_ISSUE_STATUSES]),
      ),
    );
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
