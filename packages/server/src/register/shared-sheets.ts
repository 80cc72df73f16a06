/** Which sheets of a drawing others get: those that the share set of its version chooses. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { isNarrowed } from './files.ts';
import type { VisibleVersion } from './versions.ts';
import { shareSets, sheets, versions } from './schema.ts';

/** Pages of each of these versions that its share set chooses, in order. */
export async function sharedPages(db: Db, versionIds: readonly string[]): Promise<Map<string, number[]>> {
  const pages = new Map(versionIds.map((id): [string, number[]] => [id, []]));
  if (!pages.size) return pages;
  const rows = await db
    .select({ versionId: sheets.versionId, page: sheets.page })
    .from(sheets)
    .innerJoin(versions, eq(versions.id, sheets.versionId))
    .innerJoin(shareSets, eq(shareSets.id, versions.shareSetId))
    .where(and(inArray(versions.id, [...pages.keys()]), sql`${sheets.number} = any(${shareSets.sheetNumbers})`))
    .orderBy(sheets.page);
  for (const { versionId, page } of rows) pages.get(versionId)!.push(page);
  return pages;
}

/** Whether the actor gets a page of one of these versions. */
export async function pagesFor(
  db: Db,
  actor: Member,
  seen: readonly VisibleVersion[],
): Promise<(versionId: string, page: number) => boolean> {
  const narrowed = seen.filter((version) => isNarrowed(actor, version));
  const shared = await sharedPages(
    db,
    narrowed.map(({ id }) => id),
  );
  return (versionId, page) => shared.get(versionId)?.includes(page) ?? true;
}
