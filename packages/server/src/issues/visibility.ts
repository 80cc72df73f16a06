import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { seesPage, seesVersion } from '../register/visibility.ts';
import { seesViewpoint } from '../scene/visibility.ts';
import { issues } from './schema.ts';

/** An issue is seen by whoever may see the place that it was raised at. */
export const issueVisibleTo = (member: Member): SQL =>
  sql`(case when ${issues.placeVersionId} is null then true
      when ${issues.placePage} is null then ${seesVersion(member, sql`${issues.placeVersionId}`)}
      else ${seesPage(member, sql`${issues.placeVersionId}`, sql`${issues.placePage}`)} end
    and (${issues.viewpointId} is null or ${seesViewpoint(member, sql`${issues.viewpointId}`)}))`;
