import type { Happening } from '@kindred/contract/things/things';
import { and, eq, isNull, or, sql, type SQL } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import type { Database } from '../platform/database.ts';
import { JsonText } from '../platform/json-text.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import { planned } from '../platform/planned.ts';
import { events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';

/** What happened while something was the work in progress of another team stays with that team. */
const mayKnow = ({ standing, teamId }: Member) =>
  standing.administrator ? undefined : or(isNull(events.teamId), teamId ? eq(events.teamId, teamId) : undefined);

const happening = sql<Happening>`json_build_object('id', ${events.id}, 'verb', ${events.verb},
  'subjectType', ${events.subjectType}, 'subjectId', ${events.subjectId}, 'before', ${events.before}, 'after', ${events.after}, 'at', ${events.at},
  'actor', case when ${users.name} is not null then json_build_object('id', ${users.id}, 'name', ${users.name}) end)`;

/** Events with the names of who caused them, the newest first, one more than the limit; each is the JSON that goes out. */
export const listHappenings = (db: Database, where: SQL | undefined, limit: number) =>
  planned<{ id: string; json: string }>(
    db,
    sql`select ${events.id}::text as id, ${happening}::text as json from ${events} left join ${users} on ${users.id} = ${events.actorId}
        where ${where} order by ${events.id} desc limit ${limit + 1}`,
  );

/** The history of a thing tells nothing where the thing itself may not be seen. */
export async function listHistory(
  { db, subjects }: Platform,
  member: Member,
  { type, id, ...asked }: PageAsked & { type: string; id: string },
): Promise<JsonText<{ items: Happening[]; next: string | null }>> {
  const { where, limit } = pageOf(events.id, events.id, true, asked);
  const about = and(
    eq(events.projectId, member.projectId),
    eq(events.subjectType, type),
    eq(events.subjectId, id),
    mayKnow(member),
    where,
  );
  const [rows] = await Promise.all([listHappenings(db, about, limit), subjects.titleOf(db, member, type, id)]);
  const { items, next } = page(rows, limit, (row) => [row.id, row.id]);
  return new JsonText(`{"items":[${items.map(({ json }) => json).join()}],"next":${JSON.stringify(next)}}`);
}
