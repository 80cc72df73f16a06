import { and, eq, isNull, sql } from 'drizzle-orm';
import { contacts } from '../people/service.ts';
import type { Leaving } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { reviewers, reviews } from './schema.ts';

/** What someone who leaves had still to review passes to a successor, unless that person reviews it in the same step anyway. */
export async function passOnReviews(
  { db, record, tell }: Change,
  { projectId, fromId, toId }: Leaving,
): Promise<number> {
  if (!toId) return 0;
  const open = await db
    .select({ id: reviewers.id, reviewId: reviewers.reviewId, step: reviewers.step })
    .from(reviewers)
    .innerJoin(reviews, eq(reviews.id, reviewers.reviewId))
    .where(
      and(
        eq(reviews.projectId, projectId),
        eq(reviews.status, 'under review'),
        eq(reviewers.userId, fromId),
        isNull(reviewers.finishedAt),
        sql`not exists (select 1 from ${reviewers} other where other.review_id = ${reviewers.reviewId} and other.step = ${reviewers.step} and other.user_id = ${toId})`,
      ),
    );
  for (const { id, reviewId } of open) {
    await db.update(reviewers).set({ userId: toId }).where(eq(reviewers.id, id));
    await record({
      projectId,
      verb: 'passed on',
      subjectType: 'review',
      subjectId: reviewId,
      before: { reviewerId: fromId },
      after: { reviewerId: toId },
    });
  }
  if (open.length)
    await tell({
      to: await contacts(db, projectId, [toId]),
      projectId,
      kind: 'review',
      text: `${open.length} ${open.length === 1 ? 'review was' : 'reviews were'} passed on to you`,
      link: `/projects/${projectId}/reviews`,
    });
  return open.length;
}
