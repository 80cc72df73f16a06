/** What others see of a delivery: named choices of sheets and viewpoints, used again and again. */
import type { ShareSet } from '@kindred/contract/register/share-sets';
import { and, asc, eq, inArray, isNotNull, sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { SHARE_COPY } from './jobs.ts';
import { requireTeam } from '../people/service.ts';
import { refreshEntries } from './entries.ts';
import { lockContainers } from './versions.ts';
import { products, shareSets, versions } from './schema.ts';
import { manages } from './visibility.ts';

type Row = typeof shareSets.$inferSelect;
const toShareSet = ({ projectId, ...row }: Row): ShareSet => {
  void projectId;
  return row;
};

/** Those of the actor's team; all of them for whoever manages the register. */
const mine = (actor: Member) =>
  and(
    eq(shareSets.projectId, actor.projectId),
    manages(actor) ? undefined : eq(shareSets.teamId, actor.teamId ?? '00000000-0000-0000-0000-000000000000'),
  );

export async function listShareSets(db: Db, actor: Member): Promise<ShareSet[]> {
  return (await db.select().from(shareSets).where(mine(actor)).orderBy(asc(shareSets.name))).map(toShareSet);
}

export async function requireShareSet(db: Db, actor: Member, shareSetId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(shareSets)
      .where(and(mine(actor), eq(shareSets.id, shareSetId))),
    'share set',
  );
}

/**
 * Has the copies for others of these versions made anew, and what the register tells others of them; until they are made
 * others get none, for the old ones may show too much.
 */
export async function renewShareCopies({ db, enqueue }: Change, which: SQL | undefined): Promise<void> {
  const shared = await db
    .select({ id: versions.id, containerId: versions.containerId })
    .from(versions)
    .where(and(which, isNotNull(versions.shareSetId), eq(versions.kind, 'drawing')));
  if (!shared.length) return;
  const ids = shared.map(({ id }) => id);
  await db
    .delete(products)
    .where(and(inArray(products.versionId, ids), inArray(products.product, ['shared', 'shared-thumbnail'])));
  for (const versionId of ids) await enqueue(SHARE_COPY, { versionId });
  const containerIds = [...new Set(shared.map(({ containerId }) => containerId))];
  await lockContainers(db, containerIds);
  await refreshEntries(db, containerIds);
}

type Wanted = Pick<Row, 'name' | 'sheetNumbers' | 'viewpointIds'>;

export async function addShareSet(platform: Platform, actor: Member, wanted: Wanted & { teamId: string }) {
  if (!manages(actor) && wanted.teamId !== actor.teamId)
    throw refused('other-team', 'A share set belongs to your own team. Nothing was saved.');
  return named(wanted.name, () =>
    change(platform, actor, async ({ db, record }) => {
      await requireTeam(db, actor.projectId, wanted.teamId);
      const [row] = await db
        .insert(shareSets)
        .values({ ...wanted, projectId: actor.projectId })
        .returning();
      await record({ ...event(actor, row!, 'added'), after: wanted });
      return toShareSet(row!);
    }),
  );
}

export async function changeShareSet(
  platform: Platform,
  actor: Member,
  shareSetId: string,
  { edition, ...wanted }: Wanted & { edition: number },
) {
  return named(wanted.name, () =>
    change(platform, actor, async (unit) => {
      const { db, record } = unit;
      const before = await requireShareSet(db, actor, shareSetId);
      const [row] = await db
        .update(shareSets)
        .set({ ...wanted, edition: edition + 1 })
        .where(and(eq(shareSets.id, shareSetId), eq(shareSets.edition, edition)))
        .returning();
      if (!row) throw conflict('Someone else changed this share set meanwhile. Reload to see theirs, then save again.');
      await renewShareCopies(unit, eq(versions.shareSetId, shareSetId));
      await record({ ...event(actor, row, 'changed'), before: toShareSet(before), after: wanted });
      return toShareSet(row);
    }),
  );
}

export async function removeShareSet(platform: Platform, actor: Member, shareSetId: string): Promise<void> {
  await change(platform, actor, async ({ db, record }) => {
    const row = await requireShareSet(db, actor, shareSetId);
    const [{ used }] = (await db
      .select({ used: sql<number>`count(*)::int` })
      .from(versions)
      .where(eq(versions.shareSetId, shareSetId))) as [{ used: number }];
    if (used)
      throw refused(
        'share-set-used',
        `${used} ${used === 1 ? 'version is' : 'versions are'} shared with “${row.name}”; without it others would see all of them. Nothing was removed.`,
      );
    await db.delete(shareSets).where(eq(shareSets.id, shareSetId));
    await record({ ...event(actor, row, 'removed'), before: toShareSet(row) });
  });
}

const event = (actor: Member, row: Row, verb: string) => ({
  projectId: actor.projectId,
  verb,
  subjectType: 'share set',
  subjectId: row.id,
  teamId: row.teamId,
});

async function named<T>(name: string, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused('name-taken', `Your team has a share set named “${name}” already. Nothing was saved.`);
    throw error;
  }
}
