import type { Folder } from '@kindred/contract/register/register';
import { and, eq, sql } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';
import { found } from '../platform/errors.ts';
import { containers, folders } from './schema.ts';
import { visibleTo } from './visibility.ts';

/** A home folder for each team with models and drawings, and one for what all share. */
export async function foundFolders(db: Db, projectId: string, teams: { id: string; name: string }[]): Promise<void> {
  const add = async (name: string, parent: { id: string; path: string } | null, teamId: string | null) => {
    const path = parent ? `${parent.path} / ${name}` : name;
    const [row] = await db
      .insert(folders)
      .values({ projectId, name, path, parentId: parent?.id ?? null, teamId })
      .returning();
    return row!;
  };
  for (const team of teams) {
    const home = await add(team.name, null, team.id);
    await add('Drawings', home, team.id);
    await add('Models', home, team.id);
  }
  await add('Project documents', null, null);
}

export async function folderOf(db: Db, projectId: string, folderId: string) {
  return found(
    await db
      .select()
      .from(folders)
      .where(and(eq(folders.projectId, projectId), eq(folders.id, folderId))),
    'folder',
  );
}

export async function listFolders(db: Db, actor: Member): Promise<Folder[]> {
  const rows = await db.select().from(folders).where(eq(folders.projectId, actor.projectId)).orderBy(folders.path);
  const counts = await db
    .select({ folderId: containers.folderId, n: sql<number>`count(*)::int` })
    .from(containers)
    .where(and(visibleTo(actor), eq(containers.atIntake, false)))
    .groupBy(containers.folderId);
  const countOf = new Map(counts.map(({ folderId, n }) => [folderId, n]));
  return rows.map(({ id, parentId, name, path, teamId }) => ({
    id,
    parentId,
    name,
    path,
    teamId,
    containers: countOf.get(id) ?? 0,
  }));
}
