import type { Template, TemplateContent, TemplatePart } from '@kindred/contract/portfolio/templates';
import { and, asc, eq, or } from 'drizzle-orm';
import { showNaming } from '../naming/service.ts';
import { PROJECT_CODE } from '../naming/starter.ts';
import { listPeople } from '../people/service.ts';
import type { Actor, Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { found, notFound } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { allPermissions, listFolders } from '../register/folders.ts';
import { listReviewRoutes } from '../review/service.ts';
import { templates } from './schema.ts';
import { STARTER_TEMPLATES } from './starter.ts';

type Row = typeof templates.$inferSelect;

const counted = (n: number, one: string, many: string): string[] => (n ? [`${n} ${n === 1 ? one : many}`] : []);
const carries = ({ roles, teams, folders, conventions, routes }: TemplateContent): string[] => [
  ...counted(folders.length, 'folder', 'folders'),
  ...counted(teams.length, 'team', 'teams'),
  ...counted(roles.length, 'role', 'roles'),
  ...counted(conventions.length, 'naming convention', 'naming conventions'),
  ...counted(routes.length, 'review route', 'review routes'),
];

const view = (row: Row, actor: Actor): Template => ({
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
    ...saved.map((row) => view(row, actor)),
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
  return found(rows, 'template').content;
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
    routes: has('routes') ? own.routes : base.routes,
    returnCodes: has('routes') ? own.returnCodes : base.returnCodes,
  };
  if (!content.folders.length)
    content.folders = [{ path: ['Project documents'], team: '', convention: '', permissions: [] }];
  return change(platform, actor.id, async ({ db, record }) => {
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
    return view(row!, actor);
  });
}

async function contentOf(platform: Platform, actor: Member): Promise<TemplateContent> {
  const { db } = platform;
  const { projectId } = actor;
  const { roles, teams } = await listPeople(platform, projectId);
  const naming = await showNaming(db, projectId);
  const folders = await listFolders(db, actor);
  const permissions = await allPermissions(db, projectId);
  const { routes, codes } = await listReviewRoutes(platform, projectId);
  const nameOf = (list: { id: string; name: string }[], id: string | null): string =>
    list.find((one) => one.id === id)?.name ?? '';
  const pathOf = (id: string | null): string => folders.find((folder) => folder.id === id)?.path ?? '';
  return {
    roles: roles.map(({ name, grid }) => ({ name, grid })),
    teams: teams.map(({ name, discipline, colour, homeFolderId }) => ({
      name,
      discipline,
      colour,
      home: pathOf(homeFolderId),
    })),
    folders: folders.map(({ path, teamId, conventionId }) => ({
      path: path.split(' / '),
      team: nameOf(teams, teamId),
      convention: naming.conventions.find(({ id }) => id === conventionId)?.definition.name ?? '',
      // People and companies differ from project to project; roles and teams stay.
      permissions: permissions.flatMap(({ folderPath, subject, subjectId, level }) => {
        if (folderPath !== path || (subject !== 'role' && subject !== 'team')) return [];
        return [{ subject, name: nameOf(subject === 'role' ? roles : teams, subjectId), level }];
      }),
    })),
    conventions: naming.conventions.map(({ definition }) => ({
      ...definition,
      fields: definition.fields.map((field) =>
        field.kind === 'list' && field.name === 'Project' && field.values.length === 1
          ? { ...field, values: [{ code: PROJECT_CODE, meaning: field.values[0]!.meaning }] }
          : field,
      ),
    })),
    schemes: { statuses: naming.statuses, revisions: naming.revisions, classifications: naming.classifications },
    routes: routes.map(({ name, steps }) => ({
      name,
      steps: steps.map(({ name, days, roleName }) => ({ name, days, role: roleName })),
    })),
    returnCodes: codes.map(({ code, meaning, rules }) => ({ code, meaning, rules: rules as Record<string, boolean> })),
  };
}

export async function removeTemplate({ db }: Platform, actor: Actor, templateId: string): Promise<void> {
  const rows = await db
    .delete(templates)
    .where(and(eq(templates.id, templateId), eq(templates.ownerId, actor.id)))
    .returning();
  found(rows, 'template');
}
