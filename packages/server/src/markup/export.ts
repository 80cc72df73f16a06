/** Markups leave with their drawing: in a copy that any PDF program opens, or alone. */
import type { startMarkupExport as operation } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { Readable } from 'node:stream';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from '../portfolio/schema.ts';
import { prepareOnce, type Prepare } from '../preparation/once.ts';
import { contentFor } from '../register/files.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { wholeBlob } from './pictures.ts';
import { toWrite, type Units } from './leaving.ts';
import { markupTable } from './markup-table.ts';
import { markups } from './schema.ts';
import { rowsOn } from './visibility.ts';

type Wanted = Body<typeof operation>;
type Row = typeof markups.$inferSelect;
export const FILES = {
  pdf: { ending: ' with markups.pdf', mediaType: 'application/pdf' },
  'flattened pdf': { ending: ' with markups drawn in.pdf', mediaType: 'application/pdf' },
  xfdf: { ending: ' markups.xfdf', mediaType: 'application/vnd.adobe.xfdf' },
  xlsx: {
    ending: ' markups.xlsx',
    mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
} as const;

export const startMarkupExport = (platform: Platform, actor: Member, versionId: string, wanted: Wanted) =>
  change(platform, actor, async (unit) => {
    const version = await visibleVersion(unit.db, actor, versionId);
    if (version.kind !== 'drawing')
      throw refused('no-drawing', 'Markups leave with a PDF, and this version is none. Nothing was begun.');
    return startLongJob(unit, actor, {
      kind: 'markup export',
      name: `${version.container.code}${FILES[wanted.as].ending}`,
      path: `sheets/${version.containerId}?version=${version.number}`,
      data: { versionId, ...wanted },
    });
  });

export async function unitsOf(db: Db, projectId: string): Promise<Units> {
  const [project] = await db.select().from(projects).where(eq(projects.id, projectId));
  return project as Units;
}

export const markupExport: LongJobKind<Wanted & { versionId: string }> = {
  kind: 'markup export',
  async run(platform, { data: { versionId, ...wanted }, owner, progress }) {
    const version = await visibleVersion(platform.db, owner, versionId);
    const rows = await rowsLeaving(platform.db, owner, version, wanted);
    await progress(0.1);
    const content = await markedCopyOf(platform, owner, version, rows, wanted.as, (...asked) =>
      prepareOnce(platform, ...asked),
    );
    const { ending, mediaType } = FILES[wanted.as];
    return { name: `${version.container.code}${ending}`, mediaType, content: Readable.from([content]) };
  },
};

/** Published markups of a version, as they are wanted. */
export async function rowsLeaving(
  db: Db,
  owner: Member,
  version: VisibleVersion,
  { page, status, author }: Pick<Wanted, 'page' | 'status' | 'author'>,
): Promise<Row[]> {
  return (await rowsOn(db, owner, version)).filter(
    (row) =>
      !row.draft &&
      (page === undefined || row.page === page) &&
      (!status || row.status === status) &&
      (!author || row.authorId === author),
  );
}

/** The file in which markups leave. */
export async function markedCopyOf(
  platform: Platform,
  owner: Member,
  version: VisibleVersion,
  rows: readonly Row[],
  as: Wanted['as'],
  prepare: Prepare,
): Promise<Buffer> {
  const { db } = platform;
  const units = await unitsOf(db, owner.projectId);
  const leaving = await toWrite(db, owner, rows, units);
  const sha256 = await contentFor(platform, owner, version);
  const markups = {
    list: rows.map(({ id }) => leaving.get(id)!),
    as: as === 'xlsx' ? await markupTable(db, owner, rows, version, units) : as,
    pictures: await picturesOf(platform, rows),
  };
  const content = await prepare(sha256, { kind: 'drawing', markups }, 'markups-not-written');
  await noteLeft(
    db,
    rows.map(({ id }) => id),
  );
  return content;
}

/** By the id under which each leaves. */
async function picturesOf(platform: Platform, rows: readonly Row[]): Promise<Record<string, Uint8Array>> {
  const pictures: Record<string, Uint8Array> = {};
  for (const { threadId, pictureSha256 } of rows)
    if (pictureSha256) pictures[threadId] = await wholeBlob(platform, pictureSha256);
  return pictures;
}

/** From here on somebody may answer: what is changed here later can meet what was changed there. */
async function noteLeft(db: Db, ids: string[]): Promise<void> {
  if (ids.length)
    await db
      .update(markups)
      .set({ leftAt: markups.edition })
      .where(and(inArray(markups.id, ids), isNull(markups.leftAt)));
}
