import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Database = NodePgDatabase;
/** A transaction, or the database itself for reads. */
export type Db = Parameters<Parameters<Database['transaction']>[0]>[0] | Database;

export interface DatabaseHandle {
  pool: pg.Pool;
  db: Database;
}

export function openDatabase(url: string, max = 20): DatabaseHandle {
  const pool = new pg.Pool({ connectionString: url, max, options: '-c timezone=UTC' });
  // An idle connection that dies (the database was stopped) must not take the server with it; the next query reconnects.
  pool.on('error', () => undefined);
  // Nor one that dies while it is used: whoever uses it hears of it by their query.
  pool.on('connect', (client) => client.on('error', () => undefined));
  return { pool, db: drizzle(pool) };
}

export async function migrateDatabase({ db }: DatabaseHandle): Promise<void> {
  await migrate(db, { migrationsFolder: fileURLToPath(new URL('../../migrations', import.meta.url)) });
}

/** PostgreSQL's code for a unique constraint that would have been broken. */
export const isUniqueViolation = (error: unknown): boolean =>
  (error as { code?: string }).code === '23505' ||
  ((error as { cause?: { code?: string } }).cause?.code ?? '') === '23505';
