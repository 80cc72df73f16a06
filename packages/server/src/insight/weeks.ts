import type { DeliveryWeek } from '@kindred/contract/insight/insight';
import { and, eq, sql } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';
import { containers, versions } from '../register/schema.ts';
import { versionVisibleTo } from '../register/visibility.ts';

/** Files delivered per week (from Monday, in the time zone of the project) and team, of those that the actor may see. */
export async function listDeliveryWeeks(db: Db, actor: Member): Promise<DeliveryWeek[]> {
  const week = sql<string>`to_char(date_trunc('week', ${versions.deliveredAt} at time zone
    (select time_zone from projects where id = ${actor.projectId})), 'YYYY-MM-DD')`;
  return db
    .select({
      week,
      teamId: containers.teamId,
      files: sql<number>`count(*)::int`,
      misnamed: sql<number>`(count(*) filter (where not ${versions.conformed}))::int`,
    })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(and(eq(versions.projectId, actor.projectId), versionVisibleTo(actor)))
    .groupBy(sql`1`, containers.teamId)
    .orderBy(sql`1`);
}
