import type { Happening } from '@kindred/contract/things/things';
import { and, desc, eq, isNull, or } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';

/** What happened while something was the work in progress of another team stays with that team. */
const mayKnow = ({ standing, teamId }: Member) =>
  standing.administrator ? undefined : or(isNull(events.teamId), teamId ? eq(events.teamId, teamId) : undefined);

/** The history of a thing tells nothing where the thing itself may not be seen. */
export async function listHistory(platform: Platform, member: Member, type: string, id: string): Promise<Happening[]> {
  const { db, subjects } = platform;
  const happened = selectHappenings(db)
    .where(
      and(
        eq(events.projectId, member.projectId),
        eq(events.subjectType, type),
        eq(events.subjectId, id),
        mayKnow(member),
      ),
    )
    .orderBy(desc(events.id))
    .limit(500);
  const [rows] = await Promise.all([happened, subjects.titleOf(db, member, type, id)]);
  return rows.map(toHappening);
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
