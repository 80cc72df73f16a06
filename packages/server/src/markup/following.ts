/** Markups that went along to a new version move with what they point at, as soon as it is known where that went. */
import type { Fate } from '@kindred/core/markup/fate';
import type { MarkupShape } from '@kindred/core/markup/shapes';
import { and, eq, sql } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { markupEditions, markups } from './schema.ts';

/** Where a shape on a page belongs now; undefined where that is not known. */
export type Follow = (shape: MarkupShape, page: number) => { shape: MarkupShape; fate: Fate } | undefined;

/** What somebody has changed since stays where they put it; what became of its content is said all the same. */
export async function moveCarriedMarkups(db: Db, fromId: string, toId: string, follow: Follow): Promise<void> {
  const rows = await db
    .select()
    .from(markups)
    .where(
      and(
        eq(markups.versionId, toId),
        sql`${markups.fate} is null and ${markups.carriedFrom} in (select source.id from markups source where source.version_id = ${fromId})`,
      ),
    );
  for (const { id, page, shape, edition } of rows) {
    const found = follow(shape, page);
    if (!found) continue;
    const untouched = edition === 1;
    await db
      .update(markups)
      .set({ fate: found.fate, ...(untouched && { shape: found.shape }) })
      .where(eq(markups.id, id));
    if (untouched)
      await db
        .update(markupEditions)
        .set({ shape: found.shape })
        .where(and(eq(markupEditions.markupId, id), eq(markupEditions.edition, 1)));
  }
}
