/** Comparisons as people see them. */
import { addCounts, NO_CHANGES } from '@kindred/core/compare/change-counts';
import type {
  ComparedSheet,
  Comparison,
  ComparisonView,
  ModelChange,
  SheetChanges,
} from '@kindred/contract/compare/compare';
import { and, asc, eq, getTableColumns, inArray } from 'drizzle-orm';
import { buffer } from 'node:stream/consumers';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused } from '../platform/errors.ts';
import { JsonText } from '../platform/json-text.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { sheets, versions } from '../register/schema.ts';
import { allVisible, type VisibleVersion } from '../register/versions.ts';
import { briefsOf, countsOn } from './brief.ts';
import { compareVersions, isCompared } from './pairs.ts';
import { changedElements, comparedSheets, comparisons } from './schema.ts';
import {
  comparisonVisibleTo,
  sheetsFor,
  visibleComparison,
  withVersions,
  type SheetRow,
  type VisibleComparison,
} from './visibility.ts';

const inflate = promisify(gunzip);

export interface ComparisonQuery {
  after?: string;
  limit?: number;
  containerId?: string;
  beforeId?: string;
  afterId?: string;
}

export async function listComparisons({ db }: Platform, actor: Member, query: ComparisonQuery) {
  const { where, orderBy, limit } = pageOf(comparisons.askedAt, comparisons.id, true, query);
  const { containerId } = query;
  const ofContainer =
    containerId &&
    inArray(
      comparisons.afterId,
      db.select({ id: versions.id }).from(versions).where(eq(versions.containerId, containerId)),
    );
  const rows = await db
    .select()
    .from(comparisons)
    .where(
      and(
        eq(comparisons.projectId, actor.projectId),
        ofContainer || undefined,
        query.beforeId ? eq(comparisons.beforeId, query.beforeId) : undefined,
        query.afterId ? eq(comparisons.afterId, query.afterId) : undefined,
        comparisonVisibleTo(actor),
        where,
      ),
    )
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ askedAt, id }) => [askedAt, id]);
  return {
    items: (await views(db, actor, await withVersions(db, actor, items))).map(({ comparison }) => comparison),
    next,
  };
}

export async function showComparison({ db }: Platform, actor: Member, id: string): Promise<ComparisonView> {
  return (await views(db, actor, [await visibleComparison(db, actor, id)]))[0]!;
}

export async function askComparison(
  platform: Platform,
  actor: Member,
  { beforeId, afterId }: { beforeId: string; afterId: string },
): Promise<ComparisonView> {
  if (beforeId === afterId) throw refused('one-version', 'A version is compared with another one. Nothing was begun.');
  const id = await change(platform, actor, async (unit) => {
    const both = await allVisible(unit.db, actor, [beforeId, afterId]);
    for (const { kind, preparation, number } of both) {
      if (!isCompared(kind) || kind !== both[0]!.kind)
        throw refused(
          'not-comparable',
          'Drawings are compared with drawings, and models with models. Nothing was begun.',
        );
      if (preparation !== 'ready')
        throw refused(
          'not-ready',
          preparation === 'failed'
            ? `Version ${number} could not be prepared, so it cannot be compared. Nothing was begun.`
            : `Version ${number} is being prepared; it can be compared as soon as it is ready. Nothing was begun.`,
        );
    }
    return compareVersions(unit, { projectId: actor.projectId, beforeId, afterId });
  });
  return showComparison(platform, actor, id);
}

export async function cancelComparison(platform: Platform, actor: Member, id: string): Promise<ComparisonView> {
  const { row } = await visibleComparison(platform.db, actor, id);
  const [cancelled] = await platform.db
    .update(comparisons)
    .set({ status: 'cancelled' })
    .where(and(eq(comparisons.id, row.id), inArray(comparisons.status, ['waiting', 'comparing'])))
    .returning({ id: comparisons.id });
  if (!cancelled) throw refused('comparison-ended', 'This comparison has ended already.');
  return showComparison(platform, actor, id);
}

/** All of a model's changes, in order. */
export async function listModelChanges(
  { db }: Platform,
  actor: Member,
  id: string,
  asked: PageAsked,
): Promise<{ items: ModelChange[]; next: string | null }> {
  await visibleComparison(db, actor, id);
  const { where, orderBy, limit } = pageOf(changedElements.number, changedElements.number, false, asked);
  const rows = await db
    .select({ change: changedElements.change })
    .from(changedElements)
    .where(and(eq(changedElements.comparisonId, id), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const found = page(rows, limit, ({ change: { number } }) => [number, String(number)]);
  return { ...found, items: found.items.map((row) => row.change) };
}

/** All of a sheet's changes, as they were found. */
export async function listSheetChanges(
  platform: Platform,
  actor: Member,
  id: string,
  position: number,
): Promise<JsonText<SheetChanges>> {
  const { db, store } = platform;
  const comparison = await visibleComparison(db, actor, id);
  const rows = await db
    .select()
    .from(comparedSheets)
    .where(and(eq(comparedSheets.comparisonId, id), eq(comparedSheets.position, position)));
  const [sheet] = (await sheetsFor(db, actor, [comparison]))(comparison, rows);
  if (!sheet?.fileSha256) throw notFound('sheet');
  return new JsonText((await inflate(await buffer(await store.read(sheet.fileSha256)))).toString());
}

const named = ({ id, containerId, container, number, revision }: VisibleVersion) => ({
  ...{ id, containerId, code: container.code, number, revision },
});

/** Sheets of a comparison that the actor gets, in order. */
export async function visibleSheets(db: Db, actor: Member, comparison: VisibleComparison): Promise<SheetRow[]> {
  const rows = await db
    .select()
    .from(comparedSheets)
    .where(eq(comparedSheets.comparisonId, comparison.row.id))
    .orderBy(asc(comparedSheets.position));
  return (await sheetsFor(db, actor, [comparison]))(comparison, rows);
}

async function views(db: Db, actor: Member, all: readonly VisibleComparison[]): Promise<ComparisonView[]> {
  if (!all.length) return [];
  const names = await sheetNames(
    db,
    all.flatMap(({ before, after }) => [before.id, after.id]),
  );
  const briefs = await briefsOf(db, actor, all);
  const ids = all.map(({ row }) => row.id);
  const rows = await sheetRows(db, ids, [...briefs.keys()]);
  const gets = await sheetsFor(db, actor, all);
  return all.map((comparison) => {
    const { row, before, after } = comparison;
    const shown = gets(
      comparison,
      rows.filter(({ comparisonId }) => comparisonId === row.id),
    );
    const brief = briefs.get(row.id);
    const held = brief?.hold(shown);
    const listed = shown.map((sheet): ComparedSheet => {
      const was = names.get(`${before.id} ${sheet.beforePage}`);
      const is = names.get(`${after.id} ${sheet.afterPage}`) ?? was;
      const { position, beforePage, afterPage, outcome, split, note, counts } = sheet;
      return {
        ...{ position, beforePage, afterPage, outcome, split, note, counts },
        number: is?.number ?? '',
        formerNumber: was && is && was.number !== is.number ? was.number : '',
        title: is?.title || is?.label || '',
        brief: brief && held ? countsOn(held, brief.requests, sheet) : null,
      };
    });
    return {
      comparison: {
        id: row.id,
        kind: after.kind === 'model' ? 'model' : 'drawing',
        before: named(before),
        after: named(after),
        title: after.title,
        status: row.status,
        sheets: listed.length,
        done: listed.filter(({ outcome }) => outcome !== 'waiting').length,
        counts: listed.map(({ counts }) => counts).reduce(addCounts, NO_CHANGES),
        addedSheets: listed.filter(({ outcome }) => outcome === 'added').length,
        removedSheets: listed.filter(({ outcome }) => outcome === 'removed').length,
        brief: held?.counts ?? null,
        askedAt: row.askedAt.toISOString(),
      } satisfies Comparison,
      sheets: listed,
    };
  });
}

/** Sheets in order; with their changes only those of `full`. */
async function sheetRows(db: Db, ids: readonly string[], full: readonly string[]): Promise<SheetRow[]> {
  const { changes, ...light } = getTableColumns(comparedSheets);
  const of = (some: readonly string[], columns: typeof light | (typeof light & { changes: typeof changes })) =>
    db
      .select(columns)
      .from(comparedSheets)
      .where(inArray(comparedSheets.comparisonId, [...some]))
      .orderBy(asc(comparedSheets.position));
  const rest = await of(
    ids.filter((id) => !full.includes(id)),
    light,
  );
  const all = full.length ? await of(full, { ...light, changes }) : [];
  return [...rest.map((row) => ({ ...row, changes: [] })), ...all] as SheetRow[];
}

/** By version and page. */
async function sheetNames(db: Db, versionIds: readonly string[]) {
  const { versionId, page: number, label, title } = sheets;
  const rows = await db
    .select({ versionId, page: number, label, title, number: sheets.number })
    .from(sheets)
    .where(inArray(sheets.versionId, [...new Set(versionIds)]));
  return new Map(rows.map((row) => [`${row.versionId} ${row.page}`, row]));
}
