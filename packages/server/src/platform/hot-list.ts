import { fillPlaceholders } from 'drizzle-orm';
import pg from 'pg';

/** What a select is asked with; its statement has `sql.placeholder(name)` where a value goes. */
export type HeldValues = Record<string, unknown>;
interface Statement {
  name: string;
  text: string;
  params: unknown[];
}

const MOST_STATEMENTS = 400;
const statements = new Map<string, Statement>();

type Build = () => { toSQL(): { sql: string; params: unknown[] } };

/** Runs a select that many people ask for many times: built once for each `key` that it can take. `fields`: what was given to `select`. */
export async function hotList<T>(
  pool: pg.Pool,
  key: string,
  build: Build,
  values: HeldValues,
  fields: Record<keyof T, unknown>,
): Promise<T[]> {
  const { text, params } = statements.get(key) ?? remember(key, build().toSQL());
  const { rows } = await pool.query<unknown[]>({ text, values: fillPlaceholders(params, values), rowMode: 'array' });
  const keys = Object.keys(fields);
  return rows.map((row) => Object.fromEntries(keys.map((key, i) => [key, row[i]])) as T);
}

const AS_TEXT: pg.CustomTypesConfig = { getTypeParser: () => (value: string) => value };

/**
 * Like `hotList`, for lists that go out as they come: planned once by each connection, and each row as the JSON text that the
 * database makes of it, with the names that the columns have in the select.
 */
export async function hotJson(pool: pg.Pool, key: string, build: Build, values: HeldValues): Promise<string[]> {
  const held = statements.get(key) ?? remember(key, asJson(build().toSQL()));
  const { rows } = await pool.query<[string]>({
    ...(held.name && { name: held.name }),
    text: held.text,
    values: fillPlaceholders(held.params, values),
    rowMode: 'array',
    types: AS_TEXT,
  });
  return rows.map(([json]) => json);
}

const asJson = ({ sql, params }: { sql: string; params: unknown[] }) => ({
  sql: `select row_to_json(listed) from (${sql}) listed`,
  params,
});

/** Beyond a bound nothing is remembered: rare shapes are built each time, without a name. */
function remember(key: string, { sql: text, params }: { sql: string; params: unknown[] }): Statement {
  if (statements.size >= MOST_STATEMENTS) return { name: '', text, params };
  const statement = { name: `hot-${statements.size + 1}`, text, params };
  statements.set(key, statement);
  return statement;
}
