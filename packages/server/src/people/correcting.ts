/** What was typed wrong is corrected afterwards: people who have not come yet, and companies. */
import type { Member as MemberView, Party } from '@kindred/contract/people/people';
import { and, eq, isNull, ne } from 'drizzle-orm';
import { endMailKeys, giveMailKey } from '../identity/mail-keys.ts';
import { ensurePerson, initialsOf, stillInvited } from '../identity/persons.ts';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { requireBelow } from './giving.ts';
import { members, parties, teams } from './schema.ts';
import { invitation, knows, listPeople, memberNamed } from './service.ts';

/** Somebody with an account corrects it themselves; another address is another person, who takes over what was given to the first. */
export async function correctPerson(
  platform: Platform,
  actor: Member,
  memberId: string,
  wanted: { name: string; email: string },
  projectName: string,
): Promise<MemberView> {
  const { projectId } = actor;
  await change(platform, actor, async (unit) => {
    const { db, record, send } = unit;
    const member = await memberNamed(db, projectId, memberId);
    await requireBelow(db, actor, member);
    const [before] = await db.select().from(users).where(eq(users.id, member.userId));
    if (!(await stillInvited(db, [member.userId])).size || member.leftAt || (await isElsewhere(db, member)))
      throw refused(
        'has-account',
        'Whoever has an account, or is in other projects too, corrects name and address themselves, on their own page. Nothing was changed.',
      );
    const { name } = wanted;
    if (wanted.email.toLowerCase() === before!.email)
      await db
        .update(users)
        .set({ name, initials: initialsOf(name) })
        .where(eq(users.id, member.userId));
    else {
      const { person, isNew } = await ensurePerson(db, name, wanted.email);
      const [known] = await db
        .select({ id: members.id })
        .from(members)
        .where(and(eq(members.projectId, projectId), eq(members.userId, person.id)));
      if (known) throw refused('already-member', `${name} is, or was, in this project. Nothing was changed.`);
      const addedAs = isNew || (await knows(db, actor, person.id)) ? null : name;
      await platform.capabilities.passOn(unit, { projectId, fromId: member.userId, toId: null });
      await db.update(members).set({ userId: person.id, addedAs }).where(eq(members.id, memberId));
      await db
        .update(teams)
        .set({ leadId: person.id })
        .where(and(eq(teams.projectId, projectId), eq(teams.leadId, member.userId)));
      await endMailKeys(db, 'invitation', member.userId, projectId);
      const key = await giveMailKey(db, 'invitation', person.id, { projectId });
      await send([invitation(person.email, actor.name, projectName, key)]);
    }
    await record({
      projectId,
      verb: 'corrected',
      subjectType: 'person',
      subjectId: member.userId,
      before: { name: before!.name, email: before!.email },
      after: wanted,
    });
  });
  return (await listPeople(platform, projectId)).members.find(({ id }) => id === memberId)!;
}

async function isElsewhere(db: Db, { userId, projectId }: typeof members.$inferSelect): Promise<boolean> {
  const others = await db
    .select({ id: members.id })
    .from(members)
    .where(and(eq(members.userId, userId), ne(members.projectId, projectId), isNull(members.leftAt)));
  return others.length > 0;
}

export async function changeParty(
  platform: Platform,
  actor: Member,
  partyId: string,
  wanted: { name: string; code: string },
): Promise<Party> {
  const { projectId } = actor;
  const own = and(eq(parties.projectId, projectId), eq(parties.id, partyId));
  try {
    return await change(platform, actor, async ({ db, record }) => {
      const before = requireRow(await db.select().from(parties).where(own).for('update'), 'company');
      await db.update(parties).set(wanted).where(own);
      await record({
        projectId,
        verb: 'company corrected',
        subjectType: 'project',
        subjectId: projectId,
        before: { name: before.name, code: before.code },
        after: wanted,
      });
      return { id: partyId, ...wanted };
    });
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused('code-taken', `The code “${wanted.code}” is that of another company here. Nothing was changed.`);
    throw error;
  }
}

export async function removeParty(platform: Platform, actor: Member, partyId: string): Promise<void> {
  const { projectId } = actor;
  const own = and(eq(parties.projectId, projectId), eq(parties.id, partyId));
  await change(platform, actor, async ({ db, record }) => {
    const party = requireRow(await db.select().from(parties).where(own).for('update'), 'company');
    const held = await db.select({ id: members.id }).from(members).where(eq(members.partyId, partyId));
    if (held.length)
      throw refused(
        'in-use',
        `${held.length} people are, or were, of “${party.name}”. Give them another company first.`,
      );
    await db.delete(parties).where(own);
    await record({
      projectId,
      verb: 'company removed',
      subjectType: 'project',
      subjectId: projectId,
      before: { name: party.name, code: party.code },
    });
  });
}
