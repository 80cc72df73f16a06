import { eq, getTableName, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Db } from './database.ts';

/** Waits for whoever delivers to one of these codes, until this transaction ends; always in one order, so that nobody waits in a ring. */
export async function lockCodes(db: Db, projectId: string, codes: readonly string[]): Promise<void> {
  for (const code of [...codes].sort())
    await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`code:${projectId}:${code}`}, 0))`);
}

type Numbered = PgTable & Record<'number' | 'projectId', PgColumn>;

/** The next number of a kind of thing in a project; holds a lock until the transaction ends, so numbers have no gaps or twins. */
export async function nextNumber(db: Db, table: Numbered, projectId: string): Promise<number> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${getTableName(table)}:${projectId}`}, 0))`);
  const [row] = await db
    .select({ n: sql<number>`coalesce(max(${table.number}), 0)::int + 1` })
    .from(table as PgTable)
    .where(eq(table.projectId, projectId));
  return row!.n;
}

/** One change of the order of a project's viewpoints at a time. */
export async function lockViewpoints(db: Db, projectId: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`viewpoints:${projectId}`}, 0))`);
}

/** One change of a project's folder tree at a time: each numbers the whole tree anew. */
export async function lockTree(db: Db, projectId: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`folders:${projectId}`}, 0))`);
}
