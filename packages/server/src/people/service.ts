import { KINDS, ACTIONS, type Grid } from '@kindred/core/people/rights';
import type { Member as MemberView, Team } from '@kindred/contract/people/people';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { ensurePerson, personsById, stillInvited } from '../identity/persons.ts';
import type { Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { found, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { memberRoles, members, parties, roles, teams } from './schema.ts';
import { APPROVER_ROLE, FOUNDER_ROLE, STARTER_ROLES, STARTER_TEAMS, TEAM_COLOURS } from './starter.ts';

export interface StarterPeople {
  teams: (typeof teams.$inferSelect)[];
  approverRoleId: string;
}

/** Roles and teams of the starter template; the founder becomes administrator. */
export async function foundPeople(db: Db, projectId: string, founderId: string): Promise<StarterPeople> {
  const roleRows = await db
    .insert(roles)
    .values(STARTER_ROLES.map((role) => ({ ...role, projectId })))
    .returning();
  const teamRows = await db
    .insert(teams)
    .values(STARTER_TEAMS.map((team, i) => ({ ...team, projectId, colour: TEAM_COLOURS[i]! })))
    .returning();
  const [member] = await db
    .insert(members)
    .values({ projectId, userId: founderId, administrator: true, addedAt: now() })
    .returning();
  const roleNamed = (name: string) => roleRows.find((role) => role.name === name)!.id;
  await db.insert(memberRoles).values({ memberId: member!.id, roleId: roleNamed(FOUNDER_ROLE) });
  return { teams: teamRows, approverRoleId: roleNamed(APPROVER_ROLE) };
}

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
  return {
    members: rows.map((row): MemberView => {
      const named = (rolesOf.get(row.id) ?? []).map(({ roleId }) => roleById.get(roleId)!);
      return {
        id: row.id,
        person: persons.get(row.userId)!,
        party: (row.partyId && partyById.get(row.partyId)) || null,
        team: (row.teamId && teamById.get(row.teamId)) || null,
        roles: named.map(({ id, name }) => ({ id, name })),
        administrator: row.administrator,
        invited: invited.has(row.userId),
        lastVisitAt: row.lastVisitAt?.toISOString() ?? null,
      };
    }),
    parties: partyRows,
    teams: teamRows,
    roles: roleRows.map(({ id, name, grid }) => ({ id, name, grid: tidyGrid(grid) })),
  };
}

function groupedByMember<T extends { memberId: string }>(links: T[]): Map<string, T[]> {
  const map = new Map<string, T[]>();
  for (const link of links) map.set(link.memberId, [...(map.get(link.memberId) ?? []), link]);
  return map;
}

function tidyGrid(grid: Grid): Record<string, string[]> {
  return Object.fromEntries(KINDS.map((kind) => [kind, ACTIONS.filter((action) => grid[kind]?.includes(action))]));
}

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
  const { projectId } = actor;
  if (wanted.administrator && !actor.standing.administrator)
    throw refused(
      'administrators-only',
      'Only an administrator of the project can make someone else one. Add the person without it.',
    );
  const added = await change(platform, actor.id, async ({ db, record, send, tell }) => {
    await requireOfProject(db, projectId, wanted);
    const { person, invitationKey } = await ensurePerson(db, wanted.name, wanted.email);
    const partyId = wanted.party ? await ensureParty(db, projectId, wanted.party) : null;
    const { administrator = false, teamId = null } = wanted;
    const [member] = await db
      .insert(members)
      .values({ projectId, userId: person.id, partyId, teamId, administrator, addedAt: now() })
      .onConflictDoNothing()
      .returning();
    if (!member) throw refused('already-member', `${person.name} is already in this project.`);
    await db
      .insert(memberRoles)
      .values([...new Set(wanted.roleIds)].map((roleId) => ({ memberId: member.id, roleId })));
    await record({
      projectId,
      verb: 'added',
      subjectType: 'person',
      subjectId: person.id,
      after: { name: person.name, administrator },
    });
    const link = `/projects/${projectId}`;
    if (invitationKey)
      await send([
        {
          to: person.email,
          subject: `${actor.name} invites you to ${projectName}`,
          text: `You have been added to the project ${projectName}. Choose a password to begin.`,
          link: `/sign-in?invitation=${invitationKey}`,
        },
      ]);
    else
      await tell({
        to: [person],
        projectId,
        text: `${actor.name} added you to ${projectName}`,
        link,
        letter: `You are now a member of the project ${projectName}.`,
      });
    return member.id;
  });
  return (await listPeople(platform, projectId)).members.find(({ id }) => id === added)!;
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
  if (!teamId) return;
  const team = await db
    .select({ id: teams.id })
    .from(teams)
    .where(and(eq(teams.projectId, projectId), eq(teams.id, teamId)));
  if (!team.length) throw refused('unknown-team', 'The team is not of this project. Nothing was changed.');
}

export async function changePerson(
  platform: Platform,
  actor: Member,
  memberId: string,
  wanted: Partial<Omit<PersonToAdd, 'name' | 'email'>>,
): Promise<MemberView> {
  const { projectId } = actor;
  await change(platform, actor.id, async ({ db, record }) => {
    // All administrators are locked, so that two of them cannot dismiss each other at the same moment.
    const administrators = await db
      .select()
      .from(members)
      .where(and(eq(members.projectId, projectId), eq(members.administrator, true)))
      .for('update');
    const before = found(
      await db
        .select()
        .from(members)
        .where(and(eq(members.projectId, projectId), eq(members.id, memberId)))
        .for('update'),
      'person',
    );
    const touchesAdministration = wanted.administrator !== undefined && wanted.administrator !== before.administrator;
    if (touchesAdministration && !actor.standing.administrator)
      throw refused('administrators-only', 'Only an administrator of the project gives or takes administration.');
    if (touchesAdministration && before.administrator && administrators.length === 1)
      throw refused(
        'last-administrator',
        'This is the last administrator of the project. Make someone else one first.',
      );
    await requireOfProject(db, projectId, wanted);
    const { party, roleIds, ...fields } = wanted;
    const partyId = party ? await ensureParty(db, projectId, party) : before.partyId;
    await db
      .update(members)
      .set({ ...fields, partyId })
      .where(eq(members.id, memberId));
    if (roleIds) {
      await db.delete(memberRoles).where(eq(memberRoles.memberId, memberId));
      await db.insert(memberRoles).values([...new Set(roleIds)].map((roleId) => ({ memberId, roleId })));
    }
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
    return await change(platform, actor.id, async ({ db, record }) => {
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

export interface Contact {
  id: string;
  name: string;
  email: string;
  party: string | null;
}

/** Members of the project among these people; the order is theirs. */
export async function contacts(db: Db, projectId: string, personIds: readonly string[]): Promise<Contact[]> {
  if (!personIds.length) return [];
  return contactRows(db, and(eq(members.projectId, projectId), inArray(members.userId, [...personIds])));
}

export async function contactsOfParties(db: Db, projectId: string, partyIds: readonly string[]): Promise<Contact[]> {
  if (!partyIds.length) return [];
  return contactRows(db, and(eq(members.projectId, projectId), inArray(members.partyId, [...partyIds])));
}

async function contactRows(db: Db, where: ReturnType<typeof and>): Promise<Contact[]> {
  const rows = await db
    .select({ id: members.userId, party: parties.name })
    .from(members)
    .leftJoin(parties, eq(parties.id, members.partyId))
    .where(where);
  const persons = await personsById(
    db,
    rows.map(({ id }) => id),
  );
  return rows.map(({ id, party }) => ({ id, party, name: persons.get(id)!.name, email: persons.get(id)!.email }));
}

export async function roleNames(db: Db, projectId: string): Promise<Map<string, string>> {
  const rows = await db.select({ id: roles.id, name: roles.name }).from(roles).where(eq(roles.projectId, projectId));
  return new Map(rows.map(({ id, name }) => [id, name]));
}

/** Project ids of a person with the number of people in each. */
export async function memberships(db: Db, personId: string): Promise<Map<string, number>> {
  const { rows } = await db.execute(sql`
    select m.project_id as id, (select count(*)::int from members o where o.project_id = m.project_id) as people
    from members m where m.user_id = ${personId}`);
  return new Map(rows.map((row) => [String(row.id), Number(row.people)]));
}

export async function noteVisit({ pool }: Platform, memberId: string): Promise<void> {
  await pool.query(
    `update members set last_visit_at = $2 where id = $1 and (last_visit_at is null or last_visit_at < $2::timestamptz - interval '5 minutes')`,
    [memberId, now()],
  );
}

export async function findPeople(db: Db, projectId: string, words: string): Promise<Contact[]> {
  const all = await contactRows(db, eq(members.projectId, projectId));
  const wanted = words.toLowerCase();
  return all.filter(({ name, email }) => name.toLowerCase().includes(wanted) || email.includes(wanted)).slice(0, 8);
}

/** For a live connection: which teams' work in progress a person may hear of. */
export async function liveEntry({ db }: Platform, personId: string, projectId: string) {
  const [row] = await db
    .select()
    .from(members)
    .where(and(eq(members.projectId, projectId), eq(members.userId, personId)));
  return row && { teamId: row.teamId, seesAllTeams: row.administrator };
}

/** “Company · roles” of each person's first project. */
export async function introductions(db: Db, personIds: string[]): Promise<Map<string, string>> {
  if (!personIds.length) return new Map();
  const { rows } = await db.execute(sql`
    select distinct on (m.user_id) m.user_id as id, p.name as party,
           (select string_agg(r.name, ', ' order by r.name) from member_roles mr join roles r on r.id = mr.role_id where mr.member_id = m.id) as roles
    from members m left join parties p on p.id = m.party_id
    where m.user_id in ${personIds}
    order by m.user_id, m.added_at`);
  return new Map(rows.map(({ id, party, roles }) => [String(id), [party, roles].filter(Boolean).join(' · ')]));
}
