/** Sheets of a drawing as preparation found them. */
import type { TitleBlock } from '@kindred/core/drawing/title-block';
import { and, desc, eq, getTableColumns, sql, type SQL } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { wordsBeginning } from '../platform/like.ts';
import { sheets, versions } from './schema.ts';
import type { Recognition } from '@kindred/core/drawing/recognition';

/** A page as preparation found it; the title block where there is one. */
export interface PreparedSheet {
  page: number;
  label: string;
  width: number;
  height: number;
  titleBlock?: TitleBlock;
  /** All words on it. */
  text?: string;
  /** Words stand on it that have to be recognised from its picture. */
  unread?: boolean;
}

/** What lists show of a sheet. */
const {
  versionId: _version,
  text: _text,
  words: _words,
  recognisedTexts: _recognised,
  ...columns
} = getTableColumns(sheets);
void [_version, _text, _words, _recognised];
export const sheetColumns = columns;

/** The sheet has all of these words, each at least in its beginning. */
export function hasWords(typed: string): SQL {
  const query = wordsBeginning(typed);
  return query ? sql`${sheets.words} @@ to_tsquery('simple', ${query})` : sql`false`;
}

export const labelOf = ({ number, title }: Pick<TitleBlock, 'number' | 'title'>, page: number): string =>
  [number, title].filter(Boolean).join(' ') || `Sheet ${page}`;

/**
 * Replaces the sheets of a version by those that preparation found. What was confirmed on this version stays; what says the same as
 * the confirmed sheet of the version before needs no second look.
 */
export async function replaceSheets(db: Db, versionId: string, found: readonly PreparedSheet[]): Promise<void> {
  const confirmed = await db
    .select({ sheet: columns, version: versions.id })
    .from(sheets)
    .innerJoin(versions, eq(versions.id, sheets.versionId))
    .where(
      and(
        eq(sheets.confirmed, true),
        eq(versions.containerId, sql`(select container_id from versions where id = ${versionId})`),
        sql`${versions.number} <= (select number from versions where id = ${versionId})`,
      ),
    )
    .orderBy(desc(versions.number));
  const here = new Map(confirmed.filter((row) => row.version === versionId).map(({ sheet }) => [sheet.page, sheet]));
  const known = new Set(confirmed.map(({ sheet }) => JSON.stringify([sheet.number, sheet.title])));
  await db.delete(sheets).where(eq(sheets.versionId, versionId));
  const rows = found.map(({ titleBlock, text = '', unread, ...page }) => {
    const recognition: Recognition = unread ? 'waiting' : 'none';
    const kept = here.get(page.page);
    if (kept) return { ...kept, versionId, text, recognition };
    const block = titleBlock ?? {};
    const { number = '', title = '' } = titleBlock ?? {};
    const label = number || title ? labelOf({ number, title }, page.page) : page.label;
    return {
      ...page,
      ...block,
      label,
      versionId,
      text,
      recognition,
      confirmed: known.has(JSON.stringify([number, title])),
    };
  });
  // A statement takes 65,535 values.
  for (let i = 0; i < rows.length; i += ROWS_AT_ONCE) await db.insert(sheets).values(rows.slice(i, i + ROWS_AT_ONCE));
}

const ROWS_AT_ONCE = 1000;
