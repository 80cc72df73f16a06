import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { seesPage } from '../register/visibility.ts';
import { seesViewpoint } from '../scene/visibility.ts';
import { issues } from './schema.ts';

/** An issue is seen by whoever may see the place that it was raised at. */
export const issueVisibleTo = (member: Member): SQL =>
  sql`(${issues.placeVersionId} is null or ${seesPage(member, sql`${issues.placeVersionId}`, sql`${issues.placePage}`)})
    and (${issues.viewpointId} is null or ${seesViewpoint(member, sql`${issues.viewpointId}`)})`;
