import { CodedError } from '@kindred/core/platform/coded-error';
import { cleanPng } from '@kindred/core/platform/png';
import { readElementProperties } from '@kindred/core/scene/property-file';
import type { SceneCamera, Viewpoint, ViewpointState } from '@kindred/contract/scene/scene';
import { fileError } from '@kindred/words/files';
import { and, eq, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, notFound, refused, unlessMissing } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { allVisible, productOf, visibleVersion } from '../register/versions.ts';
import { viewpoints } from './schema.ts';
import { viewpointVisibleTo } from './visibility.ts';

type Row = typeof viewpoints.$inferSelect;

type Head = Pick<Row, 'id' | 'name' | 'versionIds' | 'authorId' | 'createdAt'>;

/** Each with what `more` says of it. */
async function toViewpoints<R extends Head, T>(db: Db, rows: readonly R[], more: (row: R) => T) {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map((row) => {
    const { id, name, versionIds, authorId, createdAt } = row;
    return { id, name, versionIds, author: persons.get(authorId)!, createdAt: createdAt.toISOString(), ...more(row) };
  });
}
const withState = ({ state }: Row) => ({ state });

/** What lists show: the state may name a hundred thousand elements. */
const HEAD = {
  id: viewpoints.id,
  name: viewpoints.name,
  versionIds: viewpoints.versionIds,
  authorId: viewpoints.authorId,
  createdAt: viewpoints.createdAt,
  camera: sql<SceneCamera>`${viewpoints.state} -> 'camera'`,
};

export async function listViewpoints({ db }: Platform, actor: Member, asked: PageAsked) {
  const { where, orderBy, limit } = pageOf(viewpoints.createdAt, viewpoints.id, true, asked);
  const rows = await db
    .select(HEAD)
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, actor.projectId), viewpointVisibleTo(actor), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.createdAt, row.id]);
  return { items: await toViewpoints(db, items, ({ camera }) => ({ camera })), next };
}

export async function addViewpoint(
  platform: Platform,
  actor: Member,
  wanted: { name: string; state: ViewpointState; versionIds: string[]; picture: string },
): Promise<Viewpoint> {
  const { projectId } = actor;
  const { name, state, picture } = wanted;
  const { sha256 } = await platform.store.putBytes(pictureFrom(picture));
  return change(platform, actor, async ({ db, record }) => {
    const versionIds = [...new Set(wanted.versionIds)];
    await allVisible(db, actor, versionIds);
    const [row] = await db
      .insert(viewpoints)
      .values({ projectId, name, state, versionIds, pictureSha256: sha256, authorId: actor.id, createdAt: now() })
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
  });
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
  const sha256 = await productOf(db, version.id, 'properties');
  return readElementProperties((offset, length) => store.readBytes(sha256, offset, length), row).catch(
    (error: unknown) => {
      if (error instanceof RangeError) throw notFound('element');
      throw error;
    },
  );
}
