import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Database = NodePgDatabase & { $client: pg.Pool };
/** A transaction, or the database itself for reads. */
export type Db = Parameters<Parameters<Database['transaction']>[0]>[0] | Database;

export interface DatabaseHandle {
  pool: pg.Pool;
  db: Database;
}

export function openDatabase(url: string, max = 20): DatabaseHandle {
  // Queries here are short: compiling one with many parts takes longer than running it.
  const pool = new pg.Pool({ connectionString: url, max, options: '-c timezone=UTC -c jit=off' });
  // An idle connection that dies (the database was stopped) must not take the server with it; the next query reconnects.
  pool.on('error', () => undefined);
  // Nor one that dies while it is used: whoever uses it hears of it by their query.
  pool.on('connect', (client) => client.on('error', () => undefined));
  return { pool, db: drizzle(pool) };
}

/** Lock under which no file is removed. */
export const KEEP_BLOBS = 0x4b534b42;

/** Lock that one node at a time holds while it brings the database up to date. */
export const MIGRATION_LOCK = 0x4b534d47;

/** Runs something that only one node may do at a time; the others wait for it. */
export async function alone<T>(
  { pool }: Pick<DatabaseHandle, 'pool'>,
  lock: number,
  run: () => Promise<T>,
): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [lock]);
    return await run();
  } finally {
    // Closed, not given back: with its connection the lock is gone, whatever happened.
    client.release(true);
  }
}

export async function migrateDatabase(handle: DatabaseHandle, folder: string): Promise<void> {
  await migrate(handle.db, { migrationsFolder: folder });
}

const codeOf = (error: unknown): string | undefined =>
  (error as { code?: string }).code ?? (error as { cause?: { code?: string } }).cause?.code;

/** PostgreSQL's code for a unique constraint that would have been broken. */
export const isUniqueViolation = (error: unknown): boolean => codeOf(error) === '23505';
/** … and for a row that others still refer to. */
export const isStillReferred = (error: unknown): boolean => codeOf(error) === '23503';
