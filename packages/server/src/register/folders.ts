import { numberTree, type TreeFolder } from '@kindred/core/register/folder-tree';
import { levelIn, SUBJECTS, type Level } from '@kindred/core/register/folder-rights';
import type { Folder, FolderPermission, FolderPermissions } from '@kindred/contract/register/folders';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { conventionOf } from '../naming/service.ts';
import { requireTeam, subjectNames } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, notAllowed, notFound, requireRow, refused } from '../platform/errors.ts';
import { lockTree } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { renewNameFields } from './name-fields.ts';
import { containers, entries, folderPermissions, folders } from './schema.ts';
import { visibleTo } from './visibility.ts';

export type FolderRow = typeof folders.$inferSelect;

export async function folderOf(db: Db, projectId: string, folderId: string): Promise<FolderRow> {
  return requireRow(
    await db
      .select()
      .from(folders)
      .where(and(eq(folders.projectId, projectId), eq(folders.id, folderId))),
    'folder',
  );
}

/** A folder that the actor sees and manages: hidden ones are not there, for whoever manages the register neither. */
async function managedFolder(db: Db, actor: Member, folderId: string): Promise<FolderRow> {
  const folder = await folderOf(db, actor.projectId, folderId);
  const level = levelOf(actor, folder);
  if (level === 'hidden') throw notFound('folder');
  if (level !== 'manage')
    throw notAllowed(`The permissions of “${folder.path}” do not let you manage it. Nothing was changed.`);
  return folder;
}

/** The folders above, from the root, and the folder itself. */
async function lineOf(db: Db, folder: FolderRow): Promise<FolderRow[]> {
  return db
    .select()
    .from(folders)
    .where(
      and(
        eq(folders.projectId, folder.projectId),
        sql`${folders.first} <= ${folder.first} and ${folders.last} >= ${folder.first}`,
      ),
    )
    .orderBy(folders.first);
}

/** The convention that holds in a folder: its own, the nearest above, else the project's. */
export async function conventionIn(db: Db, folder: FolderRow) {
  const line = await lineOf(db, folder);
  const named = line.findLast(({ conventionId }) => conventionId)?.conventionId ?? null;
  return conventionOf(db, folder.projectId, named);
}

/** What the actor may do in a folder. */
export const levelOf = (actor: Member, folder: Pick<FolderRow, 'first'>): Level =>
  levelIn(actor.folders.decided, folder.first, actor.folders.ceiling);

export async function listFolders(db: Db, actor: Member): Promise<Folder[]> {
  const rows = await db.select().from(folders).where(eq(folders.projectId, actor.projectId)).orderBy(folders.first);
  const counts = await db
    .select({ folderId: entries.folderId, n: sql<number>`count(*)::int` })
    .from(entries)
    .where(and(visibleTo(actor), eq(entries.atIntake, false)))
    .groupBy(entries.folderId);
  const countOf = new Map(counts.map(({ folderId, n }) => [folderId, n]));
  const permissionsOf = await countPermissions(db, actor.projectId);
  const seen = rows.filter((row) => levelOf(actor, row) !== 'hidden');
  // A folder that is hidden still has to be there when something below it may be seen.
  const needed = new Set(seen.map(({ id }) => id));
  const byId = new Map(rows.map((row) => [row.id, row]));
  for (const { parentId } of seen)
    for (let up = parentId; up && !needed.has(up); up = byId.get(up)?.parentId ?? null) needed.add(up);
  return rows
    .filter(({ id }) => needed.has(id))
    .map((row) => toFolder(row, actor, countOf.get(row.id) ?? 0, permissionsOf.get(row.id) ?? 0));
}

async function countPermissions(db: Db, projectId: string): Promise<Map<string, number>> {
  const rows = await db
    .select({ folderId: folderPermissions.folderId, n: sql<number>`count(*)::int` })
    .from(folderPermissions)
    .innerJoin(folders, eq(folders.id, folderPermissions.folderId))
    .where(eq(folders.projectId, projectId))
    .groupBy(folderPermissions.folderId);
  return new Map(rows.map(({ folderId, n }) => [folderId, n]));
}

const toFolder = (row: FolderRow, actor: Member, count: number, permissions: number): Folder => {
  const { id, parentId, name, path, teamId, conventionId, edition } = row;
  const depth = path.split(' / ').length - 1;
  const level = levelOf(actor, row);
  return { id, parentId, name, path, depth, teamId, conventionId, permissions, level, edition, containers: count };
};

async function shown(db: Db, actor: Member, folderId: string): Promise<Folder> {
  return requireRow(
    (await listFolders(db, actor)).filter(({ id }) => id === folderId),
    'folder',
  );
}

/** Numbers the tree anew after a change; writes the rows that differ, in one statement. */
export async function numberFolders(db: Db, projectId: string): Promise<void> {
  const rows = await db.select().from(folders).where(eq(folders.projectId, projectId));
  const byId = new Map(rows.map((row) => [row.id, row]));
  const changed = numberTree(rows satisfies TreeFolder[]).filter(({ id, first, last, path }) => {
    const row = byId.get(id)!;
    return row.first !== first || row.last !== last || row.path !== path;
  });
  if (!changed.length) return;
  const column = <T>(read: (folder: (typeof changed)[number]) => T) => sql.param(changed.map(read));
  await db.execute(sql`
    update folders f set first = n.first, last = n.last, path = n.path
    from unnest(${column(({ id }) => id)}::uuid[], ${column(({ first }) => first)}::int[],
                ${column(({ last }) => last)}::int[], ${column(({ path }) => path)}::text[]) as n(id, first, last, path)
    where f.id = n.id`);
}

/** Runs a change of the tree, alone in its project, and says a conflict of names in words. */
async function changeTree<T>(
  platform: Platform,
  actor: Member,
  name: string,
  run: (unit: Change) => Promise<T>,
): Promise<T> {
  try {
    return await change(platform, actor, async (unit) => {
      await lockTree(unit.db, actor.projectId);
      const result = await run(unit);
      await numberFolders(unit.db, actor.projectId);
      return result;
    });
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused('folder-exists', `There is already a folder “${name}” in that place. Nothing was changed.`);
    if (error instanceof RangeError)
      throw refused('folder-in-itself', 'A folder cannot lie within itself or below itself. Nothing was changed.');
    throw error;
  }
}

export async function addFolder(
  platform: Platform,
  actor: Member,
  wanted: { parentId: string | null; name: string; teamId?: string | null },
): Promise<Folder> {
  const { projectId } = actor;
  const name = wanted.name.trim();
  const id = await changeTree(platform, actor, name, async ({ db, record }) => {
    const parent = wanted.parentId ? await managedFolder(db, actor, wanted.parentId) : null;
    if (wanted.teamId) await requireTeam(db, projectId, wanted.teamId);
    const teamId = wanted.teamId === undefined ? (parent?.teamId ?? null) : wanted.teamId;
    const [row] = await db
      .insert(folders)
      .values({ projectId, name, path: name, parentId: parent?.id ?? null, teamId })
      .returning();
    await record({
      projectId,
      verb: 'added',
      subjectType: 'folder',
      subjectId: row!.id,
      after: { name, parentId: wanted.parentId },
    });
    return row!.id;
  });
  return shown(platform.db, actor, id);
}

export async function changeFolder(
  platform: Platform,
  actor: Member,
  folderId: string,
  {
    edition,
    ...wanted
  }: { edition: number; name?: string; parentId?: string | null; teamId?: string | null; conventionId?: string | null },
): Promise<Folder> {
  const { projectId } = actor;
  await changeTree(platform, actor, wanted.name ?? '', async ({ db, record }) => {
    const before = await managedFolder(db, actor, folderId);
    if (before.edition !== edition)
      throw conflict(
        `Someone else changed “${before.name}” meanwhile. Look at theirs, then change it again. Nothing was changed.`,
      );
    if (wanted.parentId) await managedFolder(db, actor, wanted.parentId);
    if (wanted.teamId) await requireTeam(db, projectId, wanted.teamId);
    if (wanted.conventionId) await conventionOf(db, projectId, wanted.conventionId);
    await db
      .update(folders)
      .set({ ...wanted, ...(wanted.name && { name: wanted.name.trim() }), edition: edition + 1 })
      .where(eq(folders.id, folderId));
    const { name, parentId, teamId, conventionId } = before;
    await record({
      projectId,
      verb: 'changed',
      subjectType: 'folder',
      subjectId: folderId,
      before: { name, parentId, teamId, conventionId },
      after: wanted,
    });
  });
  if ('conventionId' in wanted || 'parentId' in wanted) await renewNameFields(platform.db, projectId);
  return shown(platform.db, actor, folderId);
}

export async function removeFolder(platform: Platform, actor: Member, folderId: string): Promise<void> {
  const { projectId } = actor;
  await changeTree(platform, actor, '', async ({ db, record }) => {
    const row = await managedFolder(db, actor, folderId);
    const [held] = await db
      .select({
        n: sql<number>`count(*) filter (where ${containers.removedAt} is null)::int`,
        inBin: sql<number>`count(${containers.removedAt})::int`,
      })
      .from(containers)
      .where(eq(containers.folderId, folderId));
    if (held!.n)
      throw refused(
        'folder-not-empty',
        `“${row.path}” holds ${held!.n} containers. Move them first. Nothing was changed.`,
      );
    if (held!.inBin)
      throw refused(
        'folder-not-empty',
        `${held!.inBin} containers of “${row.path}” lie in the bin and would come back here. The folder can go when they are gone for good. Nothing was changed.`,
      );
    if (row.last > row.first)
      throw refused(
        'folder-not-empty',
        `“${row.path}” has folders below it. Remove or move them first. Nothing was changed.`,
      );
    await db.delete(folders).where(eq(folders.id, folderId));
    await record({
      projectId,
      verb: 'removed',
      subjectType: 'folder',
      subjectId: folderId,
      before: { name: row.name, path: row.path },
    });
  });
}

export async function listFolderPermissions(db: Db, actor: Member, folderId: string): Promise<FolderPermissions> {
  const { projectId } = actor;
  const folder = await managedFolder(db, actor, folderId);
  const line = await lineOf(db, folder);
  const names = await subjectNames(db, projectId);
  const rows = await db
    .select()
    .from(folderPermissions)
    .where(
      inArray(
        folderPermissions.folderId,
        line.map(({ id }) => id),
      ),
    );
  const above = new Map(line.map((row, depth) => [row.id, { path: row.path, depth }]));
  // Nearest first: the first of each subject is the one that holds.
  rows.sort((a, b) => above.get(b.folderId)!.depth - above.get(a.folderId)!.depth);
  const holding = new Map(rows.toReversed().map((row) => [`${row.subject}:${row.subjectId}`, row]));
  const permissions = [...holding.values()].map(({ subject, subjectId, level, folderId: on }) => ({
    subject,
    subjectId,
    level,
    name: names.get(subjectId) ?? 'someone who left',
    folderId: on,
    folderPath: above.get(on)!.path,
    own: on === folderId,
  }));
  permissions.sort(
    (a, b) => SUBJECTS.indexOf(b.subject) - SUBJECTS.indexOf(a.subject) || a.name.localeCompare(b.name, 'en'),
  );
  return { edition: folder.edition, permissions };
}

export async function changeFolderPermissions(
  platform: Platform,
  actor: Member,
  folderId: string,
  { edition, permissions }: { edition: number; permissions: FolderPermission[] },
): Promise<FolderPermissions> {
  const { projectId } = actor;
  await change(platform, actor, async ({ db, record }) => {
    // Locked, then read: an edition that was read before may be old.
    await db.select({ id: folders.id }).from(folders).where(eq(folders.id, folderId)).for('update');
    const folder = await managedFolder(db, actor, folderId);
    if (folder.edition !== edition)
      throw conflict(
        `Someone else changed “${folder.name}” meanwhile. Look at theirs, then set yours again. Nothing was changed.`,
      );
    const names = await subjectNames(db, projectId);
    const stranger = permissions.find(({ subjectId }) => !names.has(subjectId));
    if (stranger)
      throw refused(
        'unknown-subject',
        `The ${stranger.subject} of one permission is not of this project. Nothing was changed.`,
      );
    const twice = new Set(permissions.map(({ subject, subjectId }) => subject + subjectId)).size !== permissions.length;
    if (twice)
      throw refused('permission-twice', 'Two permissions of this folder are for the same. Nothing was changed.');
    const before = await db.delete(folderPermissions).where(eq(folderPermissions.folderId, folderId)).returning();
    if (permissions.length) await db.insert(folderPermissions).values(permissions.map((one) => ({ ...one, folderId })));
    await db
      .update(folders)
      .set({ edition: edition + 1 })
      .where(eq(folders.id, folderId));
    const said = (list: { subject: string; subjectId: string; level: Level }[]) =>
      list.map(({ subject, subjectId, level }) => ({ subject, name: names.get(subjectId) ?? '', level }));
    await record({
      projectId,
      verb: 'permissions changed',
      subjectType: 'folder',
      subjectId: folderId,
      before: said(before),
      after: said(permissions),
    });
  });
  return listFolderPermissions(platform.db, actor, folderId);
}

/** All permissions of a project with the number of each folder, for explanations. */
export async function allPermissions(db: Db, projectId: string) {
  return db
    .select({
      folderPath: folders.path,
      first: folders.first,
      last: folders.last,
      subject: folderPermissions.subject,
      subjectId: folderPermissions.subjectId,
      level: folderPermissions.level,
    })
    .from(folderPermissions)
    .innerJoin(folders, eq(folders.id, folderPermissions.folderId))
    .where(eq(folders.projectId, projectId));
}
