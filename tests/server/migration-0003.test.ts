/** An installation of before states belonged to versions: everything is there afterwards, and seen by whom it was seen. */
import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { expect, inject, it } from 'vitest';

const FOLDER = path.join(import.meta.dirname, '../../packages/server/migrations');

it('gives every version the state of its container, and the register its entries', async () => {
  const admin = new pg.Client(inject('databaseUrl'));
  await admin.connect();
  const name = `old_${crypto.randomUUID().replaceAll('-', '')}`;
  await admin.query(`create database ${name}`);
  await admin.end();
  const address = new URL(inject('databaseUrl'));
  address.pathname = `/${name}`;
  const database = new pg.Client(address.href);
  await database.connect();
  const migrate = async (from: string, before: string): Promise<void> => {
    const files = fs.readdirSync(FOLDER).filter((file) => file.endsWith('.sql') && file >= from && file < before);
    for (const file of files.sort())
      for (const statement of fs.readFileSync(path.join(FOLDER, file), 'utf8').split('--> statement-breakpoint'))
        if (statement.trim()) await database.query(statement);
  };
  const one = async <T>(sql: string, values: unknown[] = []): Promise<T> =>
    (await database.query(sql, values)).rows[0] as T;
  try {
    await migrate('0000', '0003');
    const { id: user } = await one<{ id: string }>(
      `insert into users (name, email, initials, colour, created_at) values ('A', 'a@test.example', 'A', '#000000', now()) returning id`,
    );
    const { id: project } = await one<{ id: string }>(
      `insert into projects (name, kind, created_at) values ('Old', 'Other', now()) returning id`,
    );
    const { id: team } = await one<{ id: string }>(
      `insert into teams (project_id, name, discipline, colour) values ($1, 'T', 'D', '#000000') returning id`,
      [project],
    );
    const { id: folder } = await one<{ id: string }>(
      `insert into folders (project_id, name, path, first, last) values ($1, 'F', 'F', 1, 1) returning id`,
      [project],
    );
    await database.query(
      `insert into conventions (project_id, definition, is_default) values ($1, '{"name":"N","separator":"-","fields":[{"name":"Form"},{"name":"Number"}]}', true)`,
      [project],
    );
    for (const [code, state] of [
      ['D-1', 'shared'],
      ['D-2', 'work in progress'],
    ] as const) {
      const { id } = await one<{ id: string }>(
        `insert into containers (project_id, folder_id, team_id, code, title, kind, state, version_id, version_number, file_name, revision, preparation, size, delivered_at, delivered_by)
         values ($1, $2, $3, $4, 'Title', 'drawing', $5, gen_random_uuid(), 2, 'a.pdf', 'P02', 'ready', 5, now(), $6) returning id`,
        [project, folder, team, code, state, user],
      );
      for (const number of [1, 2])
        await database.query(
          `insert into versions (project_id, container_id, number, file_name, media_type, kind, size, sha256, revision, preparation, delivered_at, delivered_by)
           values ($1, $2, $3, 'a.pdf', 'application/pdf', 'drawing', 5, 'x', 'P0' || $3::int, 'ready', now(), $4)`,
          [project, id, number, user],
        );
      await database.query(
        `update containers set version_id = (select id from versions where container_id = $1 and number = 2) where id = $1`,
        [id],
      );
    }
    await migrate('0003', '9999');
    const { rows } = await database.query(
      `select e.code, e.audience, e.state, e.version_number, e.revision, e.fields, c.last_number,
              (select array_agg(v.state order by v.number) from versions v where v.container_id = c.id) as states
       from entries e join containers c on c.id = e.container_id order by e.code`,
    );
    const same = { version_number: 2, revision: 'P02', last_number: 2 };
    expect(rows).toEqual([
      {
        ...same,
        code: 'D-1',
        audience: 'all',
        state: 'shared',
        fields: { Form: 'D', Number: '1' },
        states: ['shared', 'shared'],
      },
      {
        ...same,
        code: 'D-2',
        audience: 'team',
        state: 'work in progress',
        fields: { Form: 'D', Number: '2' },
        states: ['work in progress', 'work in progress'],
      },
    ]);
  } finally {
    await database.end();
  }
});
