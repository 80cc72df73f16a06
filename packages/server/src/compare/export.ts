/** A report of a comparison, made by a long job. */
import { changesIn } from '@kindred/core/compare/change-counts';
import type { Brief, SheetChanges, startComparisonExport as operation } from '@kindred/contract/compare/compare';
import type { Body } from '@kindred/contract/platform/operation';
import { whereOf } from '@kindred/core/compare/zone';
import { counted } from '@kindred/words/sentence';
import { OUTCOME_WORDS, sayChange, sayVerdict } from '@kindred/words/sheet-changes';
import { and, eq } from 'drizzle-orm';
import { Readable } from 'node:stream';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import type { ComparisonReport, ReportedSheet, ReportTable } from '../preparation/messages.ts';
import { prepareOnce } from '../preparation/once.ts';
import { contentFor } from '../register/files.ts';
import { sheets as registered } from '../register/schema.ts';
import { briefFor } from './brief.ts';
import { modelWorkbook } from './model-workbook.ts';
import { listSheetChanges, showComparison } from './service.ts';
import { visibleComparison, type VisibleComparison } from './visibility.ts';

type Wanted = Body<typeof operation>;
type Sheet = Awaited<ReturnType<typeof showComparison>>['sheets'][number];

const FILES = {
  pdf: 'application/pdf',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;
const nameOf = ({ before, after }: VisibleComparison): string =>
  `Changes of ${after.container.code}, version ${before.number} to ${after.number}`;

export const startComparisonExport = (platform: Platform, actor: Member, comparisonId: string, { as }: Wanted) =>
  change(platform, actor, async (unit) => {
    const comparison = await visibleComparison(unit.db, actor, comparisonId);
    if (comparison.row.status !== 'ready')
      throw refused('not-ready', 'This comparison has not come to its end yet. Nothing was begun.');
    const { before, after } = comparison;
    const isModel = after.kind === 'model';
    if (isModel && as === 'pdf')
      throw refused('not-as-pdf', 'Changes of a model are exported as XLSX. Nothing was begun.');
    return startLongJob(unit, actor, {
      kind: 'comparison export',
      name: `${nameOf(comparison)}.${as}`,
      path: `${isModel ? 'models' : 'sheets'}/${after.containerId}/changes?before=${before.number}&after=${after.number}`,
      data: { comparisonId, as },
    });
  });

export const comparisonExport: LongJobKind<Wanted & { comparisonId: string }> = {
  kind: 'comparison export',
  async run(platform, { data: { comparisonId, as }, owner, progress }) {
    const comparison = await visibleComparison(platform.db, owner, comparisonId);
    const { before, after } = comparison;
    if (after.kind === 'model')
      return {
        ...{ name: `${nameOf(comparison)}.xlsx`, mediaType: FILES.xlsx },
        content: modelWorkbook(platform.db, comparisonId, progress),
      };
    const report = await reportOf(platform, owner, comparison, as, progress);
    const beside = await contentFor(platform, owner, before);
    const sha256 = await contentFor(platform, owner, after);
    const content = await prepareOnce(platform, sha256, { kind: 'drawing', beside, report }, 'not-reported');
    return { name: `${nameOf(comparison)}.${as}`, mediaType: FILES[as], content: Readable.from([content]) };
  },
};

async function reportOf(
  platform: Platform,
  owner: Member,
  comparison: VisibleComparison,
  as: Wanted['as'],
  progress: (done: number) => Promise<void>,
): Promise<ComparisonReport> {
  const { id } = comparison.row;
  const { comparison: shown, sheets } = await showComparison(platform, owner, id);
  const brief = await briefFor(platform.db, owner, comparison);
  const asked = new Map(brief.changes.map((one) => [`${one.position} ${one.number}`, one]));
  const numbers = new Map(brief.requests.map((request, i) => [request.id, i + 1]));
  const reported: ReportedSheet[] = [];
  for (const [i, sheet] of sheets.entries()) {
    await progress((0.5 * i) / sheets.length);
    if (sheet.outcome !== 'compared' || sheet.beforePage === null || sheet.afterPage === null) continue;
    const { similarity, changes } = JSON.parse(
      (await listSheetChanges(platform, owner, id, sheet.position)).text,
    ) as SheetChanges;
    if (!changes.length) continue;
    const size = await sizeOf(platform, comparison.after.id, sheet.afterPage);
    reported.push({
      title: nameOfSheet(sheet),
      ...{ beforePage: sheet.beforePage, afterPage: sheet.afterPage, similarity },
      changes: changes.map((found) => ({
        ...found,
        cells: [
          String(found.number),
          sayChange(found),
          whereOf(found, size),
          sayAsked(asked.get(`${sheet.position} ${found.number}`), numbers),
        ],
      })),
    });
  }
  return {
    as,
    title: `${nameOf(comparison)} (${comparison.before.revision || '–'} to ${comparison.after.revision || '–'})`,
    verdict: sayVerdict(shown.counts, shown.brief),
    tables: [...(brief.requests.length ? [briefTable(brief, sheets)] : []), sheetTable(sheets)],
    columns: [
      { head: 'No.', width: 6 },
      { head: 'What changed', width: 46 },
      { head: 'Zone', width: 7 },
      { head: 'Asked for', width: 26 },
    ],
    sheets: reported,
  };
}

async function sizeOf({ db }: Platform, versionId: string, page: number): Promise<[number, number]> {
  const [row] = await db
    .select({ width: registered.width, height: registered.height })
    .from(registered)
    .where(and(eq(registered.versionId, versionId), eq(registered.page, page)));
  return [row!.width, row!.height];
}

const nameOfSheet = ({ number, title, afterPage, beforePage }: Sheet): string =>
  [number, title].filter(Boolean).join(' ') || `Page ${afterPage ?? beforePage}`;

function sayAsked(said: Brief['changes'][number] | undefined, numbers: ReadonlyMap<string, number>): string {
  if (!said) return '';
  const words = said.asked ? 'Asked for' : 'Not asked for';
  const requests = said.asked ? said.requestIds.map((id) => numbers.get(id)).join(', ') : '';
  const by = said.ticked ? ` (${said.by?.name ?? ''})` : ' (proposed)';
  return `${words}${requests && `: request ${requests}`}${by}`;
}

function briefTable({ requests }: Brief, sheets: readonly Sheet[]): ReportTable {
  const names = new Map(sheets.map((sheet) => [sheet.position, nameOfSheet(sheet)]));
  return {
    title: 'Brief',
    columns: [
      { head: 'No.', width: 6 },
      { head: 'Request', width: 60 },
      { head: 'By', width: 20 },
      { head: 'Found', width: 40 },
    ],
    rows: requests.map(({ text, by, changes }, i) => [
      String(i + 1),
      text,
      by.name,
      changes.length
        ? changes.map(({ position, number }) => `${names.get(position)}: change ${number}`).join('; ')
        : 'Missing',
    ]),
  };
}

function sheetTable(sheets: readonly Sheet[]): ReportTable {
  return {
    title: 'Sheets',
    columns: [
      { head: 'Sheet', width: 50 },
      { head: 'Changes', width: 40 },
    ],
    rows: sheets.map((sheet) => {
      const { outcome, counts, formerNumber } = sheet;
      const changes = changesIn(counts);
      const said =
        outcome === 'compared' ? (changes ? counted(changes, 'change') : 'nothing changed') : OUTCOME_WORDS[outcome];
      return [nameOfSheet(sheet), formerNumber ? `${said}; was ${formerNumber}` : said];
    }),
  };
}
