/** Who has to answer an issue: a person, whoever is in a team, or whoever has a role. */
import type { Responsible, ResponsibleRef } from '@kindred/contract/issues/issues';
import type { Person } from '@kindred/contract/identity/identity';
import type { IssueConcern } from '@kindred/core/issues/settings';
import { allows } from '@kindred/core/people/rights';
import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import { memberRoles, roles, teams } from '../people/schema.ts';
import { contacts, contactsOfRole, contactsOfTeam, type Contact } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { issues } from './schema.ts';

type Row = typeof issues.$inferSelect;
export type Assigned = Pick<Row, 'assigneeId' | 'assigneeTeamId' | 'assigneeRoleId'>;

export function responsibleOf({ assigneeId, assigneeTeamId, assigneeRoleId }: Assigned): ResponsibleRef | null {
  if (assigneeId) return { kind: 'person', id: assigneeId };
  if (assigneeTeamId) return { kind: 'team', id: assigneeTeamId };
  return assigneeRoleId ? { kind: 'role', id: assigneeRoleId } : null;
}

export const assignedTo = (to: ResponsibleRef | null): Assigned => ({
  assigneeId: to?.kind === 'person' ? to.id : null,
  assigneeTeamId: to?.kind === 'team' ? to.id : null,
  assigneeRoleId: to?.kind === 'role' ? to.id : null,
});

/** The people behind it, of those who are in the project. */
export async function contactsBehind(db: Db, projectId: string, to: ResponsibleRef | null): Promise<Contact[]> {
  if (to?.kind === 'person') return contacts(db, projectId, [to.id]);
  if (to?.kind === 'team') return contactsOfTeam(db, projectId, to.id);
  return to ? contactsOfRole(db, projectId, to.id) : [];
}

export async function requireResponsible(db: Db, projectId: string, to: ResponsibleRef): Promise<void> {
  const table = to.kind === 'team' ? teams : roles;
  const known =
    to.kind === 'person'
      ? await contacts(db, projectId, [to.id])
      : await db
          .select({ id: table.id })
          .from(table)
          .where(and(eq(table.projectId, projectId), eq(table.id, to.id)));
  if (known.length) return;
  const who = { person: 'The person', team: 'The team', role: 'The role' }[to.kind];
  throw refused('not-a-member', `${who} who shall answer is not in this project. Nothing was saved.`);
}

/** Names of teams and roles that are responsible for some of these. */
export async function responsibleNames(db: Db, rows: readonly Assigned[]): Promise<Map<string, string>> {
  const named = async (table: typeof teams | typeof roles, ids: (string | null)[]): Promise<[string, string][]> => {
    const wanted = [...new Set(ids.filter((id) => id !== null))];
    if (!wanted.length) return [];
    const found = await db.select({ id: table.id, name: table.name }).from(table).where(inArray(table.id, wanted));
    return found.map(({ id, name }) => [id, name]);
  };
  return new Map([
    ...(await named(
      teams,
      rows.map(({ assigneeTeamId }) => assigneeTeamId),
    )),
    ...(await named(
      roles,
      rows.map(({ assigneeRoleId }) => assigneeRoleId),
    )),
  ]);
}

export function toResponsible(
  row: Assigned,
  persons: ReadonlyMap<string, Person>,
  names: ReadonlyMap<string, string>,
): Responsible | null {
  const to = responsibleOf(row);
  if (!to) return null;
  const person = to.kind === 'person' ? persons.get(to.id)! : null;
  return { ...to, name: person?.name ?? names.get(to.id)!, person };
}

/** Over issues: the member has to answer, by themselves or through a team or a role. */
export const answersIssue = (member: Member): SQL =>
  sql`coalesce(${issues.assigneeId} = ${member.id} or ${issues.assigneeTeamId} = ${member.teamId}::uuid
    or ${issues.assigneeRoleId} in (select role_id from member_roles where member_id = ${member.memberId}), false)`;

/** Over issues: the member looks at the answer, because they are named for it or because they raised it and nobody is. */
export const verifiesIssue = (member: Member): SQL =>
  sql`coalesce(${issues.verifierId}, ${issues.authorId}) = ${member.id}`;

/** Over issues: the team that has to answer, its own or that of the person. */
export const answeringTeam: SQL = sql`coalesce(${issues.assigneeTeamId},
  (select team_id from members where members.project_id = ${issues.projectId} and members.user_id = ${issues.assigneeId}))`;

/** What a member is to an issue. */
export async function concernsOf(db: Db, member: Member, row: Row): Promise<Set<IssueConcern>> {
  const concerns = new Set<IssueConcern>();
  if (row.authorId === member.id) concerns.add('raiser');
  if (row.verifierId === member.id) concerns.add('verifier');
  if (allows(member.standing, { kind: 'issues', action: 'change' })) concerns.add('changer');
  const to = responsibleOf(row);
  if (
    to &&
    (to.kind === 'role' ? await hasRole(db, member, to.id) : to.id === (to.kind === 'team' ? member.teamId : member.id))
  )
    concerns.add('responsible');
  return concerns;
}

async function hasRole(db: Db, member: Member, roleId: string): Promise<boolean> {
  const rows = await db
    .select()
    .from(memberRoles)
    .where(and(eq(memberRoles.memberId, member.memberId), eq(memberRoles.roleId, roleId)));
  return rows.length > 0;
}
