/** The sheets of drawings: what their title blocks say, corrected and confirmed by people. */
import type { RegisteredSheet, Sheet } from '@kindred/contract/drawing/drawing';
import type { TitleBlock } from '@kindred/core/drawing/title-block';
import { and, eq, ilike, or, sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { containing } from '../platform/like.ts';
import { badCursor, decodeCursor, page, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { noteUse } from '../register/exchange.ts';
import { entriesToChange, visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { entries, sheets, titleBlockLayouts, versions } from '../register/schema.ts';
import { renewShareCopies } from '../register/share-sets.ts';
import { audience, visibleTo } from '../register/visibility.ts';
import { labelOf, sheetColumns as columns } from '../register/sheets.ts';
import { lessonsOf } from './teaching.ts';
import { pagesFor } from '../register/shared-sheets.ts';

async function sheetsOf(db: Db, actor: Member, version: VisibleVersion): Promise<Sheet[]> {
  const rows = await db.select(columns).from(sheets).where(eq(sheets.versionId, version.id)).orderBy(sheets.page);
  const gets = await pagesFor(db, actor, [version]);
  return rows.filter(({ page }) => gets(version.id, page));
}

export async function listSheets({ db }: Platform, actor: Member, versionId: string): Promise<Sheet[]> {
  const version = await visibleVersion(db, actor, versionId);
  await noteUse(db, actor, version, 'opened');
  return sheetsOf(db, actor, version);
}

/** Corrects what was read from the title blocks; from then on it counts. */
export async function confirmSheets(
  platform: Platform,
  actor: Member,
  versionId: string,
  wanted: ({ page: number } & TitleBlock)[],
): Promise<Sheet[]> {
  const seen = await visibleVersion(platform.db, actor, versionId);
  const lessons = await lessonsOf(platform, versionId, await sheetsOf(platform.db, actor, seen), wanted);
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const version = await visibleVersion(db, actor, versionId);
    await entriesToChange(db, actor, [version.containerId]);
    const numbers = wanted.map(({ number }) => number).filter(Boolean);
    const twice = numbers.find((number, i) => numbers.indexOf(number) !== i);
    if (twice) throw refused('number-twice', `Two sheets have the number “${twice}”. Nothing was saved.`);
    const before = await sheetsOf(db, actor, version);
    for (const { page, ...block } of wanted)
      await db
        .update(sheets)
        .set({ ...block, label: labelOf(block, page), confirmed: true, proposed: null })
        .where(and(eq(sheets.versionId, versionId), eq(sheets.page, page)));
    for (const lesson of lessons)
      await db
        .insert(titleBlockLayouts)
        .values({ ...lesson, projectId: actor.projectId, taughtBy: actor.id, taughtAt: now() });
    await renewShareCopies(unit, eq(versions.id, versionId));
    await record({
      projectId: actor.projectId,
      verb: 'sheets confirmed',
      subjectType: 'container',
      subjectId: version.containerId,
      before: before.map(({ page, number, title }) => ({ page, number, title })),
      after: wanted.map(({ page, number, title }) => ({ page, number, title })),
      teamId: audience(version, version.container.teamId),
    });
    return sheetsOf(db, actor, version);
  });
}

/** Sheets with the entries that show their versions. */
const currentSheets = (db: Db) =>
  db
    .select({
      ...columns,
      containerId: entries.containerId,
      versionId: entries.versionId,
      code: entries.code,
    })
    .from(sheets)
    .innerJoin(entries, eq(entries.versionId, sheets.versionId))
    .innerJoin(versions, eq(versions.id, sheets.versionId))
    .$dynamic();

/** Whatever share sets chose. */
export const getsEverySheet = (actor: Member): boolean => actor.standing.administrator;

/** Over sheets with their versions and entries: in the version, of another team than the actor's, the sheet is among the shared ones. */
export const inShareSet = (actor: Member) =>
  getsEverySheet(actor)
    ? undefined
    : or(
        sql`${versions.shareSetId} is null`,
        actor.teamId ? eq(entries.teamId, actor.teamId) : undefined,
        sql`${sheets.number} = any(select unnest(sheet_numbers) from share_sets where id = ${versions.shareSetId})`,
      );

/** By number, those without one at the end; of one number in the order of their drawings and pages. */
const SHEET_ORDER = sql`(${sheets.number} = '', ${sheets.number}, ${entries.code}, ${sheets.page}, ${sheets.id})`;

export async function listSheetRegister(
  db: Db,
  actor: Member,
  { q, unconfirmed, limit = 100, after }: PageAsked & { q?: string; unconfirmed?: boolean },
): Promise<{ items: RegisteredSheet[]; next: string | null }> {
  const rows = await currentSheets(db)
    .where(
      and(
        visibleTo(actor),
        inShareSet(actor),
        eq(entries.atIntake, false),
        eq(entries.kind, 'drawing'),
        unconfirmed ? eq(sheets.confirmed, false) : undefined,
        q ? or(ilike(sheets.label, containing(q)), ilike(entries.code, containing(q))) : undefined,
        after === undefined ? undefined : sql`${SHEET_ORDER} > ${sheetPosition(after)}`,
      ),
    )
    .orderBy(SHEET_ORDER)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ number, code, page, id }) => [JSON.stringify([number, code, page]), id]);
  return {
    items: items.map(({ label: _label, width: _width, height: _height, proposed: _proposed, ...row }) => {
      void [_label, _width, _height, _proposed];
      return row;
    }),
    next,
  };
}

function sheetPosition(after: string): SQL {
  const [value, id] = decodeCursor(after);
  const [number, code, page] = partsOf(value);
  if (typeof number !== 'string' || typeof code !== 'string' || !Number.isInteger(page) || !/^[0-9a-f-]{36}$/.test(id))
    throw badCursor();
  return sql`(${number === ''}::boolean, ${number}::text, ${code}::text, ${page}::int, ${id}::uuid)`;
}

function partsOf(value: string): unknown[] {
  try {
    const parts: unknown = JSON.parse(value);
    return Array.isArray(parts) ? parts : [];
  } catch (error) {
    if (error instanceof SyntaxError) throw badCursor();
    throw error;
  }
}
