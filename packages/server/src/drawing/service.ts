import type { Sheet } from '@kindred/contract/drawing/drawing';
import { and, eq, ilike } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';
import { containers } from '../register/schema.ts';
import { visibleVersion } from '../register/service.ts';
import { visibleTo } from '../register/visibility.ts';
import { sheets } from './schema.ts';

export type FoundSheet = Omit<Sheet, 'id'>;

export async function listSheets({ db }: Platform, actor: Member, versionId: string): Promise<Sheet[]> {
  const version = await visibleVersion(db, actor, versionId);
  return db
    .select({ id: sheets.id, page: sheets.page, label: sheets.label, width: sheets.width, height: sheets.height })
    .from(sheets)
    .where(eq(sheets.versionId, version.id))
    .orderBy(sheets.page);
}

/** Replaces the sheets of a version by those that preparation found. */
export async function replaceSheets(db: Db, versionId: string, found: readonly FoundSheet[]): Promise<void> {
  await db.delete(sheets).where(eq(sheets.versionId, versionId));
  if (found.length) await db.insert(sheets).values(found.map((sheet) => ({ ...sheet, versionId })));
}

/** Sheets of current versions whose label has these words. */
export async function findSheets(db: Db, actor: Member, words: string) {
  const like = `%${words.replace(/[\\%_]/g, '\\$&')}%`;
  return db
    .select({ containerId: containers.id, code: containers.code, page: sheets.page, label: sheets.label })
    .from(sheets)
    .innerJoin(containers, eq(containers.versionId, sheets.versionId))
    .where(and(visibleTo(actor), ilike(sheets.label, like)))
    .orderBy(containers.code, sheets.page)
    .limit(8);
}
