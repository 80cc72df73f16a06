import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { getsAll, seesVersion } from '../register/visibility.ts';
import { shareSets, versions } from '../register/schema.ts';
import { viewpoints } from './schema.ts';

/**
 * A viewpoint shows what is in its models: without all of them it does not exist for the member. Of models that were shared with a
 * share set, others see the viewpoints that it chooses, and their own.
 */
export function viewpointVisibleTo(member: Member): SQL {
  const chosen = sql`(${getsAll(member)} or ${viewpoints.authorId} = ${member.id}
    or ${viewpoints.id} in (select unnest(${shareSets.viewpointIds}) from ${shareSets} where ${shareSets.id} = ${versions.shareSetId}))`;
  return sql`not exists (select 1 from unnest(${viewpoints.versionIds}) used(id) where not ${seesVersion(member, sql`used.id`, chosen)})`;
}

/** Over the id of a viewpoint. */
export const seesViewpoint = (member: Member, viewpointId: SQL): SQL =>
  sql`exists (select 1 from ${viewpoints} where ${viewpoints.id} = ${viewpointId} and ${viewpointVisibleTo(member)})`;
