import { and, asc, eq, sql } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';
import { containers, folders } from './schema.ts';
import { visibleTo } from './visibility.ts';

/** Paths of the folders that name a convention. */
export async function foldersNaming(db: Db, conventionId: string): Promise<string[]> {
  const rows = await db.select({ path: folders.path }).from(folders).where(eq(folders.conventionId, conventionId));
  return rows.map(({ path }) => `“${path}”`);
}

/** Codes of all visible containers whose folder stands under a convention, those at the intake too. */
export async function namesUnder(
  db: Db,
  actor: Member,
  convention: { id: string; isDefault: boolean },
): Promise<{ containerId: string; code: string }[]> {
  // The nearest folder above that names a convention is the one that begins last.
  const named = sql`(select f.convention_id from folders f
    where f.project_id = ${actor.projectId} and f.convention_id is not null
      and f.first <= ${folders.first} and f.last >= ${folders.first}
    order by f.first desc limit 1)`;
  const under = sql`${folders.id} in (
    select id from (select ${folders.id} as id, ${named} as named from ${folders} where ${folders.projectId} = ${actor.projectId}) n
    where ${convention.isDefault ? sql`n.named is null or n.named = ${convention.id}` : sql`n.named = ${convention.id}`})`;
  return db
    .select({ containerId: containers.id, code: containers.code })
    .from(containers)
    .innerJoin(folders, eq(folders.id, containers.folderId))
    .where(and(visibleTo(actor), under))
    .orderBy(asc(containers.code));
}
