import { and, eq } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { requireBelow } from './giving.ts';
import { members, teams } from './schema.ts';
import { LAST_ADMINISTRATOR, lockAdministrators, memberNamed } from './service.ts';

/** What someone who leaves had open passes on; what they did stays theirs. */
export async function removePerson(platform: Platform, actor: Member, memberId: string, successorId: string | null) {
  const { projectId } = actor;
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const administrators = await lockAdministrators(db, projectId);
    const member = await memberNamed(db, projectId, memberId);
    if (member.leftAt) throw refused('has-left', 'This person has left the project already.');
    if (member.administrator && !actor.standing.administrator)
      throw refused('administrators-only', 'Only an administrator of the project lets another one go.');
    if (member.userId !== actor.id) await requireBelow(db, actor, member);
    if (member.administrator && administrators === 1) throw refused('last-administrator', LAST_ADMINISTRATOR);
    const successor = successorId ? await memberNamed(db, projectId, successorId) : null;
    if (successor && (successor.leftAt || successor.id === memberId))
      throw refused('no-successor', 'Open work passes to someone else who is in the project. Nothing was changed.');
    const passedOn = await platform.capabilities.passOn(unit, {
      projectId,
      fromId: member.userId,
      toId: successor?.userId ?? null,
    });
    await db.update(members).set({ leftAt: now(), administrator: false }).where(eq(members.id, memberId));
    await db
      .update(teams)
      .set({ leadId: null })
      .where(and(eq(teams.projectId, projectId), eq(teams.leadId, member.userId)));
    await record({
      projectId,
      verb: 'left',
      subjectType: 'person',
      subjectId: member.userId,
      before: { administrator: member.administrator },
      after: { ...passedOn, successorId: successor?.userId ?? null },
    });
    return passedOn;
  });
}
