/**
 * The conditions under which anybody sees anything of a container. Work in progress is for its own team, the intake for those who
 * manage the register and for whoever delivered, a hidden folder for nobody it is hidden from.
 */
import { allows } from '@kindred/core/people/rights';
import { and, eq, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Member } from '../platform/caller.ts';
import { rangesWith } from './levels.ts';
import { containers, entries, folders, shareSets, sheets, versions } from './schema.ts';

export const manages = (actor: Member): boolean => allows(actor.standing, { kind: 'register', action: 'manage' });

/** The values in `visibleTo`: what is asked often replaces them by placeholders. */
export function visibilityValues(actor: Member) {
  return {
    project: actor.projectId as unknown,
    team: actor.teamId as unknown,
    person: actor.id as unknown,
    hidden: rangesWith(actor, 'hidden') as unknown,
  };
}

/** Which conditions hold for an actor: actors of one key ask with one statement. */
export function visibilityKey(actor: Member): string {
  if (actor.standing.administrator) return 'administrator';
  return `${actor.teamId ? 'team' : 'none'},${manages(actor)},${hides(actor)}`;
}

const hides = (actor: Member): boolean => actor.folders.decided.some(({ level }) => level === 'hidden');

/** Over entries: one for each container that the actor may see, with the version that is current to them. */
export function visibleTo(
  actor: Member,
  values = visibilityValues(actor),
  outside = outsideHidden(actor, entries.folderId, values),
): SQL | undefined {
  const inProject = eq(entries.projectId, values.project as string);
  if (actor.standing.administrator) return and(inProject, ne(entries.audience, 'others'));
  const audience = actor.teamId
    ? sql`${entries.audience} <> (case when ${entries.teamId} = ${sql.param(values.team, entries.teamId)} then 'others' else 'team' end)`
    : ne(entries.audience, 'team');
  return and(
    inProject,
    // Whoever manages the register sees the intake of all teams.
    manages(actor) ? or(audience, entries.atIntake) : audience,
    atIntakeOf(actor, entries.atIntake, entries.deliveredBy, values.person),
    outside,
  );
}

/** The same over entries joined with their folders, where permissions concern the actor (`isNarrowedByFolders`). */
export const visibleWithFolders = (actor: Member, values = visibilityValues(actor)): SQL | undefined =>
  visibleTo(actor, values, hides(actor) ? sql`not ${folders.first} <@ ${values.hidden}::int4multirange` : undefined);

/** Over versions joined with their containers: those of the versionsOf that the actor may see. */
export function versionVisibleTo(actor: Member): SQL | undefined {
  const inProject = and(eq(containers.projectId, actor.projectId), isNull(containers.removedAt));
  if (actor.standing.administrator) return inProject;
  const own = actor.teamId ? eq(containers.teamId, actor.teamId) : undefined;
  const intake = manages(actor) ? eq(containers.atIntake, true) : undefined;
  const shared = or(ne(versions.state, 'work in progress'), isNull(containers.teamId), own, intake);
  return and(
    inProject,
    shared,
    atIntakeOf(actor, containers.atIntake, versions.deliveredBy, actor.id),
    outsideHidden(actor, containers.folderId, visibilityValues(actor)),
  );
}

function atIntakeOf(actor: Member, atIntake: PgColumn, deliveredBy: PgColumn, person: unknown): SQL | undefined {
  return manages(actor) ? undefined : or(eq(atIntake, false), eq(deliveredBy, person));
}

/** Of each row its folder, or all folders beforehand, whichever is less work for the query; not at all where nothing is hidden. */
function outsideHidden(
  actor: Member,
  folderId: PgColumn,
  { hidden }: ReturnType<typeof visibilityValues>,
): SQL | undefined {
  if (!hides(actor)) return undefined;
  return sql`exists (select 1 from folders held where held.id = ${folderId} and not held.first <@ ${hidden}::int4multirange)`;
}

/** Whether the actor belongs to the team that a container is made by, or stands above the teams. */
export const isOwnTeam = (actor: Member, teamId: string | null): boolean =>
  teamId === null || teamId === actor.teamId || actor.standing.administrator;

/** Who may hear of a version: its team alone while it is work in progress. */
export const audience = (version: { state: string }, teamId: string | null): string | null =>
  version.state === 'work in progress' ? teamId : null;

/** Over the id of a version: the actor may see it, and `also` holds of it (over versions joined with their containers). */
export const seesVersion = (actor: Member, versionId: SQL, also = sql`true`): SQL =>
  sql`exists (select 1 from ${versions} join ${containers} on ${containers.id} = ${versions.containerId}
    where ${versions.id} = ${versionId} and ${versionVisibleTo(actor)} and ${also})`;

/** Over versions joined with their containers: the actor gets all of what was shared, whatever a share set chose. */
export const getsAll = (actor: Member): SQL =>
  actor.standing.administrator
    ? sql`true`
    : sql`(${versions.shareSetId} is null or ${containers.teamId} is null or ${containers.teamId} = ${actor.teamId}::uuid)`;

/** Over versions joined with their containers, and a page of them: the actor may see that page. */
export const pageVisibleTo = (actor: Member, page: SQL): SQL =>
  sql`${versionVisibleTo(actor)} and ${hasPage(actor, page)}`;

const hasPage = (actor: Member, page: SQL): SQL =>
  sql`(${getsAll(actor)} or ${versions.kind} <> 'drawing' or exists (select 1 from ${sheets} join ${shareSets} on ${shareSets.id} = ${versions.shareSetId}
    where ${sheets.versionId} = ${versions.id} and ${sheets.page} = ${page} and ${sheets.number} = any(${shareSets.sheetNumbers})))`;

/** Over the id of a version and a page of it: the actor may see that page. */
export const seesPage = (actor: Member, versionId: SQL, page: SQL): SQL =>
  seesVersion(actor, versionId, hasPage(actor, page));
