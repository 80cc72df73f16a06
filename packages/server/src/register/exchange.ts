/** The exchange between teams: what was delivered when, and what each team uses of the others. */
import type { Delivery, DeliveryWeek, MatrixCell, Used } from '@kindred/contract/register/exchange';
import type { Use } from '@kindred/core/register/states';
import { and, asc, eq, gte, inArray, lt, ne, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { VisibleVersion } from './versions.ts';
import { members } from '../people/schema.ts';
import { containers, deliveries, entries, uses, versions } from './schema.ts';
import { versionVisibleTo, visibleTo } from './visibility.ts';

const MOST_DELIVERIES = 5000;
const FIRST = 5;

/** Deliveries as the actor may see them: files that are out of sight are not counted either. */
export async function listDeliveries(db: Db, actor: Member, from: string, to: string): Promise<Delivery[]> {
  const rows = await db
    .select({
      id: deliveries.id,
      teamId: deliveries.teamId,
      at: deliveries.at,
      by: users.name,
      source: deliveries.source,
      files: sql<number>`count(*)::int`,
      private: sql<number>`(count(*) filter (where ${versions.state} = 'work in progress'))::int`,
      first: sql<
        Delivery['first']
      >`(array_agg(json_build_object('containerId', ${containers.id}, 'code', ${containers.code},
        'title', ${versions.title}, 'version', ${versions.number}) order by ${containers.code}))[1:${sql.raw(String(FIRST))}]`,
    })
    .from(deliveries)
    .innerJoin(versions, eq(versions.deliveryId, deliveries.id))
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .innerJoin(users, eq(users.id, deliveries.deliveredBy))
    .where(
      and(
        eq(deliveries.projectId, actor.projectId),
        gte(deliveries.at, new Date(from)),
        lt(deliveries.at, new Date(to)),
        versionVisibleTo(actor),
      ),
    )
    .groupBy(deliveries.id, users.name)
    .orderBy(asc(deliveries.at), asc(deliveries.id))
    .limit(MOST_DELIVERIES);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Notes that the actor's team has taken a version of another team. Going back to an older one counts as well. */
export async function noteUse(db: Db, actor: Member, version: VisibleVersion, how: Use): Promise<void> {
  if (actor.teamId) await noteUses(db, [actor.teamId], [version], how, actor.id);
}

/** Notes that teams got versions of others to work with; what they were sent does not take back what they took themselves. */
export async function noteSent(
  db: Db,
  projectId: string,
  personIds: string[],
  versions: VisibleVersion[],
  how: Use,
): Promise<void> {
  for (const [personId, teamId] of await teamsOf(db, projectId, personIds))
    await noteUses(db, [teamId], versions, how, personId, sql`${uses.versionNumber} <= excluded.version_number`);
}

async function noteUses(
  db: Db,
  teamIds: string[],
  versions: VisibleVersion[],
  how: Use,
  by: string,
  onlyWhere?: SQL,
): Promise<void> {
  const values = teamIds.flatMap((teamId) =>
    versions
      .filter(({ container }) => container.teamId && container.teamId !== teamId)
      .map(({ containerId, number }) => ({ teamId, containerId, versionNumber: number, how, by, at: now() })),
  );
  if (!values.length) return;
  await db
    .insert(uses)
    .values(values)
    .onConflictDoUpdate({
      target: [uses.teamId, uses.containerId],
      set: {
        versionNumber: sql`excluded.version_number`,
        how: sql`excluded.how`,
        by: sql`excluded.by`,
        at: sql`excluded.at`,
      },
      setWhere: onlyWhere,
    });
}

const newest = alias(entries, 'newest');
/** Versions that others could have taken since. */
const behind = sql<number>`(select count(*)::int from ${versions} v where v.container_id = ${uses.containerId}
  and v.sequence = 'in sequence' and v.state <> 'work in progress' and v.number > ${uses.versionNumber})`;

/** Uses of what the actor may see, each with how far behind it is. */
const used = (db: Db, actor: Member) =>
  db
    .select({
      provider: sql<string>`${entries.teamId}`.as('provider'),
      user: sql<string>`${uses.teamId}`.as('user_team'),
      containerId: uses.containerId,
      code: entries.code,
      title: entries.title,
      taken: uses.versionNumber,
      newest: sql<number>`${newest.versionNumber}`.as('newest_number'),
      behind: behind.as('behind'),
      how: uses.how,
      by: users.name,
      at: uses.at,
    })
    .from(uses)
    .innerJoin(entries, eq(entries.containerId, uses.containerId))
    .innerJoin(newest, and(eq(newest.containerId, uses.containerId), ne(newest.audience, 'team')))
    .innerJoin(users, eq(users.id, uses.by))
    .where(and(visibleTo(actor), ne(entries.teamId, uses.teamId)))
    .as('used');

export async function showExchangeMatrix(db: Db, actor: Member): Promise<MatrixCell[]> {
  const each = used(db, actor);
  return db
    .select({
      provider: each.provider,
      user: each.user,
      containers: sql<number>`count(*)::int`,
      behind: sql<number>`(count(*) filter (where ${each.behind} > 0))::int`,
      most: sql<number>`coalesce(max(${each.behind}), 0)::int`,
    })
    .from(each)
    .groupBy(each.provider, each.user);
}

export async function listUsed(db: Db, actor: Member, provider: string, user: string): Promise<Used[]> {
  const each = used(db, actor);
  const rows = await db
    .select()
    .from(each)
    .where(and(eq(each.provider, provider), eq(each.user, user)))
    .orderBy(sql`${each.behind} desc`, asc(each.code))
    .limit(1000);
  return rows.map(({ provider: _provider, user: _user, at, ...row }) => {
    void [_provider, _user];
    return { ...row, at: at.toISOString() };
  });
}

/** The team of each of these people in the project. */
async function teamsOf(db: Db, projectId: string, personIds: string[]): Promise<Map<string, string>> {
  if (!personIds.length) return new Map();
  const rows = await db
    .select({ userId: members.userId, teamId: members.teamId })
    .from(members)
    .where(and(eq(members.projectId, projectId), inArray(members.userId, personIds)));
  return new Map(rows.flatMap(({ userId, teamId }) => (teamId ? [[userId, teamId]] : [])));
}

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
