import type pg from 'pg';

const MOST_NAMES = 200;
const names = new Map<string, string>();

/** The same text gets the same name, so that each connection plans it once; beyond a bound, none. */
function statementName(text: string): string | undefined {
  let name = names.get(text);
  if (!name && names.size < MOST_NAMES) names.set(text, (name = `hot-${names.size + 1}`));
  return name;
}

/**
 * Runs a select that many people ask for many times: as a named statement, its rows read straight into objects.
 * `fields`: the object that was given to `select`, for the names of its columns.
 */
export async function hotList<T>(
  pool: pg.Pool,
  query: { toSQL(): { sql: string; params: unknown[] } },
  fields: Record<string, unknown>,
): Promise<T[]> {
  const { sql: text, params: values } = query.toSQL();
  const name = statementName(text);
  const { rows } = await pool.query<unknown[]>({ ...(name && { name }), text, values, rowMode: 'array' });
  const keys = Object.keys(fields);
  return rows.map((row) => {
    const item: Record<string, unknown> = {};
    for (let i = 0; i < keys.length; i++) item[keys[i]!] = row[i];
    return item as T;
  });
}
