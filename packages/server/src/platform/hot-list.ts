import { fillPlaceholders } from 'drizzle-orm';
import pg from 'pg';

/** What a select is asked with; its statement has `sql.placeholder(name)` where a value goes. */
export type HeldValues = Record<string, unknown>;
interface Statement {
  name: string;
  text: string;
  params: unknown[];
}

const TIMESTAMPTZ: number = pg.types.builtins.TIMESTAMPTZ;
/** `2026-01-31 09:30:00.5+00`, as the session in UTC writes it, to `2026-01-31T09:30:00.5Z`: no need to make a date of it and write that again. */
const momentText = (text: string): string => `${text.slice(0, 10)}T${text.slice(11, -3)}Z`;
const AS_TEXT: pg.CustomTypesConfig = {
  getTypeParser: ((id: number, format?: 'text') =>
    id === TIMESTAMPTZ ? momentText : pg.types.getTypeParser(id, format)) as typeof pg.types.getTypeParser,
};

const MOST_STATEMENTS = 400;
const statements = new Map<string, Statement>();

/**
 * Runs a select that many people ask for many times: built once for each `shape` that it can take, planned once by each
 * connection, its rows read straight into objects, moments as ISO text. `fields`: the object that was given to `select`, for the names of its columns.
 */
export async function hotList<T>(
  pool: pg.Pool,
  shape: string,
  build: () => { toSQL(): { sql: string; params: unknown[] } },
  values: HeldValues,
  fields: Record<string, unknown>,
  /** Counting much is planned anew each time, for the values it is asked with: that costs little beside the counting. */
  planOnce = true,
): Promise<T[]> {
  const { name, text, params } = statements.get(shape) ?? remember(shape, build());
  const { rows } = await pool.query<unknown[]>({
    ...(name && planOnce && { name }),
    text,
    values: fillPlaceholders(params, values),
    rowMode: 'array',
    types: AS_TEXT,
  });
  const keys = Object.keys(fields);
  return rows.map((row) => {
    const item: Record<string, unknown> = {};
    for (let i = 0; i < keys.length; i++) item[keys[i]!] = row[i];
    return item as T;
  });
}

/** Beyond a bound nothing is remembered: rare shapes are built each time, without a name. */
function remember(shape: string, query: { toSQL(): { sql: string; params: unknown[] } }): Statement {
  const { sql: text, params } = query.toSQL();
  if (statements.size >= MOST_STATEMENTS) return { name: '', text, params };
  const statement = { name: `hot-${statements.size + 1}`, text, params };
  statements.set(shape, statement);
  return statement;
}
