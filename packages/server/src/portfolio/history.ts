import type { Happening } from '@kindred/contract/portfolio/portfolio';
import { and, desc, eq, isNull, or } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/actor.ts';
import { events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import { requireVisible } from './kin.ts';

/** What happened while something was the work in progress of another team stays with that team. */
const mayKnow = ({ standing, teamId }: Member) =>
  standing.administrator ? undefined : or(isNull(events.teamId), teamId ? eq(events.teamId, teamId) : undefined);

export async function listHistory(platform: Platform, actor: Member, type: string, id: string): Promise<Happening[]> {
  const { db } = platform;
  await requireVisible(platform, actor, type, id);
  const rows = await db
    .select()
    .from(events)
    .where(
      and(
        eq(events.projectId, actor.projectId),
        eq(events.subjectType, type),
        eq(events.subjectId, id),
        mayKnow(actor),
      ),
    )
    .orderBy(desc(events.id))
    .limit(500);
  const persons = await personsById(
    db,
    rows.map(({ actorId }) => actorId),
  );
  return rows.map(({ actorId, projectId, teamId, at, ...row }) => {
    void [projectId, teamId];
    return { ...row, at: at.toISOString(), actor: (actorId && persons.get(actorId)) || null };
  });
}
