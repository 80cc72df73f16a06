/** Line-ups: choices of models, versions and storeys that somebody keeps, for themselves or for everyone. */
import type { LineUp, saveLineUp as operation } from '@kindred/contract/federation/federations';
import type { Body } from '@kindred/contract/platform/operation';
import type { ShownPart } from '@kindred/core/federation/shown-part';
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { entries } from '../register/schema.ts';
import { visibleEntries, visibleVersions } from '../register/versions.ts';
import { visibleTo } from '../register/visibility.ts';
import { lineUps } from './schema.ts';

type Row = typeof lineUps.$inferSelect;

export async function listLineUps({ db }: Platform, actor: Member): Promise<LineUp[]> {
  const rows = await db
    .select({ row: lineUps, owner: users.name })
    .from(lineUps)
    .innerJoin(users, eq(users.id, lineUps.ownerId))
    .where(and(eq(lineUps.projectId, actor.projectId), or(eq(lineUps.shared, true), eq(lineUps.ownerId, actor.id))))
    .orderBy(asc(lineUps.name), asc(lineUps.id));
  return toLineUps(db, actor, rows);
}

/** Of a line-up whoever asks gets the models that they see; without any of them it is not there. */
async function toLineUps(db: Db, actor: Member, rows: readonly { row: Row; owner: string }[]): Promise<LineUp[]> {
  const models = rows.flatMap(({ row }) => row.models);
  const current = await db
    .select({ containerId: entries.containerId, versionId: entries.versionId })
    .from(entries)
    .where(
      and(
        visibleTo(actor),
        inArray(
          entries.containerId,
          models.map(({ containerId }) => containerId),
        ),
      ),
    );
  const newest = new Map(current.map(({ containerId, versionId }) => [containerId, versionId]));
  const held = await visibleVersions(
    db,
    actor,
    models.flatMap(({ versionId }) => versionId ?? []),
  );
  const seen = new Set(held.map(({ id }) => id));
  return rows.flatMap(({ row, owner }) => {
    const { id, name, shared, levels, hidden, ownerId } = row;
    const own = row.models.filter(({ containerId }) => newest.has(containerId));
    const versionIds = own.map(({ containerId, versionId }) =>
      versionId && seen.has(versionId) ? versionId : newest.get(containerId)!,
    );
    if (!own.length && ownerId !== actor.id) return [];
    return [{ id, name, shared, models: own, levels, hidden, versionIds, owner, mine: ownerId === actor.id }];
  });
}

/** What a line-up for everyone shows of a model; undefined where there is no such line-up. */
export async function shownBy(
  db: Db,
  projectId: string,
  lineUpId: string,
): Promise<((containerId: string) => ShownPart) | undefined> {
  const [row] = await db
    .select()
    .from(lineUps)
    .where(and(eq(lineUps.projectId, projectId), eq(lineUps.id, lineUpId), eq(lineUps.shared, true)));
  if (!row) return undefined;
  const within = new Set(row.models.map(({ containerId }) => containerId));
  const levels = row.levels.length ? row.levels.map(({ elevation }) => elevation) : null;
  return (containerId) =>
    within.has(containerId)
      ? { isLeftOut: false, levels, hidden: row.hidden }
      : { isLeftOut: true, levels: null, hidden: [] };
}

export const saveLineUp = (platform: Platform, actor: Member, content: Body<typeof operation>): Promise<LineUp> =>
  change(platform, actor, async ({ db, record }) => {
    const { projectId } = actor;
    await visibleEntries(
      db,
      actor,
      content.models.map(({ containerId }) => containerId),
    );
    const values = { ...content, projectId, ownerId: actor.id };
    const [row] = await db
      .insert(lineUps)
      .values(values)
      .onConflictDoUpdate({ target: [lineUps.projectId, lineUps.ownerId, lineUps.name], set: values })
      .returning();
    if (content.shared)
      await record({
        ...{ projectId, verb: 'shared', subjectType: 'line-up', subjectId: row!.id },
        after: { name: content.name },
      });
    return (await toLineUps(db, actor, [{ row: row!, owner: actor.name }]))[0]!;
  });

export const removeLineUp = (platform: Platform, actor: Member, id: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const { projectId } = actor;
    const row = requireRow(
      await db
        .select()
        .from(lineUps)
        .where(
          and(
            eq(lineUps.projectId, projectId),
            eq(lineUps.id, id),
            or(eq(lineUps.shared, true), eq(lineUps.ownerId, actor.id)),
          ),
        ),
      'line-up',
    );
    if (row.ownerId !== actor.id && !actor.standing.administrator)
      throw notAllowed('This line-up is somebody else’s: its owner or an administrator can remove it.');
    await db.delete(lineUps).where(eq(lineUps.id, id));
    if (row.shared)
      await record({
        ...{ projectId, verb: 'removed', subjectType: 'line-up', subjectId: id },
        before: { name: row.name },
      });
  });
