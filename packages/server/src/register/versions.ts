/** Containers with their versions: what may be seen of them, and what makes the line longer. */
import type { Container, ContainerView, Version } from '@kindred/contract/register/register';
import { atLeast, type Level } from '@kindred/core/register/folder-rights';
import { and, desc, eq, getTableColumns, inArray } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, notAllowed, notFound, refused } from '../platform/errors.ts';
import type { Encoding } from '../platform/send-blob.ts';
import type { Platform } from '../platform/services.ts';
import { PREPARE } from './jobs.ts';
import { containerOf, refreshEntries, type Entry } from './entries.ts';
import { folderOf, levelOf } from './folders.ts';
import { nativesOf, toNative } from './natives.ts';
import { containers, deliveries, entries, natives, products, versions } from './schema.ts';
import { audience, isOwnTeam, manages, versionVisibleTo, visibleTo } from './visibility.ts';

type ContainerRow = typeof containers.$inferSelect;
type VersionRow = typeof versions.$inferSelect;

/** Locks containers until the transaction ends, always in one order, so that nobody waits in a ring. */
export async function lockContainers(db: Db, containerIds: readonly string[]): Promise<Map<string, ContainerRow>> {
  const rows = await db
    .select()
    .from(containers)
    .where(inArray(containers.id, [...containerIds]))
    .orderBy(containers.id)
    .for('update');
  return new Map(rows.map((row) => [row.id, row]));
}

/** Entries of these containers as the actor sees them; refuses when one of them is out of sight. */
export async function visibleEntries(db: Db, actor: Member, containerIds: readonly string[]): Promise<Entry[]> {
  const wanted = new Set(containerIds);
  const rows = await db
    .select()
    .from(entries)
    .where(and(visibleTo(actor), inArray(entries.containerId, [...wanted])));
  if (rows.length !== wanted.size) throw notFound('container');
  return rows;
}

/** What is done to a container takes the right level in its folder, and its team, besides the role's right. */
export async function requireLevel(db: Db, actor: Member, folderId: string, level: Level): Promise<void> {
  const folder = await folderOf(db, actor.projectId, folderId);
  const here = levelOf(actor, folder);
  if (!atLeast(here, level))
    throw notAllowed(
      `This needs “${level}” in “${folder.path}”, and permissions there leave you “${here}”. Nothing was changed.`,
    );
}

export function requireTeam(actor: Member, { code, teamId }: { code: string; teamId: string | null }): void {
  if (!manages(actor) && !isOwnTeam(actor, teamId))
    throw notAllowed(`“${code}” belongs to another team. Nothing was changed.`);
}

/** Locks what the actor is about to change, after all that could forbid it was asked. */
export async function entriesToChange(db: Db, actor: Member, containerIds: readonly string[]): Promise<Entry[]> {
  await lockContainers(db, containerIds);
  const rows = await visibleEntries(db, actor, containerIds);
  for (const folderId of new Set(rows.map((row) => row.folderId))) await requireLevel(db, actor, folderId, 'deliver');
  for (const row of rows) requireTeam(actor, row);
  return rows;
}

export async function showContainer({ db }: Platform, actor: Member, containerId: string): Promise<ContainerView> {
  const container = await containerOf(db, actor, containerId);
  const rows = await db
    .select({ ...getTableColumns(versions), source: deliveries.source })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .leftJoin(deliveries, eq(deliveries.id, versions.deliveryId))
    .where(and(versionVisibleTo(actor), eq(versions.containerId, containerId)))
    .orderBy(desc(versions.number));
  const persons = await personsById(
    db,
    rows.map(({ deliveredBy }) => deliveredBy),
  );
  const known = await nativesOf(
    db,
    actor,
    rows.map(({ id }) => id),
  );
  return {
    container,
    versions: rows.map((version): Version => ({
      ...version,
      deliveredAt: version.deliveredAt.toISOString(),
      deliveredBy: persons.get(version.deliveredBy)!,
      natives: (known.get(version.id) ?? []).map(toNative),
    })),
  };
}

/** A version that the actor may see, with its container: what every other capability asks for first. */
export interface VisibleVersion extends VersionRow {
  container: ContainerRow;
}

export async function visibleVersions(db: Db, actor: Member, versionIds: readonly string[]): Promise<VisibleVersion[]> {
  if (!versionIds.length) return [];
  const rows = await db
    .select({ version: versions, container: containers })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(and(versionVisibleTo(actor), inArray(versions.id, [...new Set(versionIds)])));
  return rows.map(({ version, container }) => ({ ...version, container }));
}

export async function visibleVersion(db: Db, actor: Member, versionId: string): Promise<VisibleVersion> {
  return requireRow(await visibleVersions(db, actor, [versionId]), 'version');
}

export async function allVisible(db: Db, actor: Member, versionIds: readonly string[]): Promise<VisibleVersion[]> {
  const rows = await visibleVersions(db, actor, versionIds);
  if (rows.length !== new Set(versionIds).size) throw notFound('version');
  return rows;
}

/** For versions in use, the version of the same container that is current to the actor; what is out of sight is left out. */
export async function listCurrentVersions(db: Db, actor: Member, versionIds: string[]) {
  const used = await visibleVersions(db, actor, versionIds);
  if (!used.length) return [];
  const ids = used.map(({ containerId }) => containerId);
  const rows = await db
    .select()
    .from(entries)
    .where(and(visibleTo(actor), inArray(entries.containerId, ids)));
  const current = new Map(rows.map((row) => [row.containerId, row]));
  return used.flatMap(({ id, number, containerId, kind }) => {
    const now = current.get(containerId);
    if (!now) return [];
    const { versionId, versionNumber, title, code } = now;
    return [
      { versionId: id, containerId, kind, number, title: title || code, current: { versionId, number: versionNumber } },
    ];
  });
}

export async function productOf(
  db: Db,
  versionId: string,
  product: string,
): Promise<{ sha256: string; encoding: Encoding }> {
  const [row] = await db
    .select()
    .from(products)
    .where(and(eq(products.versionId, versionId), eq(products.product, product)));
  return requireRow(row ? [row] : [], product);
}

export async function prepareAgain(platform: Platform, actor: Member, versionId: string): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  if (version.preparation !== 'failed') throw refused('not-failed', 'Only a failed preparation can be tried again.');
  await change(platform, actor, async ({ enqueue, db }) => {
    await markPreparation(db, version, 'received', '');
    await enqueue(PREPARE, { versionId });
  });
}

/** Sets the state of a preparation on the version, and on the entries that show it. */
export async function markPreparation(
  db: Db,
  { id, containerId }: { id: string; containerId: string },
  preparation: VersionRow['preparation'],
  note: string,
  sheets?: number,
): Promise<void> {
  await lockContainers(db, [containerId]);
  await db
    .update(versions)
    .set({ preparation, preparationNote: note, ...(sheets !== undefined && { sheets }) })
    .where(eq(versions.id, id));
  await refreshEntries(db, [containerId]);
}

/** Puts a version with the file and the metadata of an earlier one, or of a conflicting one, at the end of the sequence. */
async function appendCopy(
  unit: Change,
  actor: Member,
  container: ContainerRow,
  source: VersionRow,
): Promise<VersionRow> {
  const { db } = unit;
  const number = container.lastNumber + 1;
  await db.update(containers).set({ lastNumber: number }).where(eq(containers.id, container.id));
  const { id: _id, shareSetId: _set, deliveryId: _delivery, ...kept } = source;
  void [_id, _set, _delivery];
  const [row] = await db
    .insert(versions)
    .values({
      ...kept,
      number,
      state: 'work in progress',
      sequence: 'in sequence',
      restores: source.number,
      preparation: 'received',
      preparationNote: '',
      deliveredAt: now(),
      deliveredBy: actor.id,
    })
    .returning();
  const { id: versionId } = row!;
  const copied = await db.select().from(natives).where(eq(natives.versionId, source.id));
  if (copied.length)
    await db
      .insert(natives)
      .values(
        copied.map(({ fileName, mediaType, size, sha256 }) => ({ versionId, fileName, mediaType, size, sha256 })),
      );
  await unit.enqueue(PREPARE, { versionId });
  return row!;
}

/** Makes an older version current again: its file and metadata come back as a new version, and nothing is overwritten. */
export async function restoreVersion(
  platform: Platform,
  actor: Member,
  containerId: string,
  number: number,
): Promise<Container> {
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const [entry] = await entriesToChange(db, actor, [containerId]);
    requireUnreserved(actor, entry!);
    if (entry!.state === 'archived')
      throw refused('archived', `“${entry!.code}” is archived and takes no more versions. Nothing was changed.`);
    const source = await versionNumbered(db, actor, containerId, number);
    if (source.sequence !== 'in sequence')
      throw refused('not-in-sequence', `Version ${number} is in conflict with another: decide about it first.`);
    if (source.number === entry!.versionNumber)
      throw refused('current-already', `Version ${number} is the current one already.`);
    const row = await appendCopy(unit, actor, source.container, source);
    await refreshEntries(db, [containerId]);
    await record({
      projectId: actor.projectId,
      verb: 'made current again',
      subjectType: 'container',
      subjectId: containerId,
      before: metadataOf(entry!),
      after: { version: row.number, restores: number, ...metadataOf(row) },
      teamId: audience(row, entry!.teamId),
    });
    return containerOf(db, actor, containerId);
  });
}

export const metadataOf = ({
  title,
  status,
  revision,
  classification,
  description,
}: Pick<VersionRow, 'title' | 'status' | 'revision' | 'classification' | 'description'>) => ({
  title,
  status,
  revision,
  classification,
  description,
});

async function versionNumbered(db: Db, actor: Member, containerId: string, number: number): Promise<VisibleVersion> {
  const [row] = await db
    .select({ id: versions.id })
    .from(versions)
    .where(and(eq(versions.containerId, containerId), eq(versions.number, number)));
  return visibleVersion(db, actor, requireRow(row ? [row.id] : [], 'version'));
}

/** Decides about a conflicting version: it becomes the current one, or is set aside and kept. */
export async function decideVersion(
  platform: Platform,
  actor: Member,
  containerId: string,
  number: number,
  decision: 'take' | 'set aside',
): Promise<Container> {
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const [entry] = await entriesToChange(db, actor, [containerId]);
    requireUnreserved(actor, entry!);
    const version = await versionNumbered(db, actor, containerId, number);
    if (version.sequence !== 'conflicting')
      throw refused('not-conflicting', `Nothing is to be decided about version ${number}: somebody did already.`);
    const last = version.container.lastNumber === version.number;
    await db
      .update(versions)
      .set({ sequence: decision === 'take' && last ? 'in sequence' : 'set aside' })
      .where(eq(versions.id, version.id));
    if (decision === 'take' && !last) await appendCopy(unit, actor, version.container, version);
    await refreshEntries(db, [containerId]);
    await record({
      projectId: actor.projectId,
      verb: decision === 'take' ? 'version taken' : 'version set aside',
      subjectType: 'container',
      subjectId: containerId,
      before: { version: entry!.versionNumber },
      after: { version: decision === 'take' ? number : entry!.versionNumber, decided: number },
      teamId: audience(version, entry!.teamId),
    });
    return containerOf(db, actor, containerId);
  });
}

/** Reserves containers for the actor, who alone adds to their line until they are released; or releases them. */
export async function reserveContainers(
  platform: Platform,
  actor: Member,
  containerIds: string[],
  reserve: boolean,
): Promise<void> {
  await change(platform, actor, async ({ db, record, tell }) => {
    const rows = await entriesToChange(db, actor, containerIds);
    for (const row of rows) {
      const other = row.reservedBy && row.reservedBy !== actor.id ? row.reservedBy : null;
      if (other && (reserve || !manages(actor)))
        throw refused(
          'reserved',
          `“${row.code}” is reserved by ${(await personsById(db, [other])).get(other)?.name}. Ask them, or somebody who manages the register, to release it. Nothing was changed.`,
        );
      await db
        .update(containers)
        .set({ reservedBy: reserve ? actor.id : null, reservedAt: reserve ? now() : null })
        .where(eq(containers.id, row.containerId));
      await record({
        projectId: actor.projectId,
        verb: reserve ? 'reserved' : other ? 'reservation broken' : 'released',
        subjectType: 'container',
        subjectId: row.containerId,
        before: row.reservedBy && { reservedBy: (await personsById(db, [row.reservedBy])).get(row.reservedBy)?.name },
        teamId: audience(row, row.teamId),
      });
      const person = other && (await personsById(db, [other])).get(other);
      if (person)
        await tell({
          to: [person],
          projectId: actor.projectId,
          kind: 'reservation',
          text: `${actor.name} released your reservation of ${row.code}`,
          link: `/projects/${actor.projectId}/containers/${row.containerId}`,
        });
    }
    await refreshEntries(
      db,
      rows.map((row) => row.containerId),
    );
  });
}

function requireUnreserved(actor: Member, { code, reservedBy }: Entry): void {
  if (reservedBy && reservedBy !== actor.id)
    throw refused('reserved', `“${code}” is reserved by somebody else. Nothing was changed.`);
}
