/** Saved views of lists. */
import type { SavedView, SavedViewDefinition, ViewedList } from '@kindred/contract/register/views';
import { and, asc, eq, or, sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { savedViews, viewBells } from './schema.ts';

type Row = typeof savedViews.$inferSelect;

const offeredTo = (actor: Member) =>
  and(eq(savedViews.projectId, actor.projectId), or(eq(savedViews.forAll, true), eq(savedViews.ownerId, actor.id)));

async function listed(db: Db, actor: Member, which: ReturnType<typeof and>): Promise<SavedView[]> {
  const rows = await db
    .select({
      row: savedViews,
      owner: users.name,
      bell: sql<boolean>`exists (select 1 from ${viewBells} where ${viewBells.viewId} = ${savedViews.id} and ${viewBells.userId} = ${actor.id})`,
    })
    .from(savedViews)
    .innerJoin(users, eq(users.id, savedViews.ownerId))
    .where(and(offeredTo(actor), which))
    .orderBy(asc(savedViews.name));
  return rows.map(({ row: { id, name, forAll, ownerId, definition, edition }, owner, bell }) => ({
    ...{ id, name, forAll, owner, mine: ownerId === actor.id, bell, definition, edition },
  }));
}

export const listSavedViews = (db: Db, actor: Member, list: ViewedList): Promise<SavedView[]> =>
  listed(db, actor, eq(savedViews.list, list));
const shown = async (db: Db, actor: Member, viewId: string): Promise<SavedView> =>
  requireRow(await listed(db, actor, eq(savedViews.id, viewId)), 'view');

interface Wanted {
  name: string;
  forAll: boolean;
  definition: SavedViewDefinition;
}

export async function addSavedView(
  platform: Platform,
  actor: Member,
  wanted: Wanted & { list: ViewedList },
): Promise<SavedView> {
  return named(wanted.name, () =>
    change(platform, actor, async ({ db, record }) => {
      const [row] = await db
        .insert(savedViews)
        .values({ ...wanted, projectId: actor.projectId, ownerId: actor.id })
        .returning();
      await record(event(actor, row!, 'saved'));
      return shown(db, actor, row!.id);
    }),
  );
}

export async function changeSavedView(
  platform: Platform,
  actor: Member,
  viewId: string,
  { edition, ...wanted }: Wanted & { edition: number },
): Promise<SavedView> {
  return named(wanted.name, () =>
    change(platform, actor, async ({ db, record }) => {
      await ownView(db, actor, viewId);
      const [row] = await db
        .update(savedViews)
        .set({ ...wanted, edition: edition + 1 })
        .where(and(eq(savedViews.id, viewId), eq(savedViews.edition, edition)))
        .returning();
      if (!row)
        throw conflict('This view was changed meanwhile, in another window. Reload to see it, then save again.');
      await record(event(actor, row, 'changed'));
      return shown(db, actor, viewId);
    }),
  );
}

export async function removeSavedView(platform: Platform, actor: Member, viewId: string): Promise<void> {
  await change(platform, actor, async ({ db, record }) => {
    const row = await ownView(db, actor, viewId);
    await db.delete(savedViews).where(eq(savedViews.id, viewId));
    await record(event(actor, row, 'removed'));
  });
}

export async function ringSavedView(platform: Platform, actor: Member, viewId: string, on: boolean): Promise<void> {
  const { db } = platform;
  await shown(db, actor, viewId);
  if (on) await db.insert(viewBells).values({ viewId, userId: actor.id }).onConflictDoNothing();
  else await db.delete(viewBells).where(and(eq(viewBells.viewId, viewId), eq(viewBells.userId, actor.id)));
}

async function ownView(db: Db, actor: Member, viewId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(savedViews)
      .where(
        and(eq(savedViews.projectId, actor.projectId), eq(savedViews.ownerId, actor.id), eq(savedViews.id, viewId)),
      ),
    'view',
  );
}

/** Views that are not offered to all concern their owner alone. */
const event = (actor: Member, { id, name, forAll }: Row, verb: string) => ({
  projectId: actor.projectId,
  verb,
  subjectType: 'saved view',
  subjectId: id,
  after: { name },
  ...(!forAll && { personIds: [actor.id] }),
});

async function named<T>(name: string, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused('name-taken', `You have a view named “${name}” already. Nothing was saved.`);
    throw error;
  }
}
