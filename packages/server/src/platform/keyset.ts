import { and, asc, desc, eq, gt, lt, or, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { refused } from './errors.ts';

/** A page after a position: rows beyond (value, id) in the given order. Stable while rows come and go. */
export interface Keyset {
  where: SQL | undefined;
  orderBy: SQL[];
}

export function keyset(column: PgColumn, id: PgColumn, descending: boolean, after: string | undefined): Keyset {
  const [order, beyond] = descending ? [desc, lt] : [asc, gt];
  const orderBy = [order(column), order(id)];
  if (!after) return { where: undefined, orderBy };
  const [value, lastId] = decodeCursor(after);
  const typed = column.dataType === 'date' ? new Date(value) : column.dataType === 'number' ? Number(value) : value;
  return { where: or(beyond(column, typed), and(eq(column, typed), beyond(id, lastId))), orderBy };
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

function decodeCursor(cursor: string): [string, string] {
  try {
    const [value, id] = JSON.parse(Buffer.from(cursor, 'base64url').toString()) as [unknown, unknown];
    if (typeof id === 'string' && /^[0-9a-f-]{36}$/.test(id)) return [String(value), id];
  } catch {
    // falls through to the refusal
  }
  throw refused('bad-cursor', 'The place in the list is not one that this server gave out. Start from the first page.');
}
