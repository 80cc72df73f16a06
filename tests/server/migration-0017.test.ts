/** Markups of an older release become threads with a first edition. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { migrateDatabase, type DatabaseHandle } from '../../packages/server/src/platform/database.ts';
import { MIGRATIONS, olderDatabase } from './older-release.ts';

let handle: DatabaseHandle;
beforeAll(async () => {
  handle = await olderDatabase('0016_markup_style');
});
afterAll(() => handle.pool.end());

const [PROJECT, VERSION, PERSON, PUBLISHED, DRAFT] = Array.from({ length: 5 }, () => crypto.randomUUID());

it('what was published has an edition to come back to, a draft has none', async () => {
  const query = (text: string, values: unknown[] = []) => handle.pool.query<Record<string, unknown>>(text, values);
  // Only what the migration changes is there: what these rows point to is not.
  await query(`set session_replication_role = replica`);
  await query(
    `insert into users (id, name, email, initials, colour, created_at) values ($1, 'A', 'a@test.example', 'A', '#000000', now())`,
    [PERSON],
  );
  for (const [id, number, draft] of [
    [PUBLISHED, 1, false],
    [DRAFT, 2, true],
  ])
    await query(
      `insert into markups (id, project_id, version_id, page, number, shape, text, status, draft, author_id, edition, created_at)
       values ($1, $2, $3, 1, $4, '{"kind":"note","points":[[1,2]]}', 'Look', 'ask', $5, $6, 3, '2026-10-01T08:00:00Z')`,
      [id, PROJECT, VERSION, number, draft, PERSON],
    );
  await migrateDatabase(handle, MIGRATIONS);
  const { rows } = await query('select id, thread_id, updated_at, tag from markups order by number');
  const at = new Date('2026-10-01T08:00:00Z');
  expect(rows).toEqual([
    { id: PUBLISHED, thread_id: PUBLISHED, updated_at: at, tag: null },
    { id: DRAFT, thread_id: DRAFT, updated_at: at, tag: null },
  ]);
  const editions = await query('select markup_id, edition, text, status, by_id, at from markup_editions');
  expect(editions.rows).toEqual([{ markup_id: PUBLISHED, edition: 3, text: 'Look', status: 'ask', by_id: PERSON, at }]);
});
