/** A clash is seen by whoever sees both of its models. */
import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { seesVersion } from '../register/visibility.ts';
import { clashes, clashRuns } from './schema.ts';

/** Over clashes. */
export const clashVisibleTo = (member: Member): SQL =>
  sql`${seesVersion(member, sql`${clashes.aVersionId}`)} and ${seesVersion(member, sql`${clashes.bVersionId}`)}`;

/** Over runs: whether the member sees every model that took part. */
export const seesAllOf = (member: Member): SQL<boolean> =>
  sql<boolean>`not exists (select 1 from unnest(${clashRuns.versionIds}) used(id) where not ${seesVersion(member, sql`used.id`)})`;
