/** The catalogue of ready stamps of a project. */
import type { addStamp as addOperation, changeStamp as changeOperation, Stamp } from '@kindred/contract/markup/stamps';
import type { Body } from '@kindred/contract/platform/operation';
import { and, asc, eq, ne, sql } from 'drizzle-orm';
import { memberRoles } from '../people/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { pictureOf } from './pictures.ts';
import { stamps } from './schema.ts';

type Row = typeof stamps.$inferSelect;

async function rolesOf(db: Db, { memberId }: Member): Promise<Set<string>> {
  const rows = await db.select({ id: memberRoles.roleId }).from(memberRoles).where(eq(memberRoles.memberId, memberId));
  return new Set(rows.map(({ id }) => id));
}
const mayPlace = (actor: Member, own: ReadonlySet<string>, { roleIds }: Row): boolean =>
  actor.standing.administrator || !roleIds.length || roleIds.some((id) => own.has(id));

const toStamp = ({ projectId, pictureSha256, createdAt, ...row }: Row, mine: boolean): Stamp => {
  void [projectId, createdAt];
  return { ...row, picture: pictureSha256 !== null, mine };
};

export async function listStamps({ db }: Platform, actor: Member): Promise<Stamp[]> {
  const rows = await db.select().from(stamps).where(eq(stamps.projectId, actor.projectId)).orderBy(asc(stamps.name));
  const own = await rolesOf(db, actor);
  return rows.map((row) => toStamp(row, mayPlace(actor, own, row)));
}

/** Whoever places a stamp has one of its roles. */
export async function requireStamp(db: Db, actor: Member, stampId: string): Promise<Row> {
  const row = await stampRow(db, actor, stampId);
  if (!mayPlace(actor, await rolesOf(db, actor), row))
    throw notAllowed(`“${row.name}” is placed by others: your roles are not among its own. Nothing was changed.`);
  return row;
}

const stampRow = async (db: Db, actor: Member, stampId: string): Promise<Row> =>
  requireRow(
    await db
      .select()
      .from(stamps)
      .where(and(eq(stamps.projectId, actor.projectId), eq(stamps.id, stampId))),
    'stamp',
  );

async function requireName(db: Db, actor: Member, name: string, except?: string): Promise<void> {
  const [twin] = await db
    .select({ id: stamps.id })
    .from(stamps)
    .where(
      and(
        ...[eq(stamps.projectId, actor.projectId), sql`lower(${stamps.name}) = lower(${name})`],
        except ? ne(stamps.id, except) : undefined,
      ),
    );
  if (twin)
    throw refused('name-taken', `There is a stamp “${name}” already. Choose another name; nothing was changed.`);
}

const recorded = ({ record }: Change, actor: Member, verb: string, row: Row): Promise<void> =>
  record({
    projectId: actor.projectId,
    verb,
    subjectType: 'stamp',
    subjectId: row.id,
    after: { name: row.name, text: row.text },
  });

export async function addStamp(
  platform: Platform,
  actor: Member,
  { uploadId, ...wanted }: Body<typeof addOperation>,
): Promise<Stamp> {
  if (!uploadId && !wanted.text.trim())
    throw refused('empty-stamp', 'A stamp needs words or a picture. Nothing was changed.');
  const pictureSha256 = await pictureOf(platform, actor, { uploadId });
  return change(platform, actor, async (unit) => {
    await requireName(unit.db, actor, wanted.name);
    const [row] = await unit.db
      .insert(stamps)
      .values({ ...wanted, pictureSha256, projectId: actor.projectId, createdAt: now() })
      .returning();
    await recorded(unit, actor, 'stamp added', row!);
    return toStamp(row!, mayPlace(actor, await rolesOf(unit.db, actor), row!));
  });
}

export const changeStamp = (
  platform: Platform,
  actor: Member,
  stampId: string,
  { edition, ...wanted }: Body<typeof changeOperation>,
): Promise<Stamp> =>
  change(platform, actor, async (unit) => {
    await stampRow(unit.db, actor, stampId);
    if (wanted.name) await requireName(unit.db, actor, wanted.name, stampId);
    const [row] = await unit.db
      .update(stamps)
      .set({ ...wanted, edition: edition + 1 })
      .where(and(eq(stamps.id, stampId), eq(stamps.edition, edition)))
      .returning();
    if (!row) throw conflict('Someone else changed this stamp meanwhile. Reload to see it, then change it again.');
    await recorded(unit, actor, 'stamp changed', row);
    return toStamp(row, mayPlace(actor, await rolesOf(unit.db, actor), row));
  });

export const removeStamp = (platform: Platform, actor: Member, stampId: string): Promise<void> =>
  change(platform, actor, async (unit) => {
    const row = await stampRow(unit.db, actor, stampId);
    await unit.db.delete(stamps).where(eq(stamps.id, stampId));
    await recorded(unit, actor, 'stamp removed', row);
  });
