/** Federations as people see them: whoever does not see a model does not see that it is there. */
import type {
  addFederation as addOperation,
  changeFederation as changeOperation,
  FederatedModel,
  Federation,
  FederationView,
} from '@kindred/contract/federation/federations';
import type { Body } from '@kindred/contract/platform/operation';
import type { Placing } from '@kindred/contract/scene/placings';
import { and, asc, desc, eq, inArray, isNull, ne, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notFound, refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { folderOf, levelOf } from '../register/folders.ts';
import { containers, entries, folders, versions } from '../register/schema.ts';
import { visibleVersion, visibleVersions } from '../register/versions.ts';
import { visibleTo } from '../register/visibility.ts';
import { placingsOf } from '../scene/placings.ts';
import { federationPins, federations } from './schema.ts';

type Row = typeof federations.$inferSelect;
/** The queue of pictures of federations. */
export const DRAW = 'draw-federation';

export async function listFederations({ db }: Platform, actor: Member): Promise<Federation[]> {
  const rows = await db
    .select()
    .from(federations)
    .where(eq(federations.projectId, actor.projectId))
    .orderBy(asc(federations.name));
  return (await views(db, actor, rows)).map(({ federation }) => federation);
}

export async function showFederation({ db }: Platform, actor: Member, id: string): Promise<FederationView> {
  return (await views(db, actor, [await federationRow(db, actor.projectId, id)]))[0]!;
}

export async function federationRow(db: Db, projectId: string, id: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(federations)
      .where(and(eq(federations.projectId, projectId), eq(federations.id, id))),
    'federation',
  );
}

async function views(db: Db, actor: Member, rows: readonly Row[]): Promise<FederationView[]> {
  const persons = await personsById(
    db,
    rows.map(({ byId }) => byId),
  );
  const found: FederationView[] = [];
  for (const row of rows) {
    const models = await modelsOf(db, actor, row);
    const { id, name, whole, edition, byId, at } = row;
    found.push({
      federation: {
        ...{ id, name, whole, edition, models: models.length, by: persons.get(byId)!, at: at.toISOString() },
        folder: await visibleFolder(db, actor, row.folderId),
      },
      models,
    });
  }
  return found;
}

async function visibleFolder(db: Db, actor: Member, folderId: string | null): Promise<Federation['folder']> {
  if (!folderId) return null;
  const folder = await folderOf(db, actor.projectId, folderId);
  return levelOf(actor, folder) === 'hidden' ? null : { id: folder.id, path: folder.path };
}

/** In the folder and below it, with the version that is current to the actor, or that they are held at. */
async function modelsOf(db: Db, actor: Member, federation: Row): Promise<FederatedModel[]> {
  const { id } = federation;
  const rows = await db
    .select({ entry: entries, fields: containers.fields })
    .from(entries)
    .innerJoin(containers, eq(containers.id, entries.containerId))
    .where(
      and(
        visibleTo(actor),
        eq(entries.kind, 'model'),
        eq(entries.atIntake, false),
        inArray(entries.folderId, foldersOf(db, federation)),
      ),
    )
    .orderBy(asc(entries.code));
  const pins = await db.select().from(federationPins).where(eq(federationPins.federationId, id));
  const held = await visibleVersions(
    db,
    actor,
    pins.map(({ versionId }) => versionId),
  );
  return rows.map(({ entry, fields }) => {
    const pin = held.find(({ containerId }) => containerId === entry.containerId);
    const { containerId, code, title } = entry;
    const newest = { versionId: entry.versionId, number: entry.versionNumber };
    const shown = pin ?? { ...entry, id: entry.versionId, number: entry.versionNumber };
    return {
      ...{ containerId, code, title, fields, newest, pinned: pin !== undefined },
      ...{ versionId: shown.id, number: shown.number, revision: shown.revision },
      ...{ state: shown.state, preparation: shown.preparation },
    };
  });
}

type Reach = Pick<Row, 'id' | 'projectId' | 'folderId' | 'whole'>;
/** The folder and those below it, or all of the project. */
const foldersOf = (db: Db, { projectId, folderId, whole }: Reach) =>
  db
    .select({ id: folders.id })
    .from(folders)
    .where(
      and(
        eq(folders.projectId, projectId),
        whole
          ? undefined
          : sql`exists (select 1 from folders top where top.id = ${folderId}::uuid and top.project_id = ${folders.projectId}
              and ${folders.first} between top.first and top.last)`,
      ),
    );

/** A model of a federation at the newest version that was shared: what everybody works with. */
export interface SharedModel {
  containerId: string;
  versionId: string;
  code: string;
  title: string;
  fields: Record<string, string>;
  placing: Placing | null;
}
export async function sharedModelsOf(db: Db, federation: Reach): Promise<SharedModel[]> {
  const pins = await db.select().from(federationPins).where(eq(federationPins.federationId, federation.id));
  const rows = await db
    .select({ version: versions, code: containers.code, fields: containers.fields })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(
      and(
        isNull(containers.removedAt),
        eq(containers.atIntake, false),
        inArray(containers.folderId, foldersOf(db, federation)),
        eq(versions.kind, 'model'),
        eq(versions.preparation, 'ready'),
        inArray(versions.state, ['shared', 'published']),
      ),
    )
    .orderBy(asc(containers.code), desc(versions.number));
  const chosen = new Map<string, (typeof rows)[number]>();
  for (const row of rows) {
    const { containerId, id: versionId } = row.version;
    const pin = pins.find((one) => one.containerId === containerId);
    const held = chosen.get(containerId);
    if (!held || pin?.versionId === versionId) chosen.set(containerId, row);
  }
  const placed = await placingsOf(db, [...chosen.keys()]);
  return [...chosen.values()].map(({ version: { containerId, id: versionId, title }, code, fields }) => ({
    ...{ containerId, versionId, code, title, fields, placing: placed.get(containerId)?.placing ?? null },
  }));
}

/** Models that everybody works with, and of whose newest version nothing could be prepared. */
export async function countFailedModels(db: Db, federation: Reach): Promise<number> {
  const [row] = await db
    .select({ count: sql<number>`count(distinct ${entries.containerId})::int` })
    .from(entries)
    .where(
      and(
        eq(entries.kind, 'model'),
        eq(entries.atIntake, false),
        eq(entries.preparation, 'failed'),
        ne(entries.audience, 'team'),
        inArray(entries.state, ['shared', 'published']),
        inArray(entries.folderId, foldersOf(db, federation)),
      ),
    );
  return row!.count;
}

const telling = ({ projectId, id, name }: Row, verb: string) => ({
  ...{ projectId, verb, subjectType: 'federation', subjectId: id },
  after: { name },
});

async function requireFreeName(db: Db, projectId: string, name: string, besides?: string): Promise<void> {
  const [same] = await db
    .select({ id: federations.id })
    .from(federations)
    .where(and(eq(federations.projectId, projectId), eq(federations.name, name)));
  if (same && same.id !== besides)
    throw refused('name-taken', `There is a federation “${name}” already. Nothing was saved.`);
}

async function requireFolder(db: Db, actor: Member, folderId: string | null): Promise<void> {
  if (folderId && levelOf(actor, await folderOf(db, actor.projectId, folderId)) === 'hidden') throw notFound('folder');
}

export const addFederation = (
  platform: Platform,
  actor: Member,
  { name, folderId }: Body<typeof addOperation>,
): Promise<FederationView> =>
  change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const { projectId } = actor;
    await requireFolder(db, actor, folderId);
    await requireFreeName(db, projectId, name);
    const [row] = await db
      .insert(federations)
      .values({ projectId, name, folderId, whole: folderId === null, byId: actor.id, at: now() })
      .returning();
    await record(telling(row!, 'made'));
    await unit.enqueue(DRAW, { federationId: row!.id });
    return (await views(db, actor, [row!]))[0]!;
  });

export const changeFederation = (
  platform: Platform,
  actor: Member,
  id: string,
  { edition, ...fields }: Body<typeof changeOperation>,
): Promise<FederationView> =>
  change(platform, actor, async ({ db, record, enqueue }) => {
    await federationRow(db, actor.projectId, id);
    if (fields.folderId !== undefined) await requireFolder(db, actor, fields.folderId);
    if (fields.name) await requireFreeName(db, actor.projectId, fields.name, id);
    const [row] = await db
      .update(federations)
      .set({
        ...fields,
        ...(fields.folderId !== undefined && { whole: fields.folderId === null }),
        edition: edition + 1,
      })
      .where(and(eq(federations.id, id), eq(federations.edition, edition)))
      .returning();
    if (!row)
      throw conflict('Someone else changed this federation meanwhile. Nothing was saved; look at theirs first.');
    await record(telling(row, 'changed'));
    await enqueue(DRAW, { federationId: id });
    return (await views(db, actor, [row]))[0]!;
  });

export const removeFederation = (platform: Platform, actor: Member, id: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const row = await federationRow(db, actor.projectId, id);
    await db.delete(federations).where(eq(federations.id, id));
    await record(telling(row, 'removed'));
  });

export const pinModel = (
  platform: Platform,
  actor: Member,
  { federationId, containerId }: { federationId: string; containerId: string },
  versionId: string | null,
): Promise<FederationView> =>
  change(platform, actor, async ({ db, record, enqueue }) => {
    const row = await federationRow(db, actor.projectId, federationId);
    const model = (await modelsOf(db, actor, row)).find((one) => one.containerId === containerId);
    if (!model) throw notFound('model');
    if (versionId) await requireVersionOf(db, actor, containerId, versionId);
    await db
      .delete(federationPins)
      .where(and(eq(federationPins.federationId, federationId), eq(federationPins.containerId, containerId)));
    await enqueue(DRAW, { federationId });
    if (versionId) await db.insert(federationPins).values({ federationId, containerId, versionId });
    await record({
      ...telling(row, versionId ? 'model held' : 'model let go'),
      after: { name: row.name, code: model.code },
    });
    return (await views(db, actor, [row]))[0]!;
  });

async function requireVersionOf(db: Db, actor: Member, containerId: string, versionId: string): Promise<void> {
  const version = await visibleVersion(db, actor, versionId);
  if (version.containerId !== containerId || version.kind !== 'model') throw notFound('version');
}

/** Federations that a container lies in. */
export async function federationsWith({ db }: Change, containerId: string): Promise<Row[]> {
  return db
    .select()
    .from(federations)
    .where(
      sql`exists (select 1 from folders top, folders own, containers held where held.id = ${containerId} and own.id = held.folder_id
        and own.project_id = ${federations.projectId} and top.project_id = own.project_id
        and (${federations.whole} or (top.id = ${federations.folderId} and own.first between top.first and top.last)))`,
    );
}
