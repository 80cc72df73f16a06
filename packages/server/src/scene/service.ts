import { readElementProperties } from '@kindred/core/scene/property-file';
import type { Viewpoint, ViewpointState } from '@kindred/contract/scene/scene';
import { and, arrayOverlaps, desc, eq } from 'drizzle-orm';
import sharp from 'sharp';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { found, notFound, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { allVisible, productOf, visibleVersion, visibleVersions } from '../register/lineage.ts';
import { viewpointsOfShareSets } from '../register/share-sets.ts';
import { isOwnTeam } from '../register/visibility.ts';
import { viewpoints } from './schema.ts';

type Row = typeof viewpoints.$inferSelect;

async function views(db: Db, rows: Row[]): Promise<Viewpoint[]> {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map(({ id, name, state, versionIds, authorId, createdAt }) => ({
    id,
    name,
    state,
    versionIds,
    author: persons.get(authorId)!,
    createdAt: createdAt.toISOString(),
  }));
}

/**
 * A viewpoint shows what is in its models: without all of them it does not exist for the actor. Of models that were shared with a
 * share set, others see the viewpoints that it chooses, and their own.
 */
async function visibleRows(db: Db, actor: Member, rows: Row[]): Promise<Row[]> {
  const versions = await visibleVersions(
    db,
    actor,
    rows.flatMap(({ versionIds }) => versionIds),
  );
  const visible = new Map(versions.map((version) => [version.id, version]));
  const narrowed = versions.filter(
    ({ shareSetId, container }) => shareSetId !== null && !isOwnTeam(actor, container.teamId),
  );
  const chosen = await viewpointsOfShareSets(db, new Set(narrowed.map(({ shareSetId }) => shareSetId!)));
  const others = new Set(narrowed.map(({ id }) => id));
  return rows.filter(
    ({ id, authorId, versionIds }) =>
      versionIds.every((versionId) => visible.has(versionId)) &&
      (authorId === actor.id ||
        versionIds.every(
          (versionId) => !others.has(versionId) || chosen.get(visible.get(versionId)!.shareSetId!)?.has(id),
        )),
  );
}

export async function listViewpoints({ db }: Platform, actor: Member): Promise<Viewpoint[]> {
  const rows = await db
    .select()
    .from(viewpoints)
    .where(eq(viewpoints.projectId, actor.projectId))
    .orderBy(desc(viewpoints.createdAt))
    .limit(200);
  return views(db, await visibleRows(db, actor, rows));
}

export async function addViewpoint(
  platform: Platform,
  actor: Member,
  wanted: { name: string; state: ViewpointState; versionIds: string[]; picture: string },
): Promise<Viewpoint> {
  const { projectId } = actor;
  const { name, state, picture } = wanted;
  const png = await sharp(Buffer.from(picture.slice(picture.indexOf(',') + 1), 'base64'))
    .png()
    .toBuffer()
    .catch(() => {
      throw refused(
        'no-picture',
        'The picture of the viewpoint is not a PNG that can be read. The viewpoint was not saved.',
      );
    });
  const { sha256 } = await platform.store.putBytes(png);
  return change(platform, actor.id, async ({ db, record }) => {
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
    return (await views(db, [row!]))[0]!;
  });
}

async function visibleViewpoint(db: Db, actor: Member, viewpointId: string): Promise<Row> {
  const rows = await db
    .select()
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, actor.projectId), eq(viewpoints.id, viewpointId)));
  return found(await visibleRows(db, actor, rows), 'viewpoint');
}

export async function showViewpoint({ db }: Platform, actor: Member, viewpointId: string): Promise<Viewpoint> {
  return (await views(db, [await visibleViewpoint(db, actor, viewpointId)]))[0]!;
}

/** The viewpoint, or null where the actor may not see all of its models. */
export async function viewpointIfVisible(
  platform: Platform,
  actor: Member,
  viewpointId: string | null,
): Promise<Viewpoint | null> {
  if (!viewpointId) return null;
  return showViewpoint(platform, actor, viewpointId).catch((error: { status?: number }) => {
    if (error.status === 404) return null;
    throw error;
  });
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

/** Viewpoints in which any of these versions takes part. */
export async function viewpointsOf(db: Db, actor: Member, versionIds: string[]): Promise<Row[]> {
  if (!versionIds.length) return [];
  const rows = await db
    .select()
    .from(viewpoints)
    .where(and(eq(viewpoints.projectId, actor.projectId), arrayOverlaps(viewpoints.versionIds, versionIds)));
  return visibleRows(db, actor, rows);
}
