import type { WorkArea } from '@kindred/core/people/rights';
import { tidyGrid } from '@kindred/core/people/roles';
import type { Person } from '@kindred/contract/identity/identity';
import type { Member as MemberView, Team } from '@kindred/contract/people/people';
import { and, asc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { giveMailKey } from '../identity/mail-keys.ts';
import { ensurePerson, initialsOf, personsById, stillInvited } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { requireRow, ProblemError, refused } from '../platform/errors.ts';
import { containing } from '../platform/like.ts';
import type { Platform } from '../platform/services.ts';
import { requireBelow, requireGiveable, requireOwnTeam } from './giving.ts';
import { memberRoles, members, parties, roles, teams } from './schema.ts';
import { TEAM_COLOURS } from '../portfolio/starters/people.ts';

export async function listPeople({ db }: Platform, projectId: string) {
  const rows = await db
    .select()
    .from(members)
    .where(eq(members.projectId, projectId))
    .orderBy(asc(members.addedAt), asc(members.id));
  const partyRows = await db.select().from(parties).where(eq(parties.projectId, projectId)).orderBy(parties.name);
  const teamRows = await db.select().from(teams).where(eq(teams.projectId, projectId)).orderBy(teams.name);
  const roleRows = await db.select().from(roles).where(eq(roles.projectId, projectId)).orderBy(roles.name);
  const links = rows.length
    ? await db
        .select()
        .from(memberRoles)
        .where(
          inArray(
            memberRoles.memberId,
            rows.map(({ id }) => id),
          ),
        )
    : [];
  const userIds = rows.map(({ userId }) => userId);
  const persons = await personsById(db, userIds);
  const invited = await stillInvited(db, userIds);
  const byId = <T extends { id: string }>(list: T[]) => new Map(list.map((item) => [item.id, item]));
  const [partyById, teamById, roleById] = [byId(partyRows), byId(teamRows), byId(roleRows)];
  const rolesOf = groupedByMember(links);
  const byName = (a: MemberView, b: MemberView): number => a.person.name.localeCompare(b.person.name, 'en');
  return {
    members: rows
      .map((row): MemberView => {
        const named = (rolesOf.get(row.id) ?? []).map(({ roleId }) => roleById.get(roleId)!);
        return {
          id: row.id,
          person: shownPerson(persons.get(row.userId)!, row),
          party: (row.partyId && partyById.get(row.partyId)) || null,
          team: (row.teamId && teamById.get(row.teamId)) || null,
          roles: named.map(({ id, name }) => ({ id, name })),
          administrator: row.administrator,
          invited: invited.has(row.userId) || isStranger(row),
          lastVisitAt: row.lastVisitAt?.toISOString() ?? null,
          workAreas: row.workAreas,
          leftAt: row.leftAt?.toISOString() ?? null,
        };
      })
      .sort(byName),
    parties: partyRows,
    teams: teamRows,
    roles: roleRows.map(roleView),
  };
}

export const isStranger = ({ addedAs, lastVisitAt }: typeof members.$inferSelect): boolean =>
  addedAs !== null && lastVisitAt === null;

function shownPerson(person: Person, row: typeof members.$inferSelect): Person {
  if (!isStranger(row)) return person;
  const name = row.addedAs!;
  return { ...person, name, initials: initialsOf(name) };
}

/** Whether somebody is in a project that the actor is in, too: then they know each other. */
export async function knows(db: Db, actor: Member, personId: string): Promise<boolean> {
  const { rows } =
    await db.execute(sql`select 1 from members mine join members theirs on theirs.project_id = mine.project_id
    where mine.user_id = ${actor.id} and mine.left_at is null and theirs.user_id = ${personId} limit 1`);
  return rows.length > 0;
}

function groupedByMember<T extends { memberId: string }>(links: T[]): Map<string, T[]> {
  const map = new Map<string, T[]>();
  for (const link of links) map.set(link.memberId, [...(map.get(link.memberId) ?? []), link]);
  return map;
}

const roleView = ({ id, name, grid, edition }: typeof roles.$inferSelect) => ({
  id,
  name,
  grid: tidyGrid(grid),
  edition,
});

export interface PersonToAdd {
  name: string;
  email: string;
  party?: { name: string; code: string };
  teamId?: string | null;
  roleIds: string[];
  administrator?: boolean;
}

export async function addPerson(
  platform: Platform,
  actor: Member,
  wanted: PersonToAdd,
  projectName: string,
): Promise<MemberView> {
  const added = await change(platform, actor, (unit) => admit(unit, actor, wanted, projectName));
  return (await listPeople(platform, actor.projectId)).members.find(({ id }) => id === added)!;
}

/** Each for itself: what is wrong with one keeps nobody else out. */
export async function addPeople(platform: Platform, actor: Member, wanted: PersonToAdd[], projectName: string) {
  const outcomes: { email: string; added: boolean; problem: string }[] = [];
  for (const person of wanted) {
    try {
      await change(platform, actor, (unit) => admit(unit, actor, person, projectName));
      outcomes.push({ email: person.email, added: true, problem: '' });
    } catch (error) {
      if (!(error instanceof ProblemError) || error.status >= 500) throw error;
      outcomes.push({ email: person.email, added: false, problem: error.detail });
    }
  }
  return { outcomes };
}

async function admit(
  { db, record, send, tell }: Change,
  actor: Member,
  wanted: PersonToAdd,
  projectName: string,
): Promise<string> {
  const { projectId } = actor;
  const { administrator = false, teamId = null } = wanted;
  if (administrator && !actor.standing.administrator)
    throw refused(
      'administrators-only',
      'Only an administrator of the project can make someone else one. Add the person without it.',
    );
  await requireOfProject(db, projectId, wanted);
  await requireGiveable(db, actor, wanted.roleIds);
  requireOwnTeam(actor, teamId);
  const { person, isNew } = await ensurePerson(db, wanted.name, wanted.email);
  const addedAs = isNew || (await knows(db, actor, person.id)) ? null : wanted.name;
  const partyId = wanted.party ? await ensureParty(db, projectId, wanted.party) : null;
  // Who left and comes again is the same member, with the history that stayed.
  const [member] = await db
    .insert(members)
    .values({ projectId, userId: person.id, partyId, teamId, administrator, addedAs, addedAt: now() })
    .onConflictDoUpdate({
      target: [members.projectId, members.userId],
      set: { partyId, teamId, administrator, leftAt: null },
      setWhere: isNotNull(members.leftAt),
    })
    .returning();
  if (!member) throw refused('already-member', `${addedAs ?? person.name} is already in this project.`);
  await setRoles(db, member.id, wanted.roleIds);
  await record({
    projectId,
    verb: 'added',
    subjectType: 'person',
    subjectId: person.id,
    after: { name: addedAs ?? person.name, administrator },
  });
  if (isNew || (await stillInvited(db, [person.id])).size)
    await send([
      invitation(person.email, actor.name, projectName, await giveMailKey(db, 'invitation', person.id, { projectId })),
    ]);
  else
    await tell({
      to: [person],
      projectId,
      kind: 'project',
      text: `${actor.name} added you to ${projectName}`,
      link: `/projects/${projectId}`,
      letter: `You are now a member of the project ${projectName}.`,
    });
  return member.id;
}

export const invitation = (to: string, from: string, projectName: string, key: string) => ({
  to,
  subject: `${from} invites you to ${projectName}`,
  text: `You have been added to the project ${projectName}. Choose a password to begin.`,
  link: `/sign-in?invitation=${key}`,
});

async function setRoles(db: Db, memberId: string, roleIds: readonly string[]): Promise<void> {
  await db.delete(memberRoles).where(eq(memberRoles.memberId, memberId));
  await db.insert(memberRoles).values([...new Set(roleIds)].map((roleId) => ({ memberId, roleId })));
}

export async function inviteAgain(
  platform: Platform,
  actor: Member,
  memberId: string,
  projectName: string,
): Promise<void> {
  const { projectId } = actor;
  await change(platform, actor, async ({ db, record, send }) => {
    const member = await memberNamed(db, projectId, memberId);
    const person = (await personsById(db, [member.userId])).get(member.userId)!;
    if (isStranger(member)) return;
    if (!(await stillInvited(db, [member.userId])).size)
      throw refused('not-invited', `${person.name} has accepted the invitation already.`);
    const key = await giveMailKey(db, 'invitation', member.userId, { projectId });
    await send([invitation(person.email, actor.name, projectName, key)]);
    await record({ projectId, verb: 'invited again', subjectType: 'person', subjectId: person.id });
  });
}

export async function memberNamed(db: Db, projectId: string, memberId: string): Promise<typeof members.$inferSelect> {
  return requireRow(
    await db
      .select()
      .from(members)
      .where(and(eq(members.projectId, projectId), eq(members.id, memberId)))
      .for('update'),
    'person',
  );
}

/** Locks all administrators, so that two of them cannot dismiss each other at the same moment. */
export async function lockAdministrators(db: Db, projectId: string): Promise<number> {
  const rows = await db
    .select({ id: members.id })
    .from(members)
    .where(and(eq(members.projectId, projectId), eq(members.administrator, true), isNull(members.leftAt)))
    .for('update');
  return rows.length;
}

export const LAST_ADMINISTRATOR = 'This is the last administrator of the project. Make someone else one first.';

/** People of the actor's other projects, with the company they were last there for. */
export async function suggestPeople({ db }: Platform, actor: Member, words: string) {
  const like = containing(words);
  const { rows } = await db.execute(sql`
    select distinct on (u.id) u.id, u.name, u.email, u.initials, u.colour, u.guest, p.name as "partyName", p.code as "partyCode"
    from members mine
    join members m on m.project_id = mine.project_id
    join users u on u.id = m.user_id
    left join parties p on p.id = m.party_id
    where mine.user_id = ${actor.id} and mine.left_at is null and (u.name ilike ${like} or u.email ilike ${like})
      and not exists (select 1 from members here where here.project_id = ${actor.projectId} and here.user_id = u.id and here.left_at is null)
    order by u.id, p.name is null, m.added_at desc
    limit 8`);
  return rows.map(({ partyName, partyCode, ...person }) => ({
    ...(person as unknown as Person),
    party: partyName ? { name: String(partyName), code: String(partyCode) } : null,
  }));
}

async function requireOfProject(
  db: Db,
  projectId: string,
  { roleIds = [], teamId }: { roleIds?: string[]; teamId?: string | null },
): Promise<void> {
  const known = roleIds.length
    ? await db
        .select({ id: roles.id })
        .from(roles)
        .where(and(eq(roles.projectId, projectId), inArray(roles.id, roleIds)))
    : [];
  if (known.length !== new Set(roleIds).size)
    throw refused('unknown-role', 'One of the roles is not of this project. Nothing was changed.');
  if (teamId) await requireTeam(db, projectId, teamId);
}

export async function changePerson(
  platform: Platform,
  actor: Member,
  memberId: string,
  wanted: Partial<Omit<PersonToAdd, 'name' | 'email'>> & { workAreas?: WorkArea[] | null },
): Promise<MemberView> {
  const { projectId } = actor;
  await change(platform, actor, async ({ db, record }) => {
    const administrators = await lockAdministrators(db, projectId);
    const before = await memberNamed(db, projectId, memberId);
    if (before.leftAt) throw refused('has-left', 'This person has left the project. Add them again first.');
    const touchesAdministration = wanted.administrator !== undefined && wanted.administrator !== before.administrator;
    if (touchesAdministration && !actor.standing.administrator)
      throw refused('administrators-only', 'Only an administrator of the project gives or takes administration.');
    if (touchesAdministration && before.administrator && administrators === 1)
      throw refused('last-administrator', LAST_ADMINISTRATOR);
    await requireOfProject(db, projectId, wanted);
    const { party, roleIds, ...fields } = wanted;
    const isMine = before.userId === actor.id && !party && !roleIds && wanted.teamId === undefined;
    // Which stages one works in oneself is nobody else's affair.
    if (!isMine) await requireBelow(db, actor, before);
    requireOwnTeam(actor, wanted.teamId);
    if (roleIds) await requireGiveable(db, actor, roleIds);
    const partyId = party ? await ensureParty(db, projectId, party) : before.partyId;
    await db
      .update(members)
      .set({ ...fields, partyId })
      .where(eq(members.id, memberId));
    if (roleIds) await setRoles(db, memberId, roleIds);
    const { teamId, administrator } = before;
    await record({
      projectId,
      verb: 'changed',
      subjectType: 'person',
      subjectId: before.userId,
      before: { teamId, administrator },
      after: wanted,
    });
  });
  return (await listPeople(platform, projectId)).members.find(({ id }) => id === memberId)!;
}

async function ensureParty(db: Db, projectId: string, party: { name: string; code: string }): Promise<string> {
  await db
    .insert(parties)
    .values({ projectId, ...party })
    .onConflictDoNothing();
  const [row] = await db
    .select()
    .from(parties)
    .where(and(eq(parties.projectId, projectId), eq(parties.code, party.code)));
  return row!.id;
}

export async function addTeam(
  platform: Platform,
  actor: Member,
  team: { name: string; discipline: string },
): Promise<Team> {
  const { projectId } = actor;
  try {
    return await change(platform, actor, async ({ db, record }) => {
      const [{ n } = { n: 0 }] = await db
        .select({ n: sql<number>`count(*)::int` })
        .from(teams)
        .where(eq(teams.projectId, projectId));
      const [row] = await db
        .insert(teams)
        .values({ ...team, projectId, colour: TEAM_COLOURS[n % TEAM_COLOURS.length]! })
        .returning();
      await record({ projectId, verb: 'added', subjectType: 'team', subjectId: row!.id, after: team });
      return row!;
    });
  } catch (error) {
    if (isUniqueViolation(error)) throw refused('team-exists', `There is already a team named “${team.name}”.`);
    throw error;
  }
}

/** The team is one of the project; 404 where it is not. */
export async function requireTeam(db: Db, projectId: string, teamId: string): Promise<void> {
  const rows = await db
    .select({ id: teams.id })
    .from(teams)
    .where(and(eq(teams.projectId, projectId), eq(teams.id, teamId)));
  requireRow(rows, 'team');
}

export async function changeTeam(
  platform: Platform,
  actor: Member,
  teamId: string,
  wanted: { name?: string; discipline?: string; colour?: string; leadId?: string | null; homeFolderId?: string | null },
): Promise<Team> {
  const { projectId } = actor;
  if (wanted.homeFolderId) await platform.subjects.titleOf(platform.db, actor, 'folder', wanted.homeFolderId);
  try {
    return await change(platform, actor, async ({ db, record }) => {
      if (wanted.leadId && !(await contacts(db, projectId, [wanted.leadId])).length)
        throw refused('unknown-person', 'The lead of a team is someone of the project. Nothing was changed.');
      const [row] = await db
        .update(teams)
        .set(wanted)
        .where(and(eq(teams.projectId, projectId), eq(teams.id, teamId)))
        .returning();
      const team = requireRow(row ? [row] : [], 'team');
      await record({ projectId, verb: 'changed', subjectType: 'team', subjectId: teamId, after: wanted });
      return team;
    });
  } catch (error) {
    if (isUniqueViolation(error)) throw refused('team-exists', `There is already a team named “${wanted.name}”.`);
    throw error;
  }
}

export interface Contact {
  id: string;
  name: string;
  email: string;
  party: string | null;
  teamId: string | null;
}

/** Members of the project among these people; the order is theirs. */
export async function contacts(db: Db, projectId: string, personIds: readonly string[]): Promise<Contact[]> {
  if (!personIds.length) return [];
  return contactRows(db, and(present(projectId), inArray(members.userId, [...personIds])));
}

export async function contactsOfParties(db: Db, projectId: string, partyIds: readonly string[]): Promise<Contact[]> {
  if (!partyIds.length) return [];
  return contactRows(db, and(present(projectId), inArray(members.partyId, [...partyIds])));
}

export const contactsOfTeam = (db: Db, projectId: string, teamId: string): Promise<Contact[]> =>
  contactRows(db, and(present(projectId), eq(members.teamId, teamId)));

export const contactsOfRole = (db: Db, projectId: string, roleId: string): Promise<Contact[]> =>
  contactRows(
    db,
    and(
      present(projectId),
      inArray(
        members.id,
        db.select({ id: memberRoles.memberId }).from(memberRoles).where(eq(memberRoles.roleId, roleId)),
      ),
    ),
  );

const present = (projectId: string) => and(eq(members.projectId, projectId), isNull(members.leftAt));

async function contactRows(db: Db, where: ReturnType<typeof and>): Promise<Contact[]> {
  const rows = await db
    .select({ id: members.userId, teamId: members.teamId, party: parties.name })
    .from(members)
    .leftJoin(parties, eq(parties.id, members.partyId))
    .where(where);
  const persons = await personsById(
    db,
    rows.map(({ id }) => id),
  );
  return rows.map((row) => ({ ...row, name: persons.get(row.id)!.name, email: persons.get(row.id)!.email }));
}

export async function roleNames(db: Db, projectId: string): Promise<Map<string, string>> {
  const rows = await db.select({ id: roles.id, name: roles.name }).from(roles).where(eq(roles.projectId, projectId));
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export async function noteVisit({ pool }: Platform, memberId: string): Promise<void> {
  await pool.query(
    `update members set last_visit_at = $2 where id = $1 and (last_visit_at is null or last_visit_at < $2::timestamptz - interval '5 minutes')`,
    [memberId, now()],
  );
}

/** Names of everything that a folder permission can be for, by id. */
export async function subjectNames(db: Db, projectId: string): Promise<Map<string, string>> {
  const { rows } = await db.execute(sql`
    select id, name from roles where project_id = ${projectId}
    union all select id, name from teams where project_id = ${projectId}
    union all select id, name from parties where project_id = ${projectId}
    union all select m.id, u.name from members m join users u on u.id = m.user_id where m.project_id = ${projectId}`);
  return new Map(rows.map(({ id, name }) => [String(id), String(name)]));
}

/** How many people are in each of these projects. */
export async function countPeople(db: Db, projectIds: readonly string[]): Promise<Map<string, number>> {
  if (!projectIds.length) return new Map();
  const rows = await db
    .select({ projectId: members.projectId, n: sql<number>`count(*)::int` })
    .from(members)
    .where(and(inArray(members.projectId, [...projectIds]), isNull(members.leftAt)))
    .groupBy(members.projectId);
  return new Map(rows.map(({ projectId, n }) => [projectId, n]));
}
