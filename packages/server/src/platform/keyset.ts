import { asc, desc, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { refused } from './errors.ts';

/** A page after a position: rows beyond (value, tie) in the given order. Stable while rows come and go. */
export interface Keyset {
  where: SQL | undefined;
  orderBy: SQL[];
}

/** The position that a cursor stands for, as the column compares it. */
export function positionOf(
  column: PgColumn,
  tieColumn: PgColumn,
  after: string,
): { value: string | number | Date; tie: string } {
  const [value, tie] = decodeCursor(after);
  if (tieColumn.dataType === 'string' && tieColumn.getSQLType() === 'uuid' && !/^[0-9a-f-]{36}$/.test(tie))
    throw badCursor();
  if (tieColumn.dataType === 'number' && !/^\d{1,15}$/.test(tie)) throw badCursor();
  const typed = column.dataType === 'date' ? new Date(value) : column.dataType === 'number' ? Number(value) : value;
  if (Number.isNaN(Number(typed)) && column.dataType !== 'string') throw badCursor();
  return { value: typed, tie };
}

/** What a list is asked for, page by page. */
export interface PageAsked {
  limit?: number;
  after?: string;
}

/** The page that is asked for: where it begins, and how many rows to fetch to know whether more follow. */
export function pageOf(
  column: PgColumn,
  tie: PgColumn,
  descending: boolean,
  { limit = 100, after }: PageAsked,
): Keyset & { limit: number } {
  const position = after === undefined ? undefined : positionOf(column, tie, after);
  return { ...keyset(column, tie, descending, position), limit };
}

/** What a list is ordered by where that is no column: `type` as PostgreSQL knows it, no value null. */
export interface OrderedBy {
  value: SQL;
  type: 'integer' | 'text' | 'timestamptz';
}
const LOOKS_LIKE: Record<OrderedBy['type'], RegExp> = {
  integer: /^-?\d{1,9}$/,
  text: /^/,
  timestamptz: /^\d{4}-\d\d-\d\d[ T][\d:.+Z-]{5,25}$/,
};

/** As `pageOf`, by a computed value, which has to be selected as `position` (text) for the cursor. */
export function pageBy(
  { value, type }: OrderedBy,
  tie: PgColumn,
  descending: boolean,
  { limit = 100, after }: PageAsked,
): Keyset & { limit: number; position: SQL<string> } {
  const [order, beyond] = descending ? [desc, sql.raw('<')] : [asc, sql.raw('>')];
  const kept = { orderBy: [order(value), order(tie)], limit, position: sql<string>`(${value})::text` };
  if (after === undefined) return { ...kept, where: undefined };
  const [last, id] = decodeCursor(after);
  if (!LOOKS_LIKE[type].test(last) || !/^[0-9a-f-]{36}$/.test(id)) throw badCursor();
  return { ...kept, where: sql`(${value}, ${tie}) ${beyond} (${last}::${sql.raw(type)}, ${id}::uuid)` };
}

/** `tie` orders rows of one value, and has no two alike. `position`: values, or placeholders for them. */
export function keyset(
  column: PgColumn,
  tie: PgColumn,
  descending: boolean,
  position: { value: unknown; tie: unknown } | undefined,
): Keyset {
  const [order, beyond] = descending ? [desc, sql.raw('<')] : [asc, sql.raw('>')];
  const alone = column === tie;
  const orderBy = alone ? [order(tie)] : [order(column), order(tie)];
  if (!position) return { where: undefined, orderBy };
  const last = sql.param(position.tie, tie);
  const where = alone
    ? sql`${tie} ${beyond} ${last}`
    : sql`(${column}, ${tie}) ${beyond} (${sql.param(position.value, column)}, ${last})`;
  return { where, orderBy };
}

/** At most `limit` of `rows` (fetched with one more), and the cursor after the last. */
export function page<T>(
  rows: T[],
  limit: number,
  position: (row: T) => [unknown, string],
): { items: T[]; next: string | null } {
  const items = rows.slice(0, limit);
  const last = items.at(-1);
  return { items, next: rows.length > limit && last ? encodeCursor(position(last)) : null };
}

const encodeCursor = ([value, id]: [unknown, string]): string =>
  Buffer.from(JSON.stringify([value instanceof Date ? value.toISOString() : value, id])).toString('base64url');

export function decodeCursor(cursor: string): [string, string] {
  try {
    const [value, id] = JSON.parse(Buffer.from(cursor, 'base64url').toString()) as [unknown, unknown];
    if (typeof id === 'string' && id.length <= 400) return [String(value), id];
  } catch {
    // falls through to the refusal
  }
  throw badCursor();
}

export const badCursor = () =>
  refused('bad-cursor', 'The place in the list is not one that this server gave out. Start from the first page.');
