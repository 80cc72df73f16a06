import type { Template, TemplateContent, TemplatePart } from '@kindred/contract/portfolio/templates';
import { and, asc, eq, or } from 'drizzle-orm';
import type { Actor, Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, notFound } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { templates } from './schema.ts';
import { STARTER_TEMPLATES } from './starters/templates.ts';
import { templateParts } from './parts.ts';

type Row = typeof templates.$inferSelect;

const counted = (n: number, one: string, many: string): string[] => (n ? [`${n} ${n === 1 ? one : many}`] : []);
const carries = ({ roles, teams, folders, conventions, routes, issues }: TemplateContent): string[] => [
  ...counted(folders.length, 'folder', 'folders'),
  ...counted(teams.length, 'team', 'teams'),
  ...counted(roles.length, 'role', 'roles'),
  ...counted(conventions.length, 'naming convention', 'naming conventions'),
  ...counted(routes.length, 'review route', 'review routes'),
  ...counted(issues?.types.length ?? 0, 'type of issue', 'types of issues'),
];

const toTemplate = (row: Row, actor: Actor): Template => ({
  id: row.id,
  name: row.name,
  description: row.description,
  starter: false,
  mine: row.ownerId === actor.id,
  forAll: row.forAll,
  carries: carries(row.content),
  createdAt: row.createdAt.toISOString(),
});

const offeredTo = (actor: Actor) => or(eq(templates.ownerId, actor.id), eq(templates.forAll, true));

export async function listTemplates({ db }: Platform, actor: Actor): Promise<Template[]> {
  const saved = await db.select().from(templates).where(offeredTo(actor)).orderBy(asc(templates.name));
  return [
    ...STARTER_TEMPLATES.map(({ id, name, description, content }) => ({
      id,
      name,
      description,
      starter: true,
      mine: false,
      forAll: true,
      carries: carries(content),
      createdAt: null,
    })),
    ...saved.map((row) => toTemplate(row, actor)),
  ];
}

export async function templateContent(db: Db, actor: Actor, templateId: string): Promise<TemplateContent> {
  const starter = STARTER_TEMPLATES.find(({ id }) => id === templateId);
  if (starter) return starter.content;
  if (!/^[0-9a-f-]{36}$/.test(templateId)) throw notFound('template');
  const rows = await db
    .select()
    .from(templates)
    .where(and(eq(templates.id, templateId), offeredTo(actor)));
  return requireRow(rows, 'template').content;
}

/** What is not carried comes from the first starter, so that every template makes a project that can be used. */
export async function saveTemplate(
  platform: Platform,
  actor: Member,
  wanted: { name: string; description?: string; parts: TemplatePart[]; forAll?: boolean },
): Promise<Template> {
  const own = await contentOf(platform, actor);
  const base = STARTER_TEMPLATES[0]!.content;
  const has = (part: TemplatePart): boolean => wanted.parts.includes(part);
  const folders = has('folders') ? own.folders : has('teams') ? [] : base.folders;
  const teams = has('teams') ? own.teams : has('folders') ? [] : base.teams;
  const content: TemplateContent = {
    roles: has('roles') ? own.roles : base.roles,
    teams: teams.map((team) => ({
      ...team,
      home: folders.some(({ path }) => path.join(' / ') === team.home) ? team.home : '',
    })),
    folders: folders.map((folder) => ({
      ...folder,
      team: teams.some(({ name }) => name === folder.team) ? folder.team : '',
      convention: has('conventions') ? folder.convention : '',
      permissions: has('permissions') && has('roles') ? folder.permissions : [],
    })),
    conventions: has('conventions') ? own.conventions : base.conventions,
    schemes: has('schemes') ? own.schemes : base.schemes,
    ...(has('issues') && own.issues && { issues: own.issues }),
    routes: has('routes') ? own.routes : base.routes,
    returnCodes: has('routes') ? own.returnCodes : base.returnCodes,
  };
  if (!content.folders.length)
    content.folders = [{ path: ['Project documents'], team: '', convention: '', permissions: [] }];
  return change(platform, actor, async ({ db, record }) => {
    const { name, description = '', forAll = false } = wanted;
    const [row] = await db
      .insert(templates)
      .values({ name, description, forAll, content, ownerId: actor.id, createdAt: now() })
      .returning();
    await record({
      projectId: actor.projectId,
      verb: 'saved as a template',
      subjectType: 'project',
      subjectId: actor.projectId,
      after: { name, parts: wanted.parts },
    });
    return toTemplate(row!, actor);
  });
}

/** What the project has of everything that a template carries. */
async function contentOf(platform: Platform, actor: Member): Promise<TemplateContent> {
  const content: Partial<TemplateContent> = {};
  for (const part of templateParts(platform)) Object.assign(content, await part.read(platform, actor));
  return content as TemplateContent;
}

export async function removeTemplate({ db }: Platform, actor: Actor, templateId: string): Promise<void> {
  const rows = await db
    .delete(templates)
    .where(and(eq(templates.id, templateId), eq(templates.ownerId, actor.id)))
    .returning();
  requireRow(rows, 'template');
}
