/** What a naming convention means to the register: who uses it, and which names a change would touch. */
import type { Convention } from '@kindred/core/naming/convention';
import { conventionEffect } from '@kindred/core/naming/effect';
import type { ConventionEffect } from '@kindred/contract/naming/naming';
import { and, asc, eq, sql } from 'drizzle-orm';
import { conventionOf, deleteConvention, lockConvention, requireSound } from '../naming/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { entries, folders } from './schema.ts';
import { visibleTo } from './visibility.ts';

/** Paths of the folders that name a convention. */
async function foldersNaming(db: Db, conventionId: string): Promise<string[]> {
  const rows = await db.select({ path: folders.path }).from(folders).where(eq(folders.conventionId, conventionId));
  return rows.map(({ path }) => `“${path}”`);
}

/** Codes of all visible containers whose folder stands under a convention, those at the intake too. */
async function namesUnder(
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
    .select({ containerId: entries.containerId, code: entries.code })
    .from(entries)
    .innerJoin(folders, eq(folders.id, entries.folderId))
    .where(and(visibleTo(actor), under))
    .orderBy(asc(entries.code));
}

export async function removeConvention(platform: Platform, actor: Member, conventionId: string): Promise<void> {
  const { projectId } = actor;
  await change(platform, actor, async ({ db, record }) => {
    const row = await lockConvention(db, projectId, conventionId);
    if (row.isDefault)
      throw refused(
        'convention-default',
        `“${row.definition.name}” holds wherever no folder names another. Make another one the project's first. Nothing was changed.`,
      );
    const used = await foldersNaming(db, conventionId);
    if (used.length)
      throw refused(
        'convention-used',
        `“${row.definition.name}” is named by ${used.join(', ')}. Choose another there first. Nothing was changed.`,
      );
    await deleteConvention(db, conventionId);
    await record({
      projectId,
      verb: 'removed',
      subjectType: 'convention',
      subjectId: conventionId,
      before: { name: row.definition.name },
    });
  });
}

const MOST_SHOWN = 200;

/** Which names of the register, and of the intake, a change would stop or start conforming. */
export async function previewConvention(
  { db }: Platform,
  actor: Member,
  conventionId: string,
  definition: Convention,
): Promise<ConventionEffect> {
  requireSound(definition);
  const before = await conventionOf(db, actor.projectId, conventionId);
  const names = await namesUnder(db, actor, before);
  const effect = conventionEffect(
    before.definition,
    definition,
    names.map(({ code }) => code),
  );
  const shown = (indices: number[]) => indices.slice(0, MOST_SHOWN).map((i) => names[i]!);
  return {
    names: effect.names,
    stop: effect.stop.length,
    start: effect.start.length,
    stopping: shown(effect.stop),
    starting: shown(effect.start),
  };
}
