/** Containers that were taken out of the register: they lie in the bin with all their versions, for a set time. */
import type { BinItem } from '@kindred/contract/register/bin';
import type { Container } from '@kindred/contract/register/register';
import { and, eq, inArray, isNotNull, lt, or, sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import { system, type Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { containersOf, refreshEntries } from './entries.ts';
import { rangesWith } from './levels.ts';
import { containers, entries, folders, versions } from './schema.ts';
import { entriesToChange, lockContainers } from './versions.ts';
import { audience, manages } from './visibility.ts';

const DAY = 86_400_000;

/** All of them, or none: what was published, sent, reviewed or asked about stays. */
export async function removeContainers(
  platform: Platform,
  actor: Member,
  { containerIds, reason }: { containerIds: string[]; reason: string },
): Promise<void> {
  const { projectId } = actor;
  await change(platform, actor, async ({ db, record }) => {
    const rows = await entriesToChange(db, actor, containerIds);
    const problems = await reasonsToStay(db, platform, projectId, containerIds);
    if (problems.size) {
      const said = rows.flatMap(({ containerId, code }) =>
        (problems.get(containerId) ?? []).map((message) => ({ path: code, message })),
      );
      const first = said.slice(0, 3).map(({ path, message }) => `“${path}”: ${message}`);
      throw refused(
        'has-to-stay',
        `${problems.size} of ${rows.length} may not be removed. ${first.join('. ')}${said.length > 3 ? ', and more' : ''}. Archive instead what shall not be used any more. Nothing was changed.`,
        said,
      );
    }
    const removed = {
      removedAt: now(),
      removedBy: actor.id,
      removedReason: reason,
      reservedBy: null,
      reservedAt: null,
    };
    await db.update(containers).set(removed).where(inArray(containers.id, containerIds));
    for (const row of rows)
      await record({
        projectId,
        verb: 'put into the bin',
        subjectType: 'container',
        subjectId: row.containerId,
        before: { code: row.code, title: row.title },
        after: { reason },
        teamId: audience(row, row.teamId),
      });
    await refreshEntries(db, containerIds);
  });
}

/** What speaks against removing these containers, by their ids. */
async function reasonsToStay(
  db: Db,
  { subjects }: Pick<Platform, 'subjects'>,
  projectId: string,
  containerIds: readonly string[],
): Promise<Map<string, string[]>> {
  const rows = await db
    .select({ id: versions.id, number: versions.number, state: versions.state, containerId: versions.containerId })
    .from(versions)
    .where(inArray(versions.containerId, [...containerIds]));
  const keeping = await subjects.keeping(
    db,
    projectId,
    rows.map(({ id }) => id),
  );
  const problems = new Map<string, string[]>();
  for (const { id, number, state, containerId } of rows) {
    const reasons = [
      ...(state === 'published' || state === 'archived' ? [`version ${number} is ${state}`] : []),
      ...(keeping.get(id) ?? []).map((title) => `version ${number} is part of ${title}`),
    ];
    if (reasons.length) problems.set(containerId, [...(problems.get(containerId) ?? []), ...reasons]);
  }
  return problems;
}

/** What the actor may see in the bin: their own team's, all of it for whoever manages the register, nothing of hidden folders. */
const inBinOf = (actor: Member) =>
  and(
    eq(containers.projectId, actor.projectId),
    isNotNull(containers.removedAt),
    manages(actor)
      ? undefined
      : or(eq(containers.teamId, actor.teamId ?? actor.id), eq(containers.removedBy, actor.id)),
    sql`not ${folders.first} <@ ${rangesWith(actor, 'hidden')}::int4multirange`,
  );

export async function listBin(
  { db, config }: Platform,
  actor: Member,
  asked: PageAsked,
): Promise<{ items: BinItem[]; next: string | null }> {
  const { where, orderBy, limit } = pageOf(containers.removedAt, containers.id, true, asked);
  const title = sql<string>`(select v.title from versions v where v.container_id = ${containers.id} order by v.number desc limit 1)`;
  const rows = await db
    .select({
      containerId: containers.id,
      code: containers.code,
      title,
      folder: folders.path,
      versions: containers.lastNumber,
      removedAt: containers.removedAt,
      removedBy: users.name,
      reason: containers.removedReason,
    })
    .from(containers)
    .innerJoin(folders, eq(folders.id, containers.folderId))
    .innerJoin(users, eq(users.id, containers.removedBy))
    .where(and(inBinOf(actor), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.removedAt, row.containerId]);
  return {
    items: items.map(({ removedAt, ...row }) => ({
      ...row,
      removedAt: removedAt!.toISOString(),
      until: new Date(removedAt!.getTime() + config.binDays * DAY).toISOString(),
    })),
    next,
  };
}

/** All of them, or none: one whose code is taken meanwhile keeps lying where it is. */
export async function restoreContainers(
  platform: Platform,
  actor: Member,
  { containerIds }: { containerIds: string[] },
): Promise<Container[]> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record }) => {
    const codes = (await inBin(db, actor, containerIds)).map(({ code }) => code);
    await lockCodes(db, projectId, codes);
    await lockContainers(db, containerIds);
    const rows = await inBin(db, actor, containerIds);
    if (rows.length !== containerIds.length) throw notFound('container');
    const [taken] = await db
      .select({ code: entries.code })
      .from(entries)
      .where(and(eq(entries.projectId, projectId), inArray(entries.code, codes)));
    if (taken)
      throw refused(
        'code-taken',
        `“${taken.code}” is used by another container by now. Repair the code of that one first. Nothing was restored.`,
      );
    await db
      .update(containers)
      .set({ removedAt: null, removedBy: null, removedReason: '' })
      .where(inArray(containers.id, containerIds));
    await refreshEntries(db, containerIds);
    for (const { id, code, teamId } of rows)
      await record({
        projectId,
        verb: 'taken out of the bin',
        subjectType: 'container',
        subjectId: id,
        after: { code },
        teamId,
      });
    return containersOf(db, actor, containerIds);
  });
}

const inBin = (db: Db, actor: Member, containerIds: readonly string[]) =>
  db
    .select({ id: containers.id, code: containers.code, teamId: containers.teamId })
    .from(containers)
    .innerJoin(folders, eq(folders.id, containers.folderId))
    .where(and(inBinOf(actor), inArray(containers.id, [...containerIds])));

/** Removes for good what has lain in the bin for its time. Answers how many. */
export async function emptyBin(platform: Platform, days = platform.config.binDays): Promise<number> {
  const old = await platform.db
    .select({ id: containers.id, projectId: containers.projectId, code: containers.code, teamId: containers.teamId })
    .from(containers)
    .where(lt(containers.removedAt, new Date(Date.now() - days * DAY)));
  let gone = 0;
  for (const { id, projectId, code, teamId } of old)
    await change(platform, system('upkeep'), async ({ db, record }) => {
      await lockContainers(db, [id]);
      if ((await reasonsToStay(db, platform, projectId, [id])).size) return;
      const removed = await db
        .delete(containers)
        .where(and(eq(containers.id, id), isNotNull(containers.removedAt)))
        .returning();
      if (!removed.length) return;
      const subject = { subjectType: 'container', subjectId: id };
      await record({ projectId, verb: 'removed for good', ...subject, before: { code }, teamId });
      gone++;
    });
  return gone;
}
