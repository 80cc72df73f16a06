/** Which elements of a model have to be looked at again, for those who know how it was before. */
import { and, eq } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { changedElements, comparisons } from './schema.ts';

/** GlobalIds of all that is new, gone or not as it was; null where that is not known, or everything else may have moved too. */
export async function changedBetween(db: Db, beforeId: string, afterId: string): Promise<Set<string> | null> {
  if (beforeId === afterId) return new Set();
  const [comparison] = await db
    .select({ id: comparisons.id })
    .from(comparisons)
    .where(
      and(
        eq(comparisons.beforeId, beforeId),
        eq(comparisons.afterId, afterId),
        eq(comparisons.status, 'ready'),
        eq(comparisons.restStays, true),
      ),
    );
  if (!comparison) return null;
  const rows = await db
    .select({ globalId: changedElements.globalId, formerId: changedElements.formerId })
    .from(changedElements)
    .where(eq(changedElements.comparisonId, comparison.id));
  return new Set(rows.flatMap(({ globalId, formerId }) => (formerId ? [globalId, formerId] : [globalId])));
}
