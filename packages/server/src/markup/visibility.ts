/** Which markups somebody gets, and who may hear of them. */
import { and, eq, or, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { notFound, requireRow } from '../platform/errors.ts';
import { pagesFor, sharedPages } from '../register/shared-sheets.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { audience } from '../register/visibility.ts';
import { markups } from './schema.ts';

type Row = typeof markups.$inferSelect;

/** Drafts are their author's alone. */
const published = (actor: Member): SQL | undefined => or(eq(markups.draft, false), eq(markups.authorId, actor.id));

/** The markups on a version that the actor gets, in the order of their numbers. */
export async function rowsOn(db: Db, actor: Member, version: VisibleVersion): Promise<Row[]> {
  const rows = await db
    .select()
    .from(markups)
    .where(and(eq(markups.versionId, version.id), published(actor)))
    .orderBy(markups.number);
  const gets = await pagesFor(db, actor, [version]);
  return rows.filter(({ page }) => gets(version.id, page));
}

export async function visibleMarkup(
  db: Db,
  actor: Member,
  markupId: string,
): Promise<{ row: Row; version: VisibleVersion }> {
  const row = requireRow(
    await db
      .select()
      .from(markups)
      .where(and(eq(markups.projectId, actor.projectId), eq(markups.id, markupId), published(actor))),
    'markup',
  );
  const version = await visibleVersion(db, actor, row.versionId);
  await requirePage(db, actor, version, row.page);
  return { row, version };
}

/** A page that others do not get does not exist for them, nor does anything on it. */
export async function requirePage(db: Db, actor: Member, version: VisibleVersion, page: number): Promise<void> {
  const gets = await pagesFor(db, actor, [version]);
  if (!gets(version.id, page)) throw notFound('sheet');
}

/** Who may hear of a markup: the team alone where others get no such page. */
export async function audienceOf(db: Db, version: VisibleVersion, page: number): Promise<string | null> {
  const { teamId } = version.container;
  if (version.shareSetId === null || version.kind !== 'drawing') return audience(version, teamId);
  const shared = (await sharedPages(db, [version.id])).get(version.id)!;
  return shared.includes(page) ? audience(version, teamId) : teamId;
}
