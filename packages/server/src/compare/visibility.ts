/** Which comparisons somebody gets: those of which they see both versions, and of these the sheets that they get. */
import { NO_CHANGES } from '@kindred/core/compare/change-counts';
import { and, eq, sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { requireRow } from '../platform/errors.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleVersions, type VisibleVersion } from '../register/versions.ts';
import { seesVersion } from '../register/visibility.ts';
import { comparedSheets, comparisons } from './schema.ts';

export type ComparisonRow = typeof comparisons.$inferSelect;
export type SheetRow = typeof comparedSheets.$inferSelect;

/** Over comparisons. */
export const comparisonVisibleTo = (member: Member): SQL =>
  sql`${seesVersion(member, sql`${comparisons.beforeId}`)} and ${seesVersion(member, sql`${comparisons.afterId}`)}`;

export interface VisibleComparison {
  row: ComparisonRow;
  before: VisibleVersion;
  after: VisibleVersion;
}

export async function visibleComparison(db: Db, actor: Member, id: string): Promise<VisibleComparison> {
  const rows = await db
    .select()
    .from(comparisons)
    .where(and(eq(comparisons.projectId, actor.projectId), eq(comparisons.id, id), comparisonVisibleTo(actor)));
  const [one] = await withVersions(db, actor, rows);
  return requireRow(one ? [one] : [], 'comparison');
}

export async function withVersions(
  db: Db,
  actor: Member,
  rows: readonly ComparisonRow[],
): Promise<VisibleComparison[]> {
  const ids = rows.flatMap(({ beforeId, afterId }) => [beforeId, afterId]);
  const versions = new Map((await visibleVersions(db, actor, ids)).map((version) => [version.id, version]));
  return rows.flatMap((row) => {
    const [before, after] = [versions.get(row.beforeId), versions.get(row.afterId)];
    return before && after ? [{ row, before, after }] : [];
  });
}

/** Of a pair of which somebody gets one sheet only, nothing is said but that this one is there. */
export async function sheetsFor(
  db: Db,
  actor: Member,
  comparisons: readonly VisibleComparison[],
): Promise<(comparison: VisibleComparison, sheets: readonly SheetRow[]) => SheetRow[]> {
  const gets = await pagesFor(
    db,
    actor,
    comparisons.flatMap(({ before, after }) => [before, after]),
  );
  return ({ before, after }, sheets) =>
    sheets.flatMap((sheet) => {
      const was = sheet.beforePage !== null && gets(before.id, sheet.beforePage);
      const is = sheet.afterPage !== null && gets(after.id, sheet.afterPage);
      if (was === (sheet.beforePage !== null) && is === (sheet.afterPage !== null)) return [sheet];
      if (!was && !is) return [];
      return [
        {
          ...sheet,
          ...HIDDEN,
          ...(is ? { beforePage: null, outcome: 'added' as const } : { afterPage: null, outcome: 'removed' as const }),
        },
      ];
    });
}
const HIDDEN = {
  changes: [],
  counts: NO_CHANGES,
  split: false,
  note: '',
  fileSha256: null,
};
