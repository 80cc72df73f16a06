import type * as contract from '@kindred/contract/portfolio/portfolio';
import type { Project } from '@kindred/contract/portfolio/portfolio';
import type { Body } from '@kindred/contract/platform/operation';
import { and, eq } from 'drizzle-orm';
import type { Actor, Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from './schema.ts';
import { STARTER_TEMPLATES } from './starters/templates.ts';
import { templateParts } from './parts.ts';
import { templateContent } from './templates.ts';

export type ProjectDetails = Omit<Body<typeof contract.createProject>, 'templateId'>;

type Row = typeof projects.$inferSelect;
export const toProject = (row: Row): Project => ({ ...row, createdAt: row.createdAt.toISOString() });

/** A new project is usable at once: folders, roles, teams, naming conventions and review routes of its template. */
export async function createProject(
  platform: Platform,
  actor: Actor,
  { templateId = STARTER_TEMPLATES[0]!.id, ...details }: ProjectDetails & { templateId?: string },
): Promise<Project> {
  checkDetails(details);
  return change(platform, actor, async ({ db, record }) => {
    const content = await templateContent(db, actor, templateId);
    const [row] = await db
      .insert(projects)
      .values({ ...details, createdAt: now() })
      .returning();
    const projectId = row!.id;
    const { number, name } = row!;
    const none = new Map<string, string>();
    const ids = { roles: none, teams: none, conventions: none, folders: none };
    for (const part of templateParts(platform))
      await part.add(db, { projectId, creatorId: actor.id, number, name, ids }, content);
    await record({ projectId, verb: 'created', subjectType: 'project', subjectId: projectId, after: details });
    return toProject(row!);
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
  return change(platform, actor, async ({ db, record }) => {
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
    return toProject(row);
  });
}

export async function projectNamed(db: Db, projectId: string): Promise<Row> {
  return requireRow(await db.select().from(projects).where(eq(projects.id, projectId)), 'project');
}
