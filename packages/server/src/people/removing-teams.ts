import { and, eq } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { members, teams } from './schema.ts';

/** All that a team has passes to another one, in one transaction; nothing of it is left without a team. */
export async function removeTeam(
  platform: Platform,
  actor: Member,
  teamId: string,
  successorId: string,
): Promise<void> {
  const { projectId } = actor;
  await change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const named = async (id: string) =>
      requireRow(
        await db
          .select()
          .from(teams)
          .where(and(eq(teams.projectId, projectId), eq(teams.id, id)))
          .for('update'),
        'team',
      );
    if (teamId === successorId) throw refused('no-successor', 'Its work passes to another team. Nothing was changed.');
    const [gone, successor] = [await named(teamId), await named(successorId)];
    const moved = await db.update(members).set({ teamId: successorId }).where(eq(members.teamId, teamId)).returning();
    for (const { userId } of moved)
      await record({
        projectId,
        verb: 'changed',
        subjectType: 'person',
        subjectId: userId,
        before: { teamId },
        after: { teamId: successorId },
      });
    await platform.capabilities.passTeamOn(unit, { projectId, fromId: teamId, toId: successorId });
    await db.delete(teams).where(eq(teams.id, teamId));
    await record({
      projectId,
      verb: 'removed',
      subjectType: 'team',
      subjectId: teamId,
      before: { name: gone.name },
      after: { passedTo: successor.name },
    });
  });
}
