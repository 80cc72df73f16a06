import { ilike, sql, type SQL } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { waitingRows, type Subject, type WaitingRow } from '../platform/subjects.ts';
import { passOnReviews } from './passing-on.ts';
import { reviewRoutes } from './routes.ts';
import { reviews } from './schema.ts';
import { reviewTemplate } from './template.ts';
import { reviewVisibleTo } from './visibility.ts';

const waitingReviews = ({ projectId }: Member, pile: WaitingRow['pile'], note: SQL, dueOn: SQL, of: SQL): SQL =>
  waitingRows({
    pile,
    type: 'review',
    id: sql`r.id`,
    title: sql`r.number || ' ' || r.title`,
    note,
    path: sql`'reviews/' || r.id`,
    dueOn,
    at: sql`r.started_at`,
    of: sql`${of} and r.project_id = ${projectId} and r.status = 'under review'`,
  });

const review: Subject = {
  type: 'review',
  keeps: true,
  right: { kind: 'review', action: 'see' },
  from: sql`${reviews}`,
  id: sql`${reviews.id}`,
  title: sql`${reviews.number} || ' ' || ${reviews.title}`,
  note: sql`'Review, ' || coalesce(${reviews.code}, ${reviews.status})`,
  path: sql`'reviews/' || ${reviews.id}`,
  at: sql`coalesce(${reviews.finishedAt}, ${reviews.startedAt})`,
  inProject: (projectId) => sql`${reviews.projectId} = ${projectId}`,
  visibleTo: reviewVisibleTo,
  search: (words) => ({ where: ilike(reviews.title, containing(words)), best: sql`${reviews.number} desc` }),
  links: [
    {
      to: 'version',
      touches: (ids) =>
        sql`exists (select 1 from review_documents d where d.review_id = ${reviews.id} and d.version_id = any(${ids}))`,
      idsOf: (id) => sql`select version_id from review_documents where review_id = ${id}`,
    },
  ],
  waiting: (member) => [
    waitingReviews(
      member,
      'waiting for me',
      sql`'review, step ' || (v.step + 1)`,
      sql`v.due_on`,
      sql`from reviews r join reviewers v on v.review_id = r.id where v.user_id = ${member.id} and v.finished_at is null and v.due_on is not null`,
    ),
    waitingReviews(
      member,
      'mine',
      sql`'started by me, under review'`,
      sql`(select min(v.due_on) from reviewers v where v.review_id = r.id and v.finished_at is null)`,
      sql`from reviews r where r.originator_id = ${member.id}`,
    ),
  ],
};

export const reviewCapability: Capability = {
  name: 'review',
  routes: reviewRoutes,
  template: reviewTemplate,
  subjects: [review],
  passOn: async (unit, leaving) => ({ reviews: await passOnReviews(unit, leaving) }),
};
