/** Nobody raises rights above their own, and nobody their own: asked wherever rights, roles, teams and companies are given. */
import { allows, isWithin, type Grid } from '@kindred/core/people/rights';
import { eq, inArray } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed } from '../platform/errors.ts';
import { memberRoles, roles, type members } from './schema.ts';

type MemberRow = Pick<typeof members.$inferSelect, 'id' | 'userId' | 'administrator' | 'teamId'>;

/** May change people of all teams; “add” and “change” reach those of one's own team, and those of none. */
const managesPeople = ({ standing }: Member): boolean => allows(standing, { kind: 'people', action: 'manage' });

export function requireOwnTeam(actor: Member, teamId: string | null | undefined): void {
  if (!teamId || managesPeople(actor) || teamId === actor.teamId) return;
  throw notAllowed('People of another team are added and changed by whoever may “manage” people. Nothing was changed.');
}

/** The roles are within what the actor may do themselves. */
export async function requireGiveable(db: Db, actor: Member, roleIds: readonly string[]): Promise<void> {
  if (actor.standing.administrator || !roleIds.length) return;
  const rows = await db
    .select()
    .from(roles)
    .where(inArray(roles.id, [...roleIds]));
  requireWithin(actor, rows);
}

export function requireWithin(actor: Member, some: readonly { name: string; grid: Grid }[]): void {
  const above = some.find(({ grid }) => !isWithin(actor.standing, grid));
  if (above)
    throw notAllowed(
      `The role “${above.name}” may do more than your own roles. An administrator of the project can give or change it. Nothing was changed.`,
    );
}

/** Somebody whom the actor may change: not themselves, not an administrator, nobody whose roles are above, nobody of another team. */
export async function requireBelow(db: Db, actor: Member, member: MemberRow): Promise<void> {
  if (actor.standing.administrator) return;
  if (member.userId === actor.id)
    throw notAllowed('Your own team, company and roles are changed by somebody else who may. Nothing was changed.');
  if (member.administrator)
    throw notAllowed('An administrator of the project is changed by another one. Nothing was changed.');
  requireOwnTeam(actor, member.teamId);
  const held = await db
    .select({ name: roles.name, grid: roles.grid })
    .from(memberRoles)
    .innerJoin(roles, eq(roles.id, memberRoles.roleId))
    .where(eq(memberRoles.memberId, member.id));
  requireWithin(actor, held);
}

export async function requireNotOwnRoles(db: Db, actor: Member, roleIds: readonly string[]): Promise<void> {
  if (actor.standing.administrator || !roleIds.length) return;
  const own = await db.select().from(memberRoles).where(eq(memberRoles.memberId, actor.memberId));
  if (own.some(({ roleId }) => roleIds.includes(roleId)))
    throw notAllowed('A role that you have yourself is changed by somebody else who may. Nothing was changed.');
}
