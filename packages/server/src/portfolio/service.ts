import { effectiveGrid } from '@kindred/core/people/rights';
import type * as contract from '@kindred/contract/portfolio/portfolio';
import type { Project } from '@kindred/contract/portfolio/portfolio';
import type { Body } from '@kindred/contract/platform/operation';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { pendingIssues } from '../issues/service.ts';
import { foundNaming, projectCode } from '../naming/service.ts';
import { foundPeople, memberships, noteVisit, setHomeFolder, workAreasOf } from '../people/service.ts';
import type { Actor, Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, found, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { foundFolders } from '../register/folders.ts';
import { waitingInRegister } from '../register/entries.ts';
import { foundRoutes, waitingReviews } from '../review/service.ts';
import { unopenedTransmittals } from '../transmittal/service.ts';
import { projects } from './schema.ts';
import { STARTER_TEMPLATES } from './starter.ts';
import { templateContent } from './templates.ts';

export type ProjectDetails = Omit<Body<typeof contract.createProject>, 'templateId'>;

type Row = typeof projects.$inferSelect;
const view = (row: Row): Project => ({ ...row, createdAt: row.createdAt.toISOString() });

/** A new project is usable at once: folders, roles, teams, naming conventions and review routes of its template. */
export async function createProject(
  platform: Platform,
  actor: Actor,
  { templateId = STARTER_TEMPLATES[0]!.id, ...details }: ProjectDetails & { templateId?: string },
): Promise<Project> {
  checkDetails(details);
  return change(platform, actor.id, async ({ db, record }) => {
    const content = await templateContent(db, actor, templateId);
    const [row] = await db
      .insert(projects)
      .values({ ...details, createdAt: now() })
      .returning();
    const projectId = row!.id;
    const { roles, teams } = await foundPeople(db, projectId, actor.id, content);
    const conventions = await foundNaming(db, projectId, projectCode(row!.number, row!.name), content);
    const folders = await foundFolders(db, projectId, content.folders, { roles, teams, conventions });
    for (const { name, home } of content.teams)
      if (folders.has(home)) await setHomeFolder(db, teams.get(name)!, folders.get(home)!);
    await foundRoutes(db, projectId, content, roles);
    await record({ projectId, verb: 'created', subjectType: 'project', subjectId: projectId, after: details });
    return view(row!);
  });
}

function checkDetails({
  timeZone,
  startsOn,
  finishesOn,
  currency,
  latitude,
  longitude,
}: Partial<ProjectDetails>): void {
  if (startsOn && finishesOn && finishesOn < startsOn)
    throw refused('dates', 'The finish lies before the start. Nothing was saved.');
  if (((latitude ?? null) === null) !== ((longitude ?? null) === null))
    throw refused('coordinates', 'A place needs both latitude and longitude. Nothing was saved.');
  if (currency && !Intl.supportedValuesOf('currency').includes(currency))
    throw refused('currency', `“${currency}” is no currency. Nothing was saved.`);
  try {
    if (timeZone) new Intl.DateTimeFormat('en', { timeZone });
  } catch {
    throw refused(
      'time-zone',
      `“${timeZone}” is not the name of a time zone, such as “Europe/Lisbon”. Nothing was saved.`,
    );
  }
}

export async function changeProject(
  platform: Platform,
  actor: Member,
  wanted: Partial<ProjectDetails> & { edition: number },
): Promise<Project> {
  const { edition, ...details } = wanted;
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record }) => {
    const before = await projectNamed(db, projectId);
    checkDetails({ ...before, ...details });
    const [row] = await db
      .update(projects)
      .set({ ...details, edition: edition + 1 })
      .where(and(eq(projects.id, projectId), eq(projects.edition, edition)))
      .returning();
    if (!row)
      throw conflict(
        'Someone else changed this project meanwhile. Your entries are still in the form; reload to see theirs, then save again.',
      );
    await record({ projectId, verb: 'changed', subjectType: 'project', subjectId: projectId, before, after: details });
    return view(row);
  });
}

export async function projectNamed(db: Db, projectId: string): Promise<Row> {
  return found(await db.select().from(projects).where(eq(projects.id, projectId)), 'project');
}

export async function listProjects(platform: Platform, actor: Actor) {
  const { db } = platform;
  const people = await memberships(db, actor.id);
  if (!people.size) return [];
  const rows = await db
    .select()
    .from(projects)
    .where(inArray(projects.id, [...people.keys()]))
    .orderBy(sql`${projects.number}, ${projects.name}`);
  const ids = rows.map(({ id }) => id);
  const [issues, reviews, transmittals] = [
    await pendingIssues(db, actor.id, ids),
    await waitingReviews(db, actor.id, ids),
    await unopenedTransmittals(db, actor.id, ids),
  ];
  const present = new Map(
    await Promise.all(ids.map(async (id) => [id, await platform.live.present(id).catch(() => [])] as const)),
  );
  const today = now().toISOString().slice(0, 10);
  return rows.map((row) => {
    const dates = [
      ...(issues.get(row.id)?.dates ?? []).map((day) => ({ day, what: 'Issue due' })),
      ...(reviews.get(row.id)?.dates ?? []).map((day) => ({ day, what: 'Review due' })),
      ...(row.finishesOn && row.finishesOn >= today ? [{ day: row.finishesOn, what: 'Project finishes' }] : []),
    ].sort((a, b) => a.day.localeCompare(b.day));
    return {
      ...view(row),
      people: people.get(row.id) ?? 0,
      present: present.get(row.id) ?? [],
      nextDate: dates[0] ?? null,
      waiting: (issues.get(row.id)?.count ?? 0) + (reviews.get(row.id)?.count ?? 0) + (transmittals.get(row.id) ?? 0),
    };
  });
}

export async function showProject(platform: Platform, actor: Member) {
  const { db } = platform;
  const { projectId, standing, teamId } = actor;
  const project = view(await projectNamed(db, projectId));
  const [issues, reviews, transmittals, register] = [
    await pendingIssues(db, actor.id, [projectId]),
    await waitingReviews(db, actor.id, [projectId]),
    await unopenedTransmittals(db, actor.id, [projectId]),
    await waitingInRegister(db, actor),
  ];
  await noteVisit(platform, actor.memberId);
  const grid = effectiveGrid(standing);
  return {
    project,
    me: { administrator: standing.administrator, grid, teamId, workAreas: await workAreasOf(db, actor.memberId) },
    waiting: {
      issues: issues.get(projectId)?.count ?? 0,
      reviews: reviews.get(projectId)?.count ?? 0,
      transmittals: transmittals.get(projectId) ?? 0,
      intake: grid.register?.includes('manage') ? register.intake : 0,
      contested: register.contested,
    },
  };
}
