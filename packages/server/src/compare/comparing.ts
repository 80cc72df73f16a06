/** Compares what waits: drawings pair of sheets by pair of sheets, so that what is done of it stays done; models as a whole. */
import { countChanges } from '@kindred/core/compare/change-counts';
import type { Change, SheetOutcome } from '@kindred/contract/compare/compare';
import { followed } from '@kindred/core/compare/following';
import { matchPages } from '@kindred/core/compare/match-pages';
import { Similarity } from '@kindred/core/compare/similarity';
import { and, eq, inArray } from 'drizzle-orm';
import { gzip } from 'node:zlib';
import { promisify } from 'node:util';
import type { Static } from '@sinclair/typebox';
import { vectorsOfPage } from '../drawing/vectors.ts';
import { moveCarriedMarkups, type Follow } from '../markup/following.ts';
import { system } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { ProblemError } from '../platform/errors.ts';
import type { JobKind } from '../platform/jobs.ts';
import { blobs } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import type { ComparedPages } from '../preparation/compare.ts';
import { openPreparation, type OpenPreparation, type Prepare } from '../preparation/once.ts';
import { containers, sheets, versions } from '../register/schema.ts';
import { audience } from '../register/visibility.ts';
import { compareModelsOf } from './comparing-models.ts';
import { COMPARE } from './pairs.ts';
import { comparedSheets, comparisons, type KeptChange } from './schema.ts';

const deflate = promisify(gzip);
const IDLE_MS = 20_000;
type SheetRow = typeof comparedSheets.$inferSelect;

export function comparingJobs(platform: Platform): { kinds: JobKind[]; interrupt: () => void } {
  let open: OpenPreparation | undefined;
  let idle: NodeJS.Timeout | undefined;
  const end = (): void => {
    open?.end();
    open = undefined;
  };
  const job: JobKind<{ comparisonId: string }> = {
    queue: COMPARE,
    parallel: 1,
    retries: 2,
    async run({ comparisonId }) {
      clearTimeout(idle);
      open ??= openPreparation(platform);
      try {
        await compare(platform, open, comparisonId);
      } finally {
        // Drawings come many at once: the next one finds the process warm.
        idle = setTimeout(end, IDLE_MS).unref();
      }
    },
    async giveUp({ comparisonId }, error) {
      platform.log.error({ err: error, comparisonId }, 'a comparison gave up');
      await platform.db.update(comparisons).set({ status: 'failed' }).where(underWay(comparisonId));
    },
  };
  return { kinds: [job] as JobKind[], interrupt: () => open?.interrupt() };
}

const underWay = (id: string) => and(eq(comparisons.id, id), inArray(comparisons.status, ['waiting', 'comparing']));

async function compare(platform: Platform, open: OpenPreparation, id: string): Promise<void> {
  const { db, live } = platform;
  const [comparison] = await db.update(comparisons).set({ status: 'comparing' }).where(underWay(id)).returning();
  if (!comparison) return;
  const before = await versionOf(db, comparison.beforeId);
  const after = await versionOf(db, comparison.afterId);
  const teamId = audience(after, after.teamId);
  const told = { projectId: comparison.projectId, subjectType: 'comparison' as const, ...(teamId && { teamId }) };
  const isModel = after.kind === 'model';
  if (isModel && !(await compareModelsOf(platform, open.ask, id, before.id, after.id))) {
    // Prepared once more they may be compared: it can be asked for again.
    await db.update(comparisons).set({ status: 'failed' }).where(underWay(id));
    return live.announce(told);
  }
  if (!isModel && !(await compareSheetsOf(platform, open.prepare, id, before, after, () => live.announce(told))))
    return;
  await change(platform, system('comparison'), async (unit) => {
    const [done] = await unit.db.update(comparisons).set({ status: 'ready' }).where(underWay(id)).returning();
    if (!done) return;
    const rows = await unit.db.select().from(comparedSheets).where(eq(comparedSheets.comparisonId, id));
    if (!isModel) await moveCarriedMarkups(unit.db, before.id, after.id, followOn(rows));
    await unit.record({
      projectId: comparison.projectId,
      verb: isModel ? 'models compared' : 'sheets compared',
      subjectType: 'version',
      subjectId: after.id,
      after: {
        version: after.number,
        from: before.number,
        changes: rows.reduce((sum, { changes }) => sum + changes.length, 0),
      },
      // Others may get less of the version than the team: they see it when they open it.
      teamId: after.teamId ?? teamId,
    });
  });
  live.announce(told);
}

/** False where it was stopped meanwhile. */
async function compareSheetsOf(
  platform: Platform,
  prepare: Prepare,
  id: string,
  before: ComparedVersion,
  after: ComparedVersion,
  tell: () => void,
): Promise<boolean> {
  const { db } = platform;
  await pairSheets(db, id, before.id, after.id);
  const waiting = await db
    .select()
    .from(comparedSheets)
    .where(and(eq(comparedSheets.comparisonId, id), eq(comparedSheets.outcome, 'waiting')))
    .orderBy(comparedSheets.position);
  for (const sheet of waiting) {
    const [still] = await db.select({ id: comparisons.id }).from(comparisons).where(underWay(id));
    if (!still) return false;
    const found = await comparePair(platform, prepare, before, after, sheet);
    await db
      .update(comparedSheets)
      .set(found)
      .where(and(eq(comparedSheets.comparisonId, id), eq(comparedSheets.position, sheet.position)));
    tell();
  }
  return true;
}

const followOn =
  (rows: readonly SheetRow[]): Follow =>
  (shape, page) => {
    const sheet = rows.find(({ afterPage, outcome }) => afterPage === page && outcome === 'compared');
    return sheet && followed(shape, new Similarity(...sheet.similarity), sheet.changes);
  };

type ComparedVersion = Awaited<ReturnType<typeof versionOf>>;
async function versionOf(db: Db, versionId: string) {
  const { id, number, state, kind, sha256 } = versions;
  const [row] = await db
    .select({ id, number, state, kind, sha256, teamId: containers.teamId })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(eq(versions.id, versionId));
  return row!;
}

/** Which sheet of one is which of the other is said once. */
async function pairSheets(db: Db, comparisonId: string, beforeId: string, afterId: string): Promise<void> {
  const [known] = await db
    .select({ position: comparedSheets.position })
    .from(comparedSheets)
    .where(eq(comparedSheets.comparisonId, comparisonId))
    .limit(1);
  if (known) return;
  const pairs = matchPages(await sheetsOf(db, beforeId), await sheetsOf(db, afterId));
  const rows = pairs.map(({ before, after, split }, i) => {
    const outcome: SheetOutcome = before && after ? 'waiting' : after ? 'added' : 'removed';
    return { comparisonId, position: i + 1, beforePage: before?.page, afterPage: after?.page, outcome, split };
  });
  if (rows.length) await db.insert(comparedSheets).values(rows);
}

async function sheetsOf(db: Db, versionId: string) {
  const rows = await db
    .select({ page: sheets.page, number: sheets.number, title: sheets.title, text: sheets.text })
    .from(sheets)
    .where(eq(sheets.versionId, versionId))
    .orderBy(sheets.page);
  return rows.map(({ text, ...sheet }) => ({ ...sheet, words: text.split(' ').filter(Boolean) }));
}

async function comparePair(
  platform: Platform,
  prepare: Prepare,
  before: ComparedVersion,
  after: ComparedVersion,
  { beforePage, afterPage, split }: SheetRow,
): Promise<Partial<SheetRow>> {
  const [was, is] = [
    await vectorsOfPage(platform, before.id, beforePage!),
    await vectorsOfPage(platform, after.id, afterPage!),
  ];
  if (!was || !is)
    return { outcome: 'failed', note: 'What these sheets draw is not known: they were prepared before it was kept.' };
  try {
    const json = await prepare(
      after.sha256,
      {
        kind: after.kind,
        beside: before.sha256,
        compare: { before: { page: beforePage!, vectors: was }, after: { page: afterPage!, vectors: is }, split },
      },
      'not-compared',
    );
    const { unlike, ...found } = JSON.parse(json.toString()) as ComparedPages;
    const { sha256, size } = await platform.store.putBytes(await deflate(JSON.stringify(found)));
    await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
    return {
      outcome: unlike ? 'unlike' : 'compared',
      similarity: found.similarity,
      changes: found.changes.map(withoutLines),
      counts: countChanges(found.changes),
      fileSha256: sha256,
    };
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return { outcome: 'failed', note: error.detail };
  }
}

type FoundChange = Static<typeof Change>;
function withoutLines({ ends, ...change }: FoundChange): KeptChange {
  void ends;
  return change;
}
