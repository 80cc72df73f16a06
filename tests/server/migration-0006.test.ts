/** An installation that is older by a release finds its things again under their new names. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { migrateDatabase, type DatabaseHandle } from '../../packages/server/src/platform/database.ts';
import { MIGRATIONS, olderDatabase } from './older-release.ts';

let handle: DatabaseHandle;
beforeAll(async () => {
  handle = await olderDatabase('0005_shared_sheets');
});
afterAll(() => handle.pool.end());

const [PROJECT, CONTAINER, PERSON, FIRST, SECOND, THIRD] = Array.from({ length: 6 }, () => crypto.randomUUID());

it('versions, events and kept views say the same in the words of today', async () => {
  const query = (text: string, values: unknown[] = []) => handle.pool.query<Record<string, unknown>>(text, values);
  // Only what the migration changes is there: what these rows point to is not.
  await query(`set session_replication_role = replica`);
  for (const [id, number, place] of [
    [FIRST, 1, 'in line'],
    [SECOND, 2, 'contested'],
    [THIRD, 3, 'set aside'],
  ])
    await query(
      `insert into versions (id, project_id, container_id, number, file_name, media_type, kind, size, sha256, preparation, delivered_at, delivered_by, state, place)
       values ($1, $2, $3, $4, 'a.pdf', 'application/pdf', 'drawing', 1, 'x', 'ready', now(), $5, 'shared', $6)`,
      [id, PROJECT, CONTAINER, number, PERSON, place],
    );
  const told: [type: string, verb: string, after: object | null, actor: string | null][] = [
    ['version', 'version 1 delivered', { version: 1 }, PERSON!],
    ['version', 'version 2 delivered beside the line', { version: 2 }, PERSON!],
    ['container', 'version 1 made current again', { version: 3 }, PERSON!],
    ['container', 'version 2 set aside', { version: 2 }, PERSON!],
    ['container', 'version 12 taken', { version: 12 }, PERSON!],
    ['project', '3 files downloaded', { codes: ['A', 'B', 'C'] }, PERSON!],
    ['convention', 'edition 4 made', { edition: 4 }, PERSON!],
    ['container', 'preparation ready', null, null],
    ['container', 'changed', { title: 'x' }, PERSON!],
  ];
  for (const [type, verb, after, actor] of told)
    await query(
      `insert into events (project_id, actor_id, at, verb, subject_type, subject_id, after) values ($1, $2, now(), $3, $4, $5, $6)`,
      [PROJECT, actor, verb, type, CONTAINER, after],
    );
  await query(
    `insert into register_views (project_id, owner_id, name, definition) values ($1, $2, 'Mine', '{"filters":{"contested":"1"}}')`,
    [PROJECT, PERSON],
  );
  await query(`set session_replication_role = default`);

  await migrateDatabase(handle, MIGRATIONS);

  const { rows: versions } = await query('select number, sequence from versions order by number');
  expect(versions.map(({ sequence }) => sequence)).toEqual(['in sequence', 'conflicting', 'set aside']);
  const { rows: events } = await query('select verb, subject_id, system, after from events order by id');
  expect(events.map(({ verb }) => verb)).toEqual([
    'delivered',
    'delivered in conflict',
    'made current again',
    'version set aside',
    'version taken',
    'files downloaded',
    'edition made',
    'preparation ready',
    'changed',
  ]);
  expect(events[2]!.after).toEqual({ version: 3, restores: 1 });
  expect(events[4]!.after).toEqual({ version: 12, decided: 12 });
  expect(events.map(({ subject_id }) => subject_id).slice(0, 3)).toEqual([FIRST, SECOND, CONTAINER]);
  expect(events.map(({ system }) => system)).toEqual([...Array<null>(7).fill(null), 'preparation', null]);
  const { rows: views } = await query('select definition from saved_views');
  expect(views[0]!.definition).toEqual({ filters: { conflicting: '1' } });
});

it('an up-to-date database stays as it is', async () => {
  await migrateDatabase(handle, MIGRATIONS);
  const { rows } = await handle.pool.query('select count(*)::int as n from versions');
  expect(rows).toEqual([{ n: 3 }]);
});
