/** Saved views of the register. */
import type { RegisterView, RegisterViewDefinition } from '@kindred/contract/register/views';
import { and, asc, eq, or } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { registerViews } from './schema.ts';

type Row = typeof registerViews.$inferSelect;
const toRegisterView = (
  actor: Member,
  { id, name, forAll, ownerId, definition, edition }: Row,
  owner: string,
): RegisterView => ({
  id,
  name,
  forAll,
  owner,
  mine: ownerId === actor.id,
  definition,
  edition,
});

export async function listRegisterViews(db: Db, actor: Member): Promise<RegisterView[]> {
  const rows = await db
    .select({ row: registerViews, owner: users.name })
    .from(registerViews)
    .innerJoin(users, eq(users.id, registerViews.ownerId))
    .where(
      and(
        eq(registerViews.projectId, actor.projectId),
        or(eq(registerViews.forAll, true), eq(registerViews.ownerId, actor.id)),
      ),
    )
    .orderBy(asc(registerViews.name));
  return rows.map(({ row, owner }) => toRegisterView(actor, row, owner));
}

interface Wanted {
  name: string;
  forAll: boolean;
  definition: RegisterViewDefinition;
}

export async function addRegisterView(platform: Platform, actor: Member, wanted: Wanted): Promise<RegisterView> {
  return named(wanted.name, () =>
    change(platform, actor, async ({ db, record }) => {
      const [row] = await db
        .insert(registerViews)
        .values({ ...wanted, projectId: actor.projectId, ownerId: actor.id })
        .returning();
      await record(event(actor, row!, 'saved'));
      return toRegisterView(actor, row!, actor.name);
    }),
  );
}

export async function changeRegisterView(
  platform: Platform,
  actor: Member,
  viewId: string,
  { edition, ...wanted }: Wanted & { edition: number },
): Promise<RegisterView> {
  return named(wanted.name, () =>
    change(platform, actor, async ({ db, record }) => {
      await ownView(db, actor, viewId);
      const [row] = await db
        .update(registerViews)
        .set({ ...wanted, edition: edition + 1 })
        .where(and(eq(registerViews.id, viewId), eq(registerViews.edition, edition)))
        .returning();
      if (!row)
        throw conflict('This view was changed meanwhile, in another window. Reload to see it, then save again.');
      await record(event(actor, row, 'changed'));
      return toRegisterView(actor, row, actor.name);
    }),
  );
}

export async function removeRegisterView(platform: Platform, actor: Member, viewId: string): Promise<void> {
  await change(platform, actor, async ({ db, record }) => {
    const row = await ownView(db, actor, viewId);
    await db.delete(registerViews).where(eq(registerViews.id, viewId));
    await record(event(actor, row, 'removed'));
  });
}

async function ownView(db: Db, actor: Member, viewId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(registerViews)
      .where(
        and(
          eq(registerViews.projectId, actor.projectId),
          eq(registerViews.ownerId, actor.id),
          eq(registerViews.id, viewId),
        ),
      ),
    'view',
  );
}

/** Views that are not offered to all concern their owner alone. */
const event = (actor: Member, { id, name, forAll }: Row, verb: string) => ({
  projectId: actor.projectId,
  verb,
  subjectType: 'register view',
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
