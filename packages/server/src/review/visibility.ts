import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { seesVersion } from '../register/visibility.ts';
import { reviews } from './schema.ts';

/** A review is seen by those who take part in it, and by whoever may see one of its documents. */
export const reviewVisibleTo = (member: Member): SQL =>
  sql`(${reviews.originatorId} = ${member.id}
    or exists (select 1 from reviewers taking where taking.review_id = ${reviews.id} and taking.user_id = ${member.id})
    or exists (select 1 from review_documents d where d.review_id = ${reviews.id} and ${seesVersion(member, sql`d.version_id`)}))`;
