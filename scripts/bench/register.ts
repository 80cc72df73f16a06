/** The register of 100,000 containers against bare SQL, and the API against a bare route with the same query. */
import { acceptInvitation, createFirstPerson, createToken, listOutbox } from '@kindred/contract/identity/identity';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import express from 'express';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { openStage } from '../stage.mjs';
import { ratio, report, timed } from './measure.ts';

const stage = await openStage({ demo: false });
const pool = new pg.Pool({ connectionString: stage.databaseUrl, max: 20 });
try {
  const api = new ApiPerson(stage.address, '');
  const { person } = await api.call(createFirstPerson, {
    body: { name: 'Bench', email: 'bench@test.example', password: 'a long enough password' },
  });
  const project = await api.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
  const [folder] = await api.call(listFolders, { params: { projectId: project.id } });
  await pool.query(
    `insert into containers (project_id, folder_id, code, title, kind, state, version_id, version_number, file_name, status, revision, preparation, size, delivered_at, delivered_by)
     select $1, $2, 'BEN-AAA-ZZ-00-D-A-' || lpad(n::text, 6, '0'), 'Sheet ' || md5(n::text), 'drawing', 'shared', gen_random_uuid(), 1, 'a.pdf',
            'S' || (n % 7), 'P' || lpad((n % 9)::text, 2, '0'), 'ready', 1000, now() - n * interval '1 minute', $3
     from generate_series(1, 100000) n`,
    [project.id, folder!.id, person.id],
  );
  await pool.query('vacuum analyze containers');
  const { secret } = await api.call(createToken, { body: { name: 'bench' } });
  const agent = new http.Agent({ keepAlive: true, maxSockets: 16 });
  const get = (url: string, headers: Record<string, string> = {}) =>
    new Promise<string>((resolve, reject) =>
      http
        .get(url, { agent, headers }, (response) => {
          const parts: Buffer[] = [];
          response.on('data', (part: Buffer) => parts.push(part));
          response.on('end', () =>
            response.statusCode === 200
              ? resolve(Buffer.concat(parts).toString())
              : reject(new Error(`${response.statusCode} ${Buffer.concat(parts)}`)),
          );
        })
        .on('error', reject),
    );
  const authorization = { authorization: `Bearer ${secret}` };
  const register = `${stage.address}/api/projects/${project.id}/containers`;

  /** The very statement of the register, by hand. */
  const bare = `select id, folder_id, team_id, code, title, kind, state, at_intake, version_id, version_number, file_name, status, revision, classification, description,
      preparation, preparation_note, sheets, size, delivered_at, delivered_by from containers
      where project_id = $1 and at_intake = false and status = $2 order by delivered_at desc, id desc limit 101`;
  const ROUNDS = 60;
  const repeat = (run: () => Promise<unknown>) =>
    timed(async () => {
      for (let i = 0; i < ROUNDS; i++) await run();
    });
  const sqlRoute = express();
  sqlRoute.get('/list', async (_request, response) => {
    response.json((await pool.query(bare, [project.id, 'S3'])).rows);
  });
  const bareServer = http.createServer(sqlRoute);
  await new Promise<void>((resolve) => bareServer.listen(0, '127.0.0.1', resolve));
  const bareUrl = `http://127.0.0.1:${(bareServer.address() as AddressInfo).port}/list`;
  const listUrl = `${register}?status=S3&sort=deliveredAt&descending=true&limit=100`;

  report(
    `a page of 100 of 100,000 rows, filtered and sorted, ${ROUNDS} times, ms, against a bare route with the same SQL`,
    await ratio(
      () => repeat(() => get(listUrl, authorization)),
      () => repeat(() => get(bareUrl)),
      5,
    ),
    { atMost: 1.5 },
  );
  const PARALLEL = 8;
  const perSecond = (run: () => Promise<unknown>) => async () => {
    const milliseconds = await timed(() => Promise.all(Array.from({ length: PARALLEL }, () => repeat(run))));
    return (PARALLEL * ROUNDS * 1000) / milliseconds;
  };
  report(
    'requests a second of a list, signed in and validated, against a bare route with the same SQL',
    await ratio(
      perSecond(() => get(listUrl, authorization)),
      perSecond(() => get(bareUrl)),
      3,
    ),
    { atLeast: 0.6 },
  );
  // 5,000 folders, 200 of them with permissions that concern whoever asks.
  await pool.query(
    `insert into folders (project_id, name, path, parent_id, first, last)
     select $1, 'F' || n, 'F' || n, null, 100000 + n, 100000 + n from generate_series(1, 5000) n`,
    [project.id],
  );
  await pool.query(
    `update containers c set folder_id = f.id from folders f
     where c.project_id = $1 and f.project_id = $1 and f.name = 'F' || (1 + right(c.code, 6)::int % 5000)`,
    [project.id],
  );
  const { roles } = await api.call(listPeople, { params: { projectId: project.id } });
  const author = roles.find(({ name }) => name === 'Author')!;
  await pool.query(
    `insert into folder_permissions (folder_id, subject, subject_id, level)
     select id, 'role', $2, (array['hidden', 'see', 'deliver'])[1 + first % 3] from folders where project_id = $1 and name ~ '^F' order by first limit 200`,
    [project.id, author.id],
  );
  await pool.query('vacuum analyze containers, folders, folder_permissions');
  const tokenOf = async (name: string, roleIds: string[]): Promise<{ authorization: string }> => {
    const email = `${name}@test.example`;
    await api.call(addPerson, { params: { projectId: project.id }, body: { name, email, roleIds } });
    const mail = (await api.call(listOutbox)).find(({ to }) => to === email)!;
    const one = new ApiPerson(stage.address, '');
    await one.call(acceptInvitation, {
      body: { key: mail.link!.split('invitation=')[1]!, password: 'a long enough password' },
    });
    return { authorization: `Bearer ${(await one.call(createToken, { body: { name: 'bench' } })).secret}` };
  };
  const restricted = await tokenOf('restricted', [author.id]);
  const free = await tokenOf('free', [roles.find(({ name }) => name === 'Reviewer')!.id]);
  report(
    'a page of 100 rows with what one may do in each folder, 5,000 folders with 200 permissions, ms, against the same list without any',
    await ratio(
      () => repeat(() => get(listUrl, restricted)),
      () => repeat(() => get(listUrl, free)),
      5,
    ),
    { atMost: 1.5 },
  );
  agent.destroy();
  bareServer.close();
} finally {
  await pool.end();
  await stage.close();
}
