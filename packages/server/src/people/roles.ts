import { tidyGrid } from '@kindred/core/people/roles';
import type { Grid } from '@kindred/core/people/rights';
import type { Role } from '@kindred/contract/people/people';
import { eq, inArray, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { isStillReferred, isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { requireNotOwnRoles, requireWithin } from './giving.ts';
import { memberRoles, roles } from './schema.ts';

export interface RoleChanges {
  change: { id: string; edition: number; name: string; grid: Grid }[];
  add: { name: string; grid: Grid }[];
  remove: { id: string; edition: number }[];
}

/** All changes or none: two people who edit roles at once never leave a mixture. */
export async function changeRoles(platform: Platform, actor: Member, wanted: RoleChanges): Promise<Role[]> {
  const { projectId } = actor;
  try {
    return await change(platform, actor, async ({ db, record }) => {
      const rows = await db.select().from(roles).where(eq(roles.projectId, projectId)).for('update');
      const byId = new Map(rows.map((row) => [row.id, row]));
      for (const { id, edition } of [...wanted.change, ...wanted.remove]) {
        const row = byId.get(id);
        if (!row) throw conflict('One of these roles was removed by someone else meanwhile. Nothing was changed.');
        if (row.edition !== edition)
          throw conflict(
            `Someone else changed the role “${row.name}” meanwhile. Your changes are still in the grid; look at theirs, then save again. Nothing was changed.`,
          );
      }
      const touched = [...wanted.change, ...wanted.remove].map(({ id }) => byId.get(id)!);
      await requireNotOwnRoles(
        db,
        actor,
        touched.map(({ id }) => id),
      );
      requireWithin(actor, [...touched, ...wanted.change, ...wanted.add]);
      await remove(db, wanted.remove, (id) => byId.get(id)!.name);
      for (const { id, edition, name, grid } of wanted.change) {
        const before = byId.get(id)!;
        await db
          .update(roles)
          .set({ name: name.trim(), grid: tidyGrid(grid), edition: edition + 1 })
          .where(eq(roles.id, id));
        await record({
          projectId,
          verb: 'changed',
          subjectType: 'role',
          subjectId: id,
          before: { name: before.name, grid: before.grid },
          after: { name, grid: tidyGrid(grid) },
        });
      }
      for (const { name, grid } of wanted.add) {
        const [row] = await db
          .insert(roles)
          .values({ projectId, name: name.trim(), grid: tidyGrid(grid) })
          .returning();
        await record({
          projectId,
          verb: 'added',
          subjectType: 'role',
          subjectId: row!.id,
          after: { name, grid: tidyGrid(grid) },
        });
      }
      for (const { id } of wanted.remove)
        await record({
          projectId,
          verb: 'removed',
          subjectType: 'role',
          subjectId: id,
          before: { name: byId.get(id)!.name },
        });
      const after = await db.select().from(roles).where(eq(roles.projectId, projectId)).orderBy(roles.name);
      if (!after.length) throw refused('no-role', 'A project needs at least one role. Nothing was changed.');
      return after.map(({ id, name, grid, edition }) => ({ id, name, grid: tidyGrid(grid), edition }));
    });
  } catch (error) {
    if (isUniqueViolation(error)) throw refused('role-exists', 'Two roles would have one name. Nothing was changed.');
    throw error;
  }
}

async function remove(db: Db, wanted: { id: string }[], nameOf: (id: string) => string): Promise<void> {
  if (!wanted.length) return;
  const ids = wanted.map(({ id }) => id);
  const [held] = await db
    .select({ roleId: memberRoles.roleId, n: sql<number>`count(*)::int` })
    .from(memberRoles)
    .where(inArray(memberRoles.roleId, ids))
    .groupBy(memberRoles.roleId);
  if (held)
    throw refused(
      'role-held',
      `${held.n} people have the role “${nameOf(held.roleId)}”. Give them another one first. Nothing was changed.`,
    );
  await db
    .delete(roles)
    .where(inArray(roles.id, ids))
    .catch((error: unknown) => {
      if (!isStillReferred(error)) throw error;
      throw refused(
        'role-asked',
        'An issue or a review route asks one of these roles. Let it ask somebody else first. Nothing was changed.',
      );
    });
}
