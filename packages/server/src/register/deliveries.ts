/** Files arrive: each is a new container, the next version of one, or a conflicting version that waits for a decision. */
import type * as contract from '@kindred/contract/register/register';
import type { Body } from '@kindred/contract/platform/operation';
import { goesWith, takesAlong } from '@kindred/core/register/file-pair';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { nameFields } from '@kindred/core/naming/decode-name';
import { splitFileName } from '@kindred/core/naming/file-name';
import { detectContent, type FileContent } from '@kindred/core/register/file-content';
import { claimedKind } from '@kindred/core/register/file-kind';
import { atLeast } from '@kindred/core/register/folder-rights';
import type { DeliverySource } from '@kindred/core/register/states';
import { sayVerdict } from '@kindred/words/naming';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { requireStatuses } from '../naming/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, notFound, refused, unlessMissing } from '../platform/errors.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { PREPARE } from './jobs.ts';
import { refreshEntries } from './entries.ts';
import { conventionIn, folderOf, levelOf, type FolderRow } from './folders.ts';
import { nativesOf } from './natives.ts';
import { lockContainers, metadataOf, requireLevel, visibleEntries } from './versions.ts';
import { containers, deliveries, entries, natives, uploads, versions } from './schema.ts';
import { audience, isOwnTeam, manages, visibleTo } from './visibility.ts';

type Delivery = Body<typeof contract.deliver>;
type FileToDeliver = Delivery['files'][number];
type UploadOf = Pick<FileToDeliver, 'uploadId' | 'code'>;

/** All that arrives under one code. */
const uploadsOf = ({ uploadId, code, nativeUploadIds = [] }: FileToDeliver): UploadOf[] =>
  [uploadId, ...nativeUploadIds].map((id) => ({ uploadId: id, code }));

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
  await requireStatuses(
    platform.db,
    projectId,
    wanted.files.map(({ status }) => status),
  );
  // Read before anything is locked: a file may lie far away.
  const uploaded = wanted.files.flatMap(uploadsOf);
  const ids = uploaded.map(({ uploadId }) => uploadId);
  if (new Set(ids).size !== ids.length)
    throw refused('upload-twice', 'One file is delivered twice here. Send each once. Nothing was delivered.');
  const contents = await detectContents(platform, actor, uploaded);
  return change(platform, actor, async (unit) => {
    const { db } = unit;
    await lockCodes(db, projectId, codes);
    const received = await receivedUploads(db, actor, uploaded);
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
      .where(and(eq(containers.projectId, projectId), inArray(containers.code, codes), isNull(containers.removedAt)));
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
        content: contents.get(file.uploadId)!,
        natives: (file.nativeUploadIds ?? []).map((id) => ({ ...received.get(id)!, ...contents.get(id)! })),
        deliveryId: delivery!.id,
      };
      const container = existing.get(code);
      const version = container
        ? await addVersion(unit, actor, container, arrival)
        : await addContainer(unit, actor, folder, { ...arrival, atIntake, convention });
      files.push({
        uploadId: file.uploadId,
        containerId: version.containerId,
        versionId: version.id,
        versionNumber: version.number,
        conflicting: version.sequence === 'conflicting',
        atIntake: container ? container.atIntake : atIntake,
      });
    }
    await refreshEntries(
      db,
      files.map(({ containerId }) => containerId),
    );
    await db.delete(uploads).where(inArray(uploads.id, [...received.keys()]));
    for (const [i, { answers = [] }] of wanted.files.entries())
      if (answers.length) await platform.capabilities.answered(unit, actor, files[i]!.versionId, answers);
    return { deliveryId: delivery!.id, files };
  });
}

function requireConforming(convention: Convention, codes: string[]): void {
  const wrong = codes.map((code) => sayVerdict(checkName(convention, code))).filter(({ ok }) => !ok);
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

const HEAD_BYTES = 4100;

async function detectContents(
  { db, store }: Platform,
  actor: Member,
  files: readonly UploadOf[],
): Promise<Map<string, FileContent>> {
  const contents = new Map<string, FileContent>();
  for (const [id, { sha256 }] of await receivedUploads(db, actor, files))
    contents.set(id, await detectContent(await store.readBytes(sha256, 0, HEAD_BYTES)));
  return contents;
}

type Received = UploadRow & { sha256: string };
async function receivedUploads(db: Db, actor: Member, files: readonly UploadOf[]): Promise<Map<string, Received>> {
  const ids = files.map(({ uploadId }) => uploadId);
  const rows = await db
    .select()
    .from(uploads)
    .where(
      and(
        ...[inArray(uploads.id, ids), eq(uploads.userId, actor.id), eq(uploads.projectId, actor.projectId)],
        eq(uploads.purpose, 'delivery'),
      ),
    )
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
export function requireFolder(actor: Member, folder: FolderRow): void {
  const level = levelOf(actor, folder);
  if (level === 'hidden') throw notFound('folder');
  if (!atLeast(level, 'deliver'))
    throw notAllowed(
      `Permissions on “${folder.path}” let you see what is there, not deliver to it. Nothing was changed.`,
    );
  if (!manages(actor) && folder.teamId && folder.teamId !== actor.teamId)
    throw notAllowed(`“${folder.path}” belongs to another team. Choose a folder of your own team.`);
}

type StoredFile = Pick<typeof natives.$inferInsert, 'fileName' | 'mediaType' | 'size' | 'sha256'>;
interface Arrival {
  file: FileToDeliver;
  code: string;
  conformed: boolean;
  upload: Received;
  /** What the beginning of the file says that it is. */
  content: FileContent;
  natives: StoredFile[];
  deliveryId: string;
}

async function addContainer(
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
  const version = await insertVersion(unit, actor, arrival, { containerId: container!.id, number: 1 });
  await announce(unit, actor, container!.id, teamId, version, null);
  return version;
}

async function addVersion(
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
  if (!overtaken && !reserved && !arrival.natives.length && !arrival.file.ownVersion) {
    const newest = await newestOf(db, current.versionId);
    const names = newest.natives.map(({ fileName }) => fileName);
    const asDelivered = { fileName: arrival.upload.fileName, revision: arrival.file.revision };
    if (goesWith({ ...newest, natives: names }, asDelivered))
      return joinVersion(unit, actor, container, newest, arrival);
    if (takesAlong({ ...newest, natives: names }, asDelivered)) arrival.natives.push(newest);
  }
  const number = container.lastNumber + 1;
  await db
    .update(containers)
    .set({ lastNumber: number, ...(container.reservedBy === actor.id && { reservedBy: null, reservedAt: null }) })
    .where(eq(containers.id, container.id));
  const version = await insertVersion(unit, actor, arrival, {
    containerId: container.id,
    number,
    sequence: overtaken || reserved ? 'conflicting' : 'in sequence',
    before: current,
  });
  await announce(unit, actor, container.id, container.teamId, version, current);
  if (version.sequence === 'conflicting') await tellAboutConflict(unit, actor, container, version, current);
  return version;
}

/** A native file that comes later goes with the version that people look at. */
async function joinVersion(
  { db, record }: Change,
  actor: Member,
  { id, teamId }: Pick<typeof containers.$inferSelect, 'id' | 'teamId'>,
  newest: VersionRow,
  { upload, content }: Arrival,
): Promise<VersionRow> {
  await addNatives(db, newest.id, [{ ...upload, ...content }]);
  await record({
    projectId: actor.projectId,
    verb: 'native file added',
    subjectType: 'container',
    subjectId: id,
    after: { version: newest.number, fileName: upload.fileName },
    teamId: audience(newest, teamId),
  });
  return newest;
}

async function newestOf(db: Db, versionId: string): Promise<VersionRow & { natives: StoredFile[] }> {
  const [version] = await db.select().from(versions).where(eq(versions.id, versionId));
  return { ...version!, natives: await db.select().from(natives).where(eq(natives.versionId, versionId)) };
}

const addNatives = (db: Db, versionId: string, files: readonly StoredFile[]) =>
  db
    .insert(natives)
    .values(files.map(({ fileName, mediaType, size, sha256 }) => ({ versionId, fileName, mediaType, size, sha256 })));

/** What the newest version says of itself, from the eyes of whoever may add the next. */
async function requireDeliverable(db: Db, actor: Member, container: typeof containers.$inferSelect) {
  const seen = await unlessMissing(visibleEntries(db, actor, [container.id]), () => []);
  if (!seen.length || !(isOwnTeam(actor, container.teamId) || manages(actor)))
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
  { db, enqueue }: Change,
  actor: Member,
  { file, upload, content, natives: own, deliveryId, conformed }: Arrival,
  line: Pick<VersionRow, 'containerId' | 'number'> & {
    sequence?: VersionRow['sequence'];
    before?: Pick<VersionRow, 'title' | 'status' | 'revision' | 'classification'>;
  },
): Promise<VersionRow> {
  const { before, ...position } = line;
  const [version] = await db
    .insert(versions)
    .values({
      ...position,
      projectId: actor.projectId,
      deliveryId,
      conformed,
      state: 'work in progress',
      fileName: upload.fileName,
      mediaType: content.mediaType,
      kind: claimedKind(splitFileName(upload.fileName).extension) ?? content.kind,
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
  if (own.length) await addNatives(db, version!.id, own);
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
  const { number, fileName, sequence } = version;
  await record({
    projectId: actor.projectId,
    verb: sequence === 'conflicting' ? 'delivered in conflict' : 'delivered',
    subjectType: 'container',
    subjectId: containerId,
    before: before && metadataOf(before),
    after: { version: number, fileName, ...metadataOf(version) },
    teamId: audience(version, teamId),
  });
}

/** Both who delivered meanwhile and who holds the reservation hear that there is something to decide. */
async function tellAboutConflict(
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
    text: `${container.code}: version ${version.number} by ${actor.name} conflicts with the current one. Which one goes on?`,
    link: `/projects/${actor.projectId}/containers/${container.id}?version=${version.number}`,
  });
}

/** Those of the codes that the register holds and the actor may see. */
export async function lookUpCodes({ db }: Platform, actor: Member, codes: readonly string[]) {
  if (!codes.length) return [];
  const { code, folderId, title, status, revision, classification, versionNumber, reservedBy, teamId } = entries;
  const listed = {
    code,
    folderId,
    title,
    status,
    revision,
    classification,
    versionNumber,
    reservedBy,
    state: entries.state,
  };
  const rows = await db
    .select({
      ...listed,
      teamId,
      sha256: versions.sha256,
      fileName: versions.fileName,
      versionId: versions.id,
      lastNumber: containers.lastNumber,
    })
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
  const known = await nativesOf(
    db,
    actor,
    rows.map(({ versionId }) => versionId),
  );
  return rows.map(({ lastNumber, teamId, versionId, ...row }) => ({
    ...row,
    natives: (known.get(versionId) ?? []).map(({ fileName, sha256 }) => ({ fileName, sha256 })),
    // A conflicting version has its number already; others do not know of it.
    nextNumber: (isOwnTeam(actor, teamId) ? lastNumber : row.versionNumber) + 1,
    reservedBy: row.reservedBy === actor.id ? null : ((row.reservedBy && persons.get(row.reservedBy)?.name) ?? null),
  }));
}
