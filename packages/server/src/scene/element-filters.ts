/** Filters of elements that a project shares. */
import type { SharedFilter } from '@kindred/contract/scene/element-filters';
import { and, eq } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { elementFilters } from './schema.ts';

type Row = typeof elementFilters.$inferSelect;
const toFilter = (actor: Member, { id, name, filter, ownerId }: Row, owner: string): SharedFilter => ({
  ...{ id, name, filter, owner },
  mine: ownerId === actor.id,
});

export async function listElementFilters(db: Db, actor: Member): Promise<SharedFilter[]> {
  const rows = await db
    .select({ row: elementFilters, owner: users.name })
    .from(elementFilters)
    .innerJoin(users, eq(users.id, elementFilters.ownerId))
    .where(eq(elementFilters.projectId, actor.projectId))
    .orderBy(elementFilters.name, elementFilters.id);
  return rows.map(({ row, owner }) => toFilter(actor, row, owner));
}

const eventOf = (actor: Member, verb: string, { id, name }: Row) => ({
  ...{ projectId: actor.projectId, verb, subjectType: 'element filter', subjectId: id },
  after: { name },
});

export const shareElementFilter = (
  platform: Platform,
  actor: Member,
  wanted: Pick<SharedFilter, 'name' | 'filter'>,
): Promise<SharedFilter> =>
  change(platform, actor, async ({ db, record }) => {
    const [row] = await db
      .insert(elementFilters)
      .values({ ...wanted, projectId: actor.projectId, ownerId: actor.id })
      .onConflictDoUpdate({
        target: [elementFilters.projectId, elementFilters.ownerId, elementFilters.name],
        set: wanted,
      })
      .returning();
    await record(eventOf(actor, 'shared', row!));
    return toFilter(actor, row!, actor.name);
  });

export const removeElementFilter = (platform: Platform, actor: Member, filterId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const isIt = and(eq(elementFilters.projectId, actor.projectId), eq(elementFilters.id, filterId));
    const row = requireRow(await db.select().from(elementFilters).where(isIt), 'filter');
    if (row.ownerId !== actor.id && !actor.standing.administrator)
      throw notAllowed(
        'This filter is somebody else’s: its author or an administrator can remove it. Nothing was removed.',
      );
    await db.delete(elementFilters).where(isIt);
    await record(eventOf(actor, 'removed', row));
  });
