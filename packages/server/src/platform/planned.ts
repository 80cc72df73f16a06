import type { SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import type { Database } from './database.ts';

const dialect = new PgDialect();
const MOST_STATEMENTS = 400;
const names = new Map<string, string>();

/** Runs a select that comes again and again with other values: each connection plans it once. Rare ones, beyond a bound, are planned each time. */
export async function planned<T>({ $client }: Pick<Database, '$client'>, statement: SQL): Promise<T[]> {
  const { sql: text, params } = dialect.sqlToQuery(statement);
  if (!names.has(text) && names.size < MOST_STATEMENTS) names.set(text, `planned-${names.size + 1}`);
  const name = names.get(text);
  const { rows } = await $client.query({ ...(name && { name }), text, values: params });
  return rows as T[];
}
