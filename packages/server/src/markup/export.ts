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
import { prepareOnce } from '../preparation/once.ts';
import { contentFor } from '../register/files.ts';
import { visibleVersion } from '../register/versions.ts';
import { wholeBlob } from './pictures.ts';
import { toWrite, type Units } from './leaving.ts';
import { markupTable } from './markup-table.ts';
import { markups } from './schema.ts';
import { rowsOn } from './visibility.ts';

type Wanted = Body<typeof operation>;
const FILES = {
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
  async run(platform, { data: { versionId, as, page, status, author }, owner, progress }) {
    const { db } = platform;
    const version = await visibleVersion(db, owner, versionId);
    const rows = (await rowsOn(db, owner, version)).filter(
      (row) =>
        !row.draft &&
        (page === undefined || row.page === page) &&
        (!status || row.status === status) &&
        (!author || row.authorId === author),
    );
    const units = await unitsOf(db, owner.projectId);
    const leaving = await toWrite(db, owner, rows, units);
    await progress(0.1);
    const sha256 = await contentFor(platform, owner, version);
    const { ending, mediaType } = FILES[as];
    const markups = {
      list: rows.map(({ id }) => leaving.get(id)!),
      as: as === 'xlsx' ? await markupTable(db, owner, rows, version, units) : as,
      pictures: await picturesOf(platform, rows),
    };
    const task = { kind: 'drawing' as const, markups };
    const content = await prepareOnce(platform, sha256, task, 'markups-not-written');
    await noteLeft(
      db,
      rows.map(({ id }) => id),
    );
    return { name: `${version.container.code}${ending}`, mediaType, content: Readable.from([content]) };
  },
};

/** By the id under which each leaves. */
async function picturesOf(
  platform: Platform,
  rows: readonly (typeof markups.$inferSelect)[],
): Promise<Record<string, Uint8Array>> {
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
