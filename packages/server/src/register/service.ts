import { checkName } from '@kindred/core/naming/convention';
import { splitFileName } from '@kindred/core/naming/file-name';
import { actionsIn, next } from '@kindred/core/platform/machine';
import { claimedKind, sniffFile } from '@kindred/core/register/file-kind';
import { containerTransitions, type ContainerAction } from '@kindred/core/register/states';
import type { Container, ContainerView, Version } from '@kindred/contract/register/register';
import { and, desc, eq, getTableColumns, inArray, ne, sql, type SQL } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { users } from '../identity/schema.ts';
import { atLeast, type Level } from '@kindred/core/register/folder-rights';
import type { Member } from '../platform/actor.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { found, notAllowed, notFound, refused } from '../platform/errors.ts';
import { hotList } from '../platform/hot-list.ts';
import { keyset, page } from '../platform/keyset.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { allows } from '@kindred/core/people/rights';
import { PREPARE } from '../preparation/queue.ts';
import { conventionIn, folderOf, levelOf, type FolderRow } from './folders.ts';
import { containers, folders, products, uploads, versions } from './schema.ts';
import { visibleTo } from './visibility.ts';

type Row = typeof containers.$inferSelect;
type VersionRow = typeof versions.$inferSelect;

const { words, projectId: _, ...columns } = getTableColumns(containers);
void words;
void _;
/** A container as others see it, in one statement: the name of who delivered it comes along. */
const listed = { ...columns, deliveredBy: users.name, first: sql<number | null>`null` };
type ListedRow = Omit<Container, 'deliveredAt' | 'level'> & { deliveredAt: Date; first: number | null };
/** `first` is overwritten, not left out: objects that lose a key are several times slower to check and to write. */
const containerView = (actor: Member, row: ListedRow): Container => {
  const view = {
    ...row,
    first: undefined,
    deliveredAt: row.deliveredAt.toISOString(),
    level: levelOf(actor, { first: row.first ?? 0 }),
  };
  return view;
};

/** Folders are joined only for whom permissions concern: everybody else has the same level in all of them. */
function selectListed(db: Db, actor: Member) {
  const free = db.select(listed).from(containers).innerJoin(users, eq(users.id, containers.deliveredBy));
  if (!actor.folders.decided.length) return free;
  const narrowed = db.select({ ...listed, first: folders.first }).from(containers);
  return narrowed
    .innerJoin(users, eq(users.id, containers.deliveredBy))
    .innerJoin(folders, eq(folders.id, containers.folderId)) as unknown as typeof free;
}

async function viewOf(db: Db, actor: Member, containerId: string): Promise<Container> {
  const row = found(await selectListed(db, actor).where(eq(containers.id, containerId)), 'container');
  return containerView(actor, row);
}

export interface RegisterQuery {
  after?: string;
  limit?: number;
  q?: string;
  folderId?: string;
  kind?: Row['kind'];
  state?: Row['state'];
  status?: string;
  teamId?: string;
  intake?: boolean;
  sort?: 'code' | 'title' | 'deliveredAt' | 'revision' | 'status';
  descending?: boolean;
}

/** Words that begin like those typed, or a part of code or title. */
export function matches(words: string): SQL {
  const prefixes = words
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map((word) => `${word.toLowerCase()}:*`)
    .join(' & ');
  const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`;
  const byPart = sql`(${containers.code} || ' ' || ${containers.title}) ilike ${like}`;
  return prefixes ? sql`(${containers.words} @@ to_tsquery('simple', ${prefixes}) or ${byPart})` : byPart;
}

export async function listContainers({ db, pool }: Platform, actor: Member, query: RegisterQuery) {
  const { limit = 100, sort = 'code', descending = false } = query;
  const position = keyset(containers[sort], containers.id, descending, query.after);
  const select = selectListed(db, actor)
    .where(
      and(
        visibleTo(actor),
        eq(containers.atIntake, query.intake ?? false),
        query.q ? matches(query.q) : undefined,
        query.folderId ? eq(containers.folderId, query.folderId) : undefined,
        query.kind ? eq(containers.kind, query.kind) : undefined,
        query.state ? eq(containers.state, query.state) : undefined,
        query.status ? eq(containers.status, query.status) : undefined,
        query.teamId ? eq(containers.teamId, query.teamId) : undefined,
        position.where,
      ),
    )
    .orderBy(...position.orderBy)
    .limit(limit + 1);
  const rows = await hotList<ListedRow>(pool, select, listed);
  const { items, next: after } = page(rows, limit, (row) => [row[sort], row.id]);
  return { items: items.map((row) => containerView(actor, row)), next: after };
}

async function visibleContainer(db: Db, actor: Member, containerId: string): Promise<Row> {
  return found(
    await db
      .select()
      .from(containers)
      .where(and(visibleTo(actor), eq(containers.id, containerId))),
    'container',
  );
}

export async function showContainer({ db }: Platform, actor: Member, containerId: string): Promise<ContainerView> {
  await visibleContainer(db, actor, containerId);
  const rows = await db
    .select()
    .from(versions)
    .where(eq(versions.containerId, containerId))
    .orderBy(desc(versions.number));
  const persons = await personsById(
    db,
    rows.map(({ deliveredBy }) => deliveredBy),
  );
  return {
    container: await viewOf(db, actor, containerId),
    versions: rows.map((version): Version => ({
      ...version,
      deliveredAt: version.deliveredAt.toISOString(),
      deliveredBy: persons.get(version.deliveredBy)!,
    })),
  };
}

export interface FileToDeliver {
  uploadId: string;
  code: string;
  title?: string;
  status?: string;
  revision?: string;
  classification?: string;
  description?: string;
}

/** All files of a delivery arrive in one transaction: each is a new container, or the next version of one. */
export async function deliver(
  platform: Platform,
  actor: Member,
  wanted: { folderId: string; files: FileToDeliver[]; strict?: boolean },
) {
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
  const wrong = wanted.strict ? codes.map((code) => checkName(convention, code)).filter(({ ok }) => !ok) : [];
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
  return change(platform, actor.id, async (unit) => {
    await lockCodes(unit.db, projectId, codes);
    const received = await unit.db
      .select()
      .from(uploads)
      .where(
        and(
          inArray(
            uploads.id,
            wanted.files.map(({ uploadId }) => uploadId),
          ),
          eq(uploads.userId, actor.id),
          eq(uploads.projectId, projectId),
        ),
      )
      .for('update');
    const byId = new Map(received.map((upload) => [upload.id, upload]));
    const files = [];
    for (const [i, file] of wanted.files.entries()) {
      const upload = byId.get(file.uploadId);
      if (!upload?.sha256)
        throw refused(
          'upload-incomplete',
          `“${file.code}” has not arrived in full, or was delivered already. Upload it again. Nothing was delivered.`,
        );
      const atIntake = !checkName(convention, codes[i]!).ok;
      const version = await addVersion(
        platform,
        unit,
        actor,
        folder,
        { ...file, code: codes[i]!, atIntake },
        { ...upload, sha256: upload.sha256 },
      );
      files.push({
        uploadId: file.uploadId,
        containerId: version.containerId,
        versionId: version.id,
        versionNumber: version.number,
        atIntake,
      });
    }
    await unit.db.delete(uploads).where(inArray(uploads.id, [...byId.keys()]));
    return { files };
  });
}

/** What is done to a container takes the right level in its folder, besides the role's right. */
async function requireLevel(db: Db, actor: Member, folderId: string, level: Level): Promise<void> {
  const folder = await folderOf(db, actor.projectId, folderId);
  const here = levelOf(actor, folder);
  if (!atLeast(here, level))
    throw notAllowed(
      `This needs “${level}” in “${folder.path}”, and permissions there leave you “${here}”. Nothing was changed.`,
    );
}

/** Delivering takes a folder that permissions leave open, and that is no other team's home. */
function requireFolder(actor: Member, folder: FolderRow): void {
  const level = levelOf(actor, folder);
  if (level === 'hidden') throw notFound('folder');
  if (!atLeast(level, 'deliver'))
    throw notAllowed(
      `Permissions on “${folder.path}” let you see what is there, not deliver to it. Nothing was delivered.`,
    );
  const manages = allows(actor.standing, { kind: 'register', action: 'manage' });
  if (!manages && folder.teamId && folder.teamId !== actor.teamId)
    throw notAllowed(`“${folder.path}” belongs to another team. Deliver to a folder of your own team.`);
}

async function addVersion(
  platform: Platform,
  unit: Change,
  actor: Member,
  folder: { id: string; teamId: string | null },
  file: FileToDeliver & { atIntake: boolean },
  upload: { fileName: string; size: number; sha256: string },
): Promise<VersionRow> {
  const { projectId } = actor;
  const { db } = unit;
  const [existing] = await db
    .select()
    .from(containers)
    .where(and(eq(containers.projectId, projectId), eq(containers.code, file.code)))
    .for('update');
  if (existing) await requireDeliverable(db, actor, existing);
  const head = await platform.store.readBytes(upload.sha256, 0, 1024);
  const sniffed = sniffFile(head);
  const versionId = crypto.randomUUID();
  const containerId = existing?.id ?? crypto.randomUUID();
  const metadata = {
    title: file.title ?? existing?.title ?? '',
    status: file.status ?? existing?.status ?? '',
    revision: file.revision ?? existing?.revision ?? '',
    classification: file.classification ?? existing?.classification ?? '',
    description: file.description ?? '',
  };
  const arriving = {
    ...metadata,
    fileName: upload.fileName,
    kind: claimedKind(splitFileName(upload.fileName).extension) ?? sniffed.kind,
    size: upload.size,
    preparation: 'received' as const,
    preparationNote: '',
    deliveredAt: now(),
    deliveredBy: actor.id,
  };
  const number = (existing?.versionNumber ?? 0) + 1;
  const current = { ...arriving, versionId, versionNumber: number, sheets: 0 };
  const teamId = existing ? existing.teamId : (folder.teamId ?? actor.teamId);
  if (existing) await db.update(containers).set(current).where(eq(containers.id, containerId));
  else
    await db.insert(containers).values({
      ...current,
      id: containerId,
      projectId,
      folderId: folder.id,
      teamId,
      code: file.code,
      state: 'work in progress',
      atIntake: file.atIntake,
    });
  const [version] = await db
    .insert(versions)
    .values({
      ...arriving,
      id: versionId,
      projectId,
      containerId,
      number,
      mediaType: sniffed.mediaType,
      sha256: upload.sha256,
    })
    .returning();
  await unit.record({
    projectId,
    verb: number === 1 ? 'delivered' : `version ${number} delivered`,
    subjectType: 'container',
    subjectId: containerId,
    before: existing ? { revision: existing.revision, status: existing.status } : null,
    after: { version: number, fileName: upload.fileName, revision: metadata.revision, status: metadata.status },
    teamId: audience({ state: existing?.state ?? 'work in progress', teamId }),
  });
  await unit.enqueue(PREPARE, { versionId });
  return version!;
}

/** Who may hear that a container changed: its team alone while it is work in progress. */
export const audience = ({ state, teamId }: Pick<Row, 'state' | 'teamId'>): string | null =>
  state === 'work in progress' ? teamId : null;

async function requireDeliverable(db: Db, actor: Member, existing: Row): Promise<void> {
  const [visible] = await db
    .select({ id: containers.id })
    .from(containers)
    .where(and(visibleTo(actor), eq(containers.id, existing.id)));
  const mine =
    existing.teamId === null ||
    existing.teamId === actor.teamId ||
    allows(actor.standing, { kind: 'register', action: 'manage' });
  if (!visible || !mine)
    throw refused(
      'code-taken',
      `The code “${existing.code}” is used by another team. Choose the next free number. Nothing was delivered.`,
    );
  await requireLevel(db, actor, existing.folderId, 'deliver');
  if (existing.state === 'archived')
    throw refused('archived', `“${existing.code}” is archived and takes no more versions. Nothing was delivered.`);
}

export async function repairName(
  platform: Platform,
  actor: Member,
  containerId: string,
  code: string,
): Promise<Container> {
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record }) => {
    const row = await visibleContainer(db, actor, containerId);
    await requireLevel(db, actor, row.folderId, 'manage');
    if (!row.atIntake) throw refused('not-at-intake', `“${row.code}” is in the register already; its code stays.`);
    const { definition } = await conventionIn(db, await folderOf(db, projectId, row.folderId));
    const verdict = checkName(definition, code);
    if (!verdict.ok)
      throw refused(
        'name-does-not-conform',
        verdict.problem ?? 'The name does not conform yet.',
        verdict.fields.filter(({ ok }) => !ok).map(({ field, problem }) => ({ path: field, message: problem ?? '' })),
      );
    const [taken] = await db
      .select({ id: containers.id })
      .from(containers)
      .where(and(eq(containers.projectId, projectId), eq(containers.code, code), ne(containers.id, containerId)));
    if (taken) throw refused('code-taken', `“${code}” is already in the register. Choose the next free number.`);
    await db.update(containers).set({ code, atIntake: false }).where(eq(containers.id, containerId));
    await record({
      projectId,
      verb: 'name repaired',
      subjectType: 'container',
      subjectId: containerId,
      before: { code: row.code },
      after: { code },
      teamId: audience(row),
    });
    return viewOf(db, actor, containerId);
  });
}

export async function moveState(
  platform: Platform,
  actor: Member,
  containerId: string,
  action: ContainerAction,
  reason = '',
): Promise<Container> {
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record }) => {
    const row = await visibleContainer(db, actor, containerId);
    await db.select({ id: containers.id }).from(containers).where(eq(containers.id, containerId)).for('update');
    await requireLevel(db, actor, row.folderId, 'deliver');
    const manages = allows(actor.standing, { kind: 'register', action: 'manage' });
    if (!manages && row.teamId && row.teamId !== actor.teamId)
      throw notAllowed(`“${row.code}” belongs to another team.`);
    if (row.atIntake) throw refused('at-intake', `“${row.code}” waits at the intake: repair its name first.`);
    const state = next(containerTransitions, row.state, action);
    if (!state)
      throw refused(
        'no-such-step',
        `What is ${row.state} cannot ${action}. Possible: ${actionsIn(containerTransitions, row.state).join(', ') || 'nothing'}.`,
      );
    if (action === 'withdraw' && !reason.trim())
      throw refused('reason-needed', 'Say why it is withdrawn: others may be using it.');
    await db.update(containers).set({ state }).where(eq(containers.id, containerId));
    await record({
      projectId,
      verb: state,
      subjectType: 'container',
      subjectId: containerId,
      before: { state: row.state },
      after: { state, ...(reason && { reason }) },
      teamId: audience({ ...row, state }),
    });
    return viewOf(db, actor, containerId);
  });
}

export async function describeContainer(
  platform: Platform,
  actor: Member,
  containerId: string,
  wanted: { title?: string; description?: string },
): Promise<Container> {
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record }) => {
    const row = await visibleContainer(db, actor, containerId);
    await requireLevel(db, actor, row.folderId, 'deliver');
    await db.update(containers).set(wanted).where(eq(containers.id, containerId));
    await db.update(versions).set(wanted).where(eq(versions.id, row.versionId));
    await record({
      projectId,
      verb: 'described',
      subjectType: 'container',
      subjectId: containerId,
      before: { title: row.title, description: row.description },
      after: wanted,
      teamId: audience(row),
    });
    return viewOf(db, actor, containerId);
  });
}

/** Those of the codes that the register holds and the actor may see. */
export async function lookUpCodes({ db }: Platform, actor: Member, codes: readonly string[]) {
  if (!codes.length) return [];
  const { code, title, status, revision, classification, versionNumber } = columns;
  return db
    .select({ code, title, status, revision, classification, versionNumber })
    .from(containers)
    .where(
      and(
        visibleTo(actor),
        inArray(
          containers.code,
          codes.map((one) => one.normalize('NFC')),
        ),
      ),
    );
}

/** A version that the actor may see, with its container: what every other capability asks for first. */
export interface VisibleVersion extends VersionRow {
  container: Row;
}

export async function visibleVersions(db: Db, actor: Member, versionIds: readonly string[]): Promise<VisibleVersion[]> {
  if (!versionIds.length) return [];
  const rows = await db
    .select({ version: versions, container: containers })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(and(visibleTo(actor), inArray(versions.id, [...new Set(versionIds)])));
  return rows.map(({ version, container }) => ({ ...version, container }));
}

export async function visibleVersion(db: Db, actor: Member, versionId: string): Promise<VisibleVersion> {
  return found(await visibleVersions(db, actor, [versionId]), 'version');
}

export async function allVisible(db: Db, actor: Member, versionIds: readonly string[]): Promise<VisibleVersion[]> {
  const rows = await visibleVersions(db, actor, versionIds);
  if (rows.length !== new Set(versionIds).size) throw notFound('version');
  return rows;
}

export async function productOf(db: Db, versionId: string, product: string): Promise<string> {
  const [row] = await db
    .select()
    .from(products)
    .where(and(eq(products.versionId, versionId), eq(products.product, product)));
  return found(row ? [row.sha256] : [], product);
}

export async function prepareAgain(platform: Platform, actor: Member, versionId: string): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  if (version.preparation !== 'failed') throw refused('not-failed', 'Only a failed preparation can be tried again.');
  await change(platform, actor.id, async ({ enqueue, db }) => {
    await markPreparation(db, versionId, 'received', '');
    await enqueue(PREPARE, { versionId });
  });
}

/** Sets the state of a preparation on the version, and on its container while it is the current one. */
export async function markPreparation(
  db: Db,
  versionId: string,
  preparation: Row['preparation'],
  note: string,
  sheets = 0,
): Promise<void> {
  await db.update(versions).set({ preparation, preparationNote: note }).where(eq(versions.id, versionId));
  await db
    .update(containers)
    .set({ preparation, preparationNote: note, sheets })
    .where(eq(containers.versionId, versionId));
}

/** Containers and files at the intake of each project. */
export async function registerCounts(
  db: Db,
  projectIds: string[],
): Promise<Map<string, { containers: number; atIntake: number }>> {
  if (!projectIds.length) return new Map();
  const rows = await db
    .select({
      projectId: containers.projectId,
      containers: sql<number>`(count(*) filter (where not ${containers.atIntake}))::int`,
      atIntake: sql<number>`(count(*) filter (where ${containers.atIntake}))::int`,
    })
    .from(containers)
    .where(inArray(containers.projectId, projectIds))
    .groupBy(containers.projectId);
  return new Map(rows.map(({ projectId, ...counts }) => [projectId, counts]));
}

export async function findContainers(db: Db, actor: Member, words: string, limit = 8): Promise<Row[]> {
  return db
    .select()
    .from(containers)
    .where(and(visibleTo(actor), matches(words)))
    .orderBy(sql`similarity(${containers.code} || ' ' || ${containers.title}, ${words}) desc`, containers.code)
    .limit(limit);
}

/** The number of the current version of each container. */
export async function currentNumbers(db: Db, containerIds: string[]): Promise<Map<string, number>> {
  if (!containerIds.length) return new Map();
  const rows = await db
    .select({ id: containers.id, number: containers.versionNumber })
    .from(containers)
    .where(inArray(containers.id, containerIds));
  return new Map(rows.map(({ id, number }) => [id, number]));
}
