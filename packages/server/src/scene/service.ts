import { CodedError } from '@kindred/core/platform/coded-error';
import { cleanPng } from '@kindred/core/platform/png';
import { readElementProperties } from '@kindred/core/scene/property-file';
import type { SceneCamera, Viewpoint, ViewpointToAdd } from '@kindred/contract/scene/scene';
import { fileError } from '@kindred/words/files';
import { and, eq, inArray, ne, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { isStillReferred, type Db } from '../platform/database.ts';
import { requireRow, notAllowed, notFound, refused, unlessMissing } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import { lockViewpoints } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { allVisible, productOf, visibleVersion } from '../register/versions.ts';
import { viewpoints } from './schema.ts';
import { viewpointVisibleTo } from './visibility.ts';

type Row = typeof viewpoints.$inferSelect;

type Head = Pick<Row, 'id' | 'name' | 'folder' | 'versionIds' | 'authorId' | 'createdAt'>;

/** Each with what `more` says of it. */
async function toViewpoints<R extends Head, T>(db: Db, rows: readonly R[], more: (row: R) => T) {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map((row) => {
    const { id, name, folder, versionIds, authorId, createdAt } = row;
    return {
      id,
      name,
      folder,
      versionIds,
      author: persons.get(authorId)!,
      createdAt: createdAt.toISOString(),
      ...more(row),
    };
  });
}
const withState = ({ state }: Row) => ({ state });

/** What lists show: the state may name a hundred thousand elements. */
const HEAD = {
  id: viewpoints.id,
  name: viewpoints.name,
  folder: viewpoints.folder,
  position: viewpoints.position,
  versionIds: viewpoints.versionIds,
  authorId: viewpoints.authorId,
  createdAt: viewpoints.createdAt,
  camera: sql<SceneCamera>`${viewpoints.state} -> 'camera'`,
};

export async function listViewpoints(
  { db }: Platform,
  actor: Member,
  { folder, ...asked }: PageAsked & { folder?: string },
) {
  const inFolder = folder !== undefined;
  const column = inFolder ? viewpoints.position : viewpoints.createdAt;
  const { where, orderBy, limit } = pageOf(column, viewpoints.id, !inFolder, asked);
  const rows = await db
    .select(HEAD)
    .from(viewpoints)
    .where(
      and(
        eq(viewpoints.projectId, actor.projectId),
        inFolder ? eq(viewpoints.folder, folder) : undefined,
        viewpointVisibleTo(actor),
        where,
      ),
    )
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [inFolder ? row.position : row.createdAt, row.id]);
  return { items: await toViewpoints(db, items, ({ camera }) => ({ camera })), next };
}

export async function addViewpoint(platform: Platform, actor: Member, wanted: ViewpointToAdd): Promise<Viewpoint> {
  const pictureSha256 = await keepViewpointPicture(platform, wanted.picture);
  return change(platform, actor, (unit) => addViewpointWith(unit, actor, wanted, pictureSha256));
}

/** Keeps the picture of a viewpoint that is about to be added. */
export async function keepViewpointPicture({ store }: Platform, picture: string): Promise<string> {
  return (await store.putBytes(pictureFrom(picture))).sha256;
}

/** Within a change: a viewpoint whose picture is kept already. */
export async function addViewpointWith(
  { db, record }: Change,
  actor: Member,
  wanted: Omit<ViewpointToAdd, 'picture'>,
  pictureSha256: string,
): Promise<Viewpoint> {
  const { projectId } = actor;
  const { name, state, folder = '' } = wanted;
  const versionIds = [...new Set(wanted.versionIds)];
  await allVisible(db, actor, versionIds);
  const position = (await orderIn(db, projectId, folder)).length;
  const [row] = await db
    .insert(viewpoints)
    .values({
      ...{ projectId, name, folder, position, state, versionIds },
      ...{ pictureSha256, authorId: actor.id, createdAt: now() },
    })
    .returning();
  await record({
    projectId,
    verb: 'saved',
    subjectType: 'viewpoint',
    subjectId: row!.id,
    after: { name },
    teamId: actor.teamId,
  });
  return (await toViewpoints(db, [row!], withState))[0]!;
}

const MOST_PIXELS = 4096 * 4096;

/** The bytes of a data URL, checked without decoding them here: a small file can hold a picture that stops everybody. */
function pictureFrom(dataUrl: string): Uint8Array {
  try {
    return cleanPng(Buffer.from(dataUrl.slice(dataUrl.indexOf(',') + 1), 'base64'), MOST_PIXELS);
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    throw refused(error.code, `${fileError(error)} The viewpoint was not saved.`);
  }
}

/** The ids in a folder in their order; holds it until the transaction ends. */
async function orderIn(db: Db, projectId: string, folder: string): Promise<string[]> {
  await lockViewpoints(db, projectId);
  const rows = await db
    .select({ id: viewpoints.id })
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, projectId), eq(viewpoints.folder, folder)))
    .orderBy(viewpoints.position, viewpoints.createdAt, viewpoints.id);
  return rows.map(({ id }) => id);
}

export async function listViewpointFolders({ db }: Platform, actor: Member) {
  return db
    .select({ name: viewpoints.folder, viewpoints: sql<number>`count(*)::int` })
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, actor.projectId), ne(viewpoints.folder, ''), viewpointVisibleTo(actor)))
    .groupBy(viewpoints.folder)
    .orderBy(viewpoints.folder);
}

export const arrangeViewpoints = (
  platform: Platform,
  actor: Member,
  { viewpointIds, folder, before }: { viewpointIds: string[]; folder: string; before?: string | null },
): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const { projectId } = actor;
    const order = (await orderIn(db, projectId, folder)).filter((id) => !viewpointIds.includes(id));
    const moved = await db
      .select(HEAD)
      .from(viewpoints)
      .where(and(eq(viewpoints.projectId, projectId), inArray(viewpoints.id, viewpointIds), viewpointVisibleTo(actor)));
    if (moved.length < viewpointIds.length) throw notFound('viewpoint');
    const at = before ? order.indexOf(before) : order.length;
    if (at < 0)
      throw refused('not-in-folder', 'The viewpoint to stand before is not in this folder. Nothing was moved.');
    order.splice(at, 0, ...viewpointIds);
    await db.execute(sql`update viewpoints set folder = ${folder}, position = place.position
      from unnest(${sql.param(order)}::uuid[]) with ordinality as place(id, position) where viewpoints.id = place.id`);
    for (const { id, name } of moved)
      await record({
        ...{ projectId, verb: 'arranged', subjectType: 'viewpoint', subjectId: id },
        ...{ after: { name, folder }, teamId: actor.teamId },
      });
  });

export const renameViewpoint = (
  platform: Platform,
  actor: Member,
  viewpointId: string,
  name: string,
): Promise<Viewpoint> =>
  change(platform, actor, async ({ db, record }) => {
    const row = await visibleViewpoint(db, actor, viewpointId);
    await db.update(viewpoints).set({ name }).where(eq(viewpoints.id, viewpointId));
    await record({
      ...{ projectId: actor.projectId, verb: 'renamed', subjectType: 'viewpoint', subjectId: viewpointId },
      ...{ before: { name: row.name }, after: { name }, teamId: actor.teamId },
    });
    return (await toViewpoints(db, [{ ...row, name }], withState))[0]!;
  });

export const removeViewpoint = (platform: Platform, actor: Member, viewpointId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const { name, authorId } = await visibleViewpoint(db, actor, viewpointId);
    if (authorId !== actor.id && !actor.standing.administrator)
      throw notAllowed(
        'This viewpoint is somebody else’s: its author or an administrator can remove it. Nothing was removed.',
      );
    await db
      .delete(viewpoints)
      .where(eq(viewpoints.id, viewpointId))
      .catch((error: unknown) => {
        if (!isStillReferred(error)) throw error;
        throw refused('viewpoint-in-use', 'An issue leads to this viewpoint: it stays. Nothing was removed.');
      });
    await record({
      ...{ projectId: actor.projectId, verb: 'removed', subjectType: 'viewpoint', subjectId: viewpointId },
      ...{ before: { name }, teamId: actor.teamId },
    });
  });

async function visibleViewpoint(db: Db, actor: Member, viewpointId: string): Promise<Row> {
  const rows = await db
    .select()
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, actor.projectId), eq(viewpoints.id, viewpointId), viewpointVisibleTo(actor)));
  return requireRow(rows, 'viewpoint');
}

export async function showViewpoint({ db }: Platform, actor: Member, viewpointId: string): Promise<Viewpoint> {
  return (await toViewpoints(db, [await visibleViewpoint(db, actor, viewpointId)], withState))[0]!;
}

/** The viewpoint, or null where the actor may not see all of its models. */
export async function viewpointIfVisible(
  platform: Platform,
  actor: Member,
  viewpointId: string | null,
): Promise<Viewpoint | null> {
  if (!viewpointId) return null;
  return unlessMissing(showViewpoint(platform, actor, viewpointId), () => null);
}

export async function pictureOf({ db }: Platform, actor: Member, viewpointId: string): Promise<string> {
  return (await visibleViewpoint(db, actor, viewpointId)).pictureSha256;
}

export async function showElementProperties({ db, store }: Platform, actor: Member, versionId: string, row: number) {
  const version = await visibleVersion(db, actor, versionId);
  const { sha256 } = await productOf(db, version.id, 'properties');
  return readElementProperties((offset, length) => store.readBytes(sha256, offset, length), row).catch(
    (error: unknown) => {
      if (error instanceof RangeError) throw notFound('element');
      throw error;
    },
  );
}
