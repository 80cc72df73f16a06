/** Markups of many drawings leave together: a copy of each, one after another, with a list of all. */
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import type { startMarkupSetExport as operation } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import { csvLine } from '@kindred/core/platform/csv';
import { counted } from '@kindred/words/sentence';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { ProblemError, refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { namesIn } from '../platform/zip.ts';
import { openPreparation } from '../preparation/once.ts';
import { entries } from '../register/schema.ts';
import { visibleVersion } from '../register/versions.ts';
import { seesPage, visibleTo } from '../register/visibility.ts';
import { FILES, markedCopyOf, rowsLeaving, unitsOf } from './export.ts';
import { markupTable } from './markup-table.ts';
import { markups } from './schema.ts';

type Wanted = Body<typeof operation>;
const LIST = 'Markups.csv';
const LEFT = 'Left out.csv';

export const startMarkupSetExport = (platform: Platform, actor: Member, wanted: Wanted) =>
  change(platform, actor, async (unit) => {
    const drawings = await drawingsWithMarkups(unit.db, actor, wanted.containerIds);
    if (!drawings.length)
      throw refused('no-markups', 'None of these drawings has published markups that you see. Nothing was begun.');
    return startLongJob(unit, actor, {
      kind: 'markup set export',
      name: `Markups of ${counted(drawings.length, 'drawing')}.zip`,
      path: 'sheets',
      data: wanted,
    });
  });

/** The newest versions that the actor sees, in the order of their codes. */
async function drawingsWithMarkups(db: Db, actor: Member, containerIds: string[] | undefined): Promise<string[]> {
  const rows = await db
    .select({ versionId: entries.versionId })
    .from(entries)
    .where(
      and(
        visibleTo(actor),
        eq(entries.kind, 'drawing'),
        containerIds && inArray(entries.containerId, containerIds),
        sql`exists (select 1 from ${markups} where ${markups.versionId} = ${entries.versionId} and not ${markups.draft}
          and ${seesPage(actor, sql`${markups.versionId}`, sql`${markups.page}`)})`,
      ),
    )
    .orderBy(entries.code);
  return rows.map(({ versionId }) => versionId);
}

export const markupSetExport: LongJobKind<Wanted> = {
  kind: 'markup set export',
  async run(platform, { data, owner, progress }) {
    const drawings = await drawingsWithMarkups(platform.db, owner, data.containerIds);
    return {
      name: `Markups ${new Date().toISOString().slice(0, 10)}.zip`,
      mediaType: 'application/zip',
      content: zipAsTheyCome(copies(platform, owner, drawings, data, progress)),
    };
  },
};

/** What cannot be made says why in a list of its own; all others come. */
async function* copies(
  platform: Platform,
  owner: Member,
  drawings: readonly string[],
  wanted: Wanted,
  progress: (done: number) => Promise<void>,
): AsyncGenerator<{ name: string; content: Buffer }> {
  const free = namesIn([LIST, LEFT]);
  const units = await unitsOf(platform.db, owner.projectId);
  const list: string[] = [];
  const left: string[] = [];
  const { prepare, end } = openPreparation(platform);
  try {
    for (const [i, versionId] of drawings.entries()) {
      await progress(i / drawings.length);
      const version = await visibleVersion(platform.db, owner, versionId);
      const rows = await rowsLeaving(platform.db, owner, version, wanted);
      if (!rows.length) continue;
      const about = [version.container.code, version.revision];
      const table = await markupTable(platform.db, owner, rows, version, units);
      if (!list.length) list.push(csvLine(['Drawing', 'Revision', ...table.columns.map(({ head }) => head)]));
      for (const cells of table.rows) list.push(csvLine([...about, ...cells.map((cell) => String(cell ?? ''))]));
      try {
        const content = await markedCopyOf(platform, owner, version, rows, wanted.as, prepare);
        yield { name: free(`${about[0]}${FILES[wanted.as].ending}`), content };
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error;
        left.push(csvLine([...about, error.detail]));
      }
    }
  } finally {
    end();
  }
  yield { name: LIST, content: asCsv(list) };
  if (left.length) yield { name: LEFT, content: asCsv([csvLine(['Drawing', 'Revision', 'Why']), ...left]) };
}

const asCsv = (lines: readonly string[]): Buffer => Buffer.from(`\ufeff${lines.join('')}`);
