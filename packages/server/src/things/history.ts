import type { Happening } from '@kindred/contract/things/things';
import { and, eq, isNull, or } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import { events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';

/** What happened while something was the work in progress of another team stays with that team. */
const mayKnow = ({ standing, teamId }: Member) =>
  standing.administrator ? undefined : or(isNull(events.teamId), teamId ? eq(events.teamId, teamId) : undefined);

/** The history of a thing tells nothing where the thing itself may not be seen. */
export async function listHistory(
  platform: Platform,
  member: Member,
  { type, id, ...asked }: PageAsked & { type: string; id: string },
): Promise<{ items: Happening[]; next: string | null }> {
  const { db, subjects } = platform;
  const { where, orderBy, limit } = pageOf(events.id, events.id, true, asked);
  const happened = selectHappenings(db)
    .where(
      and(
        eq(events.projectId, member.projectId),
        eq(events.subjectType, type),
        eq(events.subjectId, id),
        mayKnow(member),
        where,
      ),
    )
    .orderBy(...orderBy)
    .limit(limit + 1);
  const [rows] = await Promise.all([happened, subjects.titleOf(db, member, type, id)]);
  const { items, next } = page(rows, limit, (row) => [row.id, String(row.id)]);
  return { items: items.map(toHappening), next };
}

const columns = {
  id: events.id,
  verb: events.verb,
  subjectType: events.subjectType,
  subjectId: events.subjectId,
  before: events.before,
  after: events.after,
  at: events.at,
  actorId: events.actorId,
  actorName: users.name,
};
/** Events with the names of who caused them; to be narrowed by whoever asks. */
export const selectHappenings = (db: Db) =>
  db.select(columns).from(events).leftJoin(users, eq(users.id, events.actorId));
type Row = Awaited<ReturnType<typeof selectHappenings>>[number];

export const toHappening = ({ actorId, actorName, at, ...event }: Row): Happening => ({
  ...event,
  at: at.toISOString(),
  actor: actorId && actorName !== null ? { id: actorId, name: actorName } : null,
});
