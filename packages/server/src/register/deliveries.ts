/** Files arrive: each is a new container, the next version of one, or a version beside the line that waits for a decision. */
import type * as contract from '@kindred/contract/register/register';
import type { Body } from '@kindred/contract/platform/operation';
import { checkName, nameFields, type Convention } from '@kindred/core/naming/convention';
import { splitFileName } from '@kindred/core/naming/file-name';
import { claimedKind, sniffFile } from '@kindred/core/register/file-kind';
import { atLeast } from '@kindred/core/register/folder-rights';
import type { DeliverySource } from '@kindred/core/register/states';
import { and, eq, inArray } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/actor.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, notFound, refused } from '../platform/errors.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { PREPARE } from '../preparation/queue.ts';
import { refreshEntries } from './entries.ts';
import { conventionIn, folderOf, levelOf, type FolderRow } from './folders.ts';
import { lockContainers, metadataOf, requireLevel, visibleEntries } from './lineage.ts';
import { containers, deliveries, entries, uploads, versions } from './schema.ts';
import { audience, isOwnTeam, manages, visibleTo } from './visibility.ts';

type Delivery = Body<typeof contract.deliver>;
type FileToDeliver = Delivery['files'][number];
type UploadRow = typeof uploads.$inferSelect;
type VersionRow = typeof versions.$inferSelect;

/** All files of a delivery arrive in one transaction. */
export async function deliver(platform: Platform, actor: Member, wanted: Delivery, source: DeliverySource) {
  const { projectId } = actor;
  const codes = wanted.files.map(({ code }) => code.normalize('NFC'));
  const twice = codes.find((code, i) => codes.indexOf(code) !== i);
  if (twice)
    throw refused(
      'code-twice',
      `Two files of this delivery have the code “${twice}”. Deliver them one after the other. Nothing was delivered.`,
    );
  const folder = await folderOf(platform.db, projectId, wanted.folderId);
  requireFolder(actor, folder);
  const { definition: convention } = await conventionIn(platform.db, folder);
  if (wanted.strict) requireConforming(convention, codes);
  return change(platform, actor.id, async (unit) => {
    const { db } = unit;
    await lockCodes(db, projectId, codes);
    const received = await receivedUploads(db, actor, wanted.files);
    const [delivery] = await db
      .insert(deliveries)
      .values({
        projectId,
        folderId: folder.id,
        teamId: folder.teamId ?? actor.teamId,
        deliveredBy: actor.id,
        source,
        at: now(),
      })
      .returning();
    const known = await db
      .select({ id: containers.id })
      .from(containers)
      .where(and(eq(containers.projectId, projectId), inArray(containers.code, codes)));
    const existing = new Map(
      [
        ...(
          await lockContainers(
            db,
            known.map(({ id }) => id),
          )
        ).values(),
      ].map((row) => [row.code, row]),
    );
    const files = [];
    for (const [i, file] of wanted.files.entries()) {
      const code = codes[i]!;
      const atIntake = !checkName(convention, code).ok;
      const arrival: Arrival = {
        file,
        code,
        conformed: !atIntake,
        upload: received.get(file.uploadId)!,
        deliveryId: delivery!.id,
      };
      const container = existing.get(code);
      const version = container
        ? await addVersion(platform, unit, actor, container, arrival)
        : await addContainer(platform, unit, actor, folder, { ...arrival, atIntake, convention });
      files.push({
        uploadId: file.uploadId,
        containerId: version.containerId,
        versionId: version.id,
        versionNumber: version.number,
        contested: version.place === 'contested',
        atIntake: container ? container.atIntake : atIntake,
      });
    }
    await refreshEntries(
      db,
      files.map(({ containerId }) => containerId),
    );
    await db.delete(uploads).where(inArray(uploads.id, [...received.keys()]));
    return { deliveryId: delivery!.id, files };
  });
}

function requireConforming(convention: Convention, codes: string[]): void {
  const wrong = codes.map((code) => checkName(convention, code)).filter(({ ok }) => !ok);
  if (wrong.length)
    throw refused(
      'name-does-not-conform',
      `${wrong.length} of ${codes.length} names do not conform. Nothing was delivered.`,
      wrong.flatMap(({ name, problem, fields }) => [
        ...(problem ? [{ path: name, message: problem }] : []),
        ...fields
          .filter(({ ok }) => !ok)
          .map((field) => ({
            path: `${name}/${field.field}`,
            message: `${field.problem}${field.nearest ? `; nearest is ${field.nearest}` : ''}`,
          })),
      ]),
    );
}

type Received = UploadRow & { sha256: string };
async function receivedUploads(db: Db, actor: Member, files: FileToDeliver[]): Promise<Map<string, Received>> {
  const ids = files.map(({ uploadId }) => uploadId);
  const rows = await db
    .select()
    .from(uploads)
    .where(and(inArray(uploads.id, ids), eq(uploads.userId, actor.id), eq(uploads.projectId, actor.projectId)))
    .for('update');
  const whole = new Map(rows.filter((row): row is Received => row.sha256 !== null).map((row) => [row.id, row]));
  const missing = files.find(({ uploadId }) => !whole.has(uploadId));
  if (missing)
    throw refused(
      'upload-incomplete',
      `“${missing.code}” has not arrived in full, or was delivered already. Upload it again. Nothing was delivered.`,
    );
  return whole;
}

/** Delivering takes a folder that permissions leave open, and that is no other team's home. */
function requireFolder(actor: Member, folder: FolderRow): void {
  const level = levelOf(actor, folder);
  if (level === 'hidden') throw notFound('folder');
  if (!atLeast(level, 'deliver'))
    throw notAllowed(
      `Permissions on “${folder.path}” let you see what is there, not deliver to it. Nothing was delivered.`,
    );
  if (!manages(actor) && folder.teamId && folder.teamId !== actor.teamId)
    throw notAllowed(`“${folder.path}” belongs to another team. Deliver to a folder of your own team.`);
}

interface Arrival {
  file: FileToDeliver;
  code: string;
  conformed: boolean;
  upload: Received;
  deliveryId: string;
}

async function addContainer(
  platform: Platform,
  unit: Change,
  actor: Member,
  folder: FolderRow,
  arrival: Arrival & { atIntake: boolean; convention: Convention },
): Promise<VersionRow> {
  const { code, atIntake, convention } = arrival;
  const teamId = folder.teamId ?? actor.teamId;
  const [container] = await unit.db
    .insert(containers)
    .values({
      projectId: actor.projectId,
      folderId: folder.id,
      teamId,
      code,
      fields: nameFields(convention, code),
      atIntake,
      lastNumber: 1,
    })
    .returning();
  const version = await insertVersion(platform, unit, actor, arrival, { containerId: container!.id, number: 1 });
  await announce(unit, actor, container!.id, teamId, version, null);
  return version;
}

async function addVersion(
  platform: Platform,
  unit: Change,
  actor: Member,
  container: typeof containers.$inferSelect,
  arrival: Arrival,
): Promise<VersionRow> {
  const { db } = unit;
  const current = await requireDeliverable(db, actor, container);
  const { onto } = arrival.file;
  const overtaken = onto !== undefined && onto < current.versionNumber;
  const reserved = container.reservedBy !== null && container.reservedBy !== actor.id;
  const number = container.lastNumber + 1;
  await db
    .update(containers)
    .set({ lastNumber: number, ...(container.reservedBy === actor.id && { reservedBy: null, reservedAt: null }) })
    .where(eq(containers.id, container.id));
  const version = await insertVersion(platform, unit, actor, arrival, {
    containerId: container.id,
    number,
    place: overtaken || reserved ? 'contested' : 'in line',
    before: current,
  });
  await announce(unit, actor, container.id, container.teamId, version, current);
  if (version.place === 'contested') await tellAboutContest(unit, actor, container, version, current);
  return version;
}

/** What the newest version says of itself, from the eyes of whoever may add the next. */
async function requireDeliverable(db: Db, actor: Member, container: typeof containers.$inferSelect) {
  const [current] = await visibleEntries(db, actor, [container.id]).catch(() => []);
  if (!current || !(isOwnTeam(actor, container.teamId) || manages(actor)))
    throw refused(
      'code-taken',
      `The code “${container.code}” is used by another team. Choose the next free number. Nothing was delivered.`,
    );
  await requireLevel(db, actor, container.folderId, 'deliver');
  const [newest] = await db
    .select()
    .from(entries)
    .where(and(eq(entries.containerId, container.id), inArray(entries.audience, ['all', 'team'])));
  if (newest!.state === 'archived')
    throw refused('archived', `“${container.code}” is archived and takes no more versions. Nothing was delivered.`);
  return newest!;
}

async function insertVersion(
  platform: Platform,
  { db, enqueue }: Change,
  actor: Member,
  { file, upload, deliveryId, conformed }: Arrival,
  line: Pick<VersionRow, 'containerId' | 'number'> & {
    place?: VersionRow['place'];
    before?: Pick<VersionRow, 'title' | 'status' | 'revision' | 'classification'>;
  },
): Promise<VersionRow> {
  const { before, ...position } = line;
  const sniffed = sniffFile(await platform.store.readBytes(upload.sha256, 0, 1024));
  const [version] = await db
    .insert(versions)
    .values({
      ...position,
      projectId: actor.projectId,
      deliveryId,
      conformed,
      state: 'work in progress',
      fileName: upload.fileName,
      mediaType: sniffed.mediaType,
      kind: claimedKind(splitFileName(upload.fileName).extension) ?? sniffed.kind,
      size: upload.size,
      sha256: upload.sha256,
      title: file.title ?? before?.title ?? '',
      status: file.status ?? before?.status ?? '',
      revision: file.revision ?? before?.revision ?? '',
      classification: file.classification ?? before?.classification ?? '',
      description: file.description ?? '',
      preparation: 'received',
      deliveredAt: now(),
      deliveredBy: actor.id,
    })
    .returning();
  await enqueue(PREPARE, { versionId: version!.id });
  return version!;
}

async function announce(
  { record }: Change,
  actor: Member,
  containerId: string,
  teamId: string | null,
  version: VersionRow,
  before: Pick<VersionRow, 'title' | 'status' | 'revision' | 'classification' | 'description'> | null,
): Promise<void> {
  const { number, fileName, place } = version;
  const verb =
    number === 1 ? 'delivered' : `version ${number} delivered${place === 'contested' ? ' beside the line' : ''}`;
  await record({
    projectId: actor.projectId,
    verb,
    subjectType: 'container',
    subjectId: containerId,
    before: before && metadataOf(before),
    after: { version: number, fileName, ...metadataOf(version) },
    teamId: audience(version, teamId),
  });
}

/** Both who delivered meanwhile and who holds the reservation hear that there is something to decide. */
async function tellAboutContest(
  { db, tell }: Change,
  actor: Member,
  container: typeof containers.$inferSelect,
  version: VersionRow,
  current: { deliveredBy: string },
): Promise<void> {
  const ids = [...new Set([container.reservedBy ?? current.deliveredBy, current.deliveredBy])];
  const people = await personsById(db, ids);
  await tell({
    to: [...people.values()],
    projectId: actor.projectId,
    kind: 'delivery',
    text: `${container.code}: version ${version.number} by ${actor.name} stands beside the line. Which one goes on?`,
    link: `/projects/${actor.projectId}/containers/${container.id}?version=${version.number}`,
  });
}

/** Those of the codes that the register holds and the actor may see. */
export async function lookUpCodes({ db }: Platform, actor: Member, codes: readonly string[]) {
  if (!codes.length) return [];
  const { code, title, status, revision, classification, versionNumber, reservedBy, teamId } = entries;
  const known = { code, title, status, revision, classification, versionNumber, reservedBy };
  const rows = await db
    .select({ ...known, teamId, sha256: versions.sha256, lastNumber: containers.lastNumber })
    .from(entries)
    .innerJoin(versions, eq(versions.id, entries.versionId))
    .innerJoin(containers, eq(containers.id, entries.containerId))
    .where(
      and(
        visibleTo(actor),
        inArray(
          entries.code,
          codes.map((one) => one.normalize('NFC')),
        ),
      ),
    );
  const persons = await personsById(
    db,
    rows.map((row) => row.reservedBy),
  );
  return rows.map(({ lastNumber, teamId, ...row }) => ({
    ...row,
    // What lies beside the line has its number already; others do not know of it.
    nextNumber: (isOwnTeam(actor, teamId) ? lastNumber : row.versionNumber) + 1,
    reservedBy: row.reservedBy === actor.id ? null : ((row.reservedBy && persons.get(row.reservedBy)?.name) ?? null),
  }));
}
