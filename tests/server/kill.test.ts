/** The server is killed in the middle of changes, many times: afterwards every change has its event, and every event its change. */
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { addNamingValue, showNaming } from '@kindred/contract/naming/naming';
import { changeRoles, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, editContainers, moveStates, restoreVersion } from '@kindred/contract/register/register';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { startServer, type ServerProcess } from '../../scripts/server.mjs';
import { inFull, until, newDatabase } from './harness.ts';
import { expectWhole } from './whole.ts';

const KILLS = inFull ? 20 : 5;
let databaseUrl: string;
const files = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-kill-'));
let database: pg.Client;
let server: ServerProcess;
const start = () =>
  startServer({ DATABASE_URL: databaseUrl, PORT: '0', KS_DATA: files, KS_LOG: 'silent', KS_ROLE: 'web' });

beforeAll(async () => {
  databaseUrl = await newDatabase('kill');
  database = new pg.Client(databaseUrl);
  await database.connect();
});
afterAll(async () => {
  await server.stop();
  await database.end();
  fs.rmSync(files, { recursive: true, force: true });
});

/** Not waiting for anything: a random moment to be killed in. */
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const count = async (sql: string, values: unknown[]): Promise<number> =>
  Number((await database.query<{ n: string }>(sql, values)).rows[0]!.n);

const CODES = ['KIL-AAA-ZZ-00-R-A-0001', 'KIL-AAA-ZZ-00-R-A-0002', 'KIL-AAA-ZZ-00-R-A-0003'];

/** One thing after another that somebody does with three containers. */
async function worksInRegister(
  person: ApiPerson,
  projectId: string,
  folderId: string,
  n: number,
  step: () => void,
): Promise<void> {
  const params = { projectId };
  const uploads = await Promise.all(
    CODES.map((code) =>
      person.upload(projectId, `${code}.txt`, new TextEncoder().encode(`${code} ${Math.random()}`), []),
    ),
  );
  const files = CODES.map((code, i) => ({ uploadId: uploads[i]!, code, revision: `P${n % 90}` }));
  const delivered = await person.call(deliver, { params, body: { folderId, files } });
  step();
  const containerIds = delivered.files.map(({ containerId }) => containerId);
  await person.call(moveStates, { params, body: { containerIds, action: 'share' } });
  step();
  await person.call(moveStates, { params, body: { containerIds, action: 'withdraw', reason: 'Again' } });
  step();
  const containerId = containerIds[n % 3]!;
  if (delivered.files[n % 3]!.versionNumber > 1)
    await person.call(restoreVersion, { params: { projectId, containerId }, body: { number: 1 } });
  await person.call(editContainers, { params, body: { edits: [{ containerId, title: `Title ${n}` }] } });
  step();
}

it(
  `${KILLS} kills during deliveries, changes of state, restores, convention edits and role changes leave nothing half done`,
  { timeout: 400_000 },
  async () => {
    server = await start();
    let person = new ApiPerson(server.address, '');
    await person.call(createFirstPerson, {
      body: { name: 'Kit Kill', email: 'kit@test.example', password: 'a long enough password' },
    });
    const { id: projectId } = await person.call(createProject, {
      body: { name: 'Kill', number: 'KIL', kind: 'Other' },
    });
    const params = { projectId };
    const conventionId = (await person.call(showNaming, { params })).conventions[0]!.id;
    const [folder] = await person.call(listFolders, { params });
    const folderId = folder!.id;
    let whole = { versions: 0 };
    let answered = 0;
    for (let kill = 0; kill < KILLS; kill++) {
      // Two people at work without a pause; what they do is cut off wherever it stands.
      let running = true;
      const worker = async (work: (n: number) => Promise<unknown>) => {
        for (let n = 0; running; n++) {
          try {
            await work(n);
            answered++;
          } catch {
            running = running && server.child.exitCode === null && !server.child.killed;
          }
        }
      };
      const values = worker((n) =>
        person.call(addNamingValue, {
          params: { projectId, conventionId },
          body: { field: 'Function', code: `K${kill}N${n}`, meaning: '' },
        }),
      );
      const roles = worker(async (n) => {
        const { roles: now } = await person.call(listPeople, { params });
        const change = now.map(({ id, edition, grid, name }) => ({
          id,
          edition,
          grid,
          name: `${name.split(' ~')[0]} ~${kill}.${n}`,
        }));
        await person.call(changeRoles, { params, body: { change, add: [], remove: [] } });
      });
      let steps = 0;
      const register = worker((n) => worksInRegister(person, projectId, folderId, n, () => steps++));
      // On a busy machine work begins late: killed is what is under way, every other time in the middle of the register's work.
      const wanted = kill % 2 ? 0 : 1 + (kill % 10) / 2;
      const before = answered;
      await until(() => (answered > before && steps >= wanted) || !running, 'work is under way');
      await pause(Math.random() * 400);
      server.child.kill('SIGKILL');
      await server.ended;
      running = false;
      await Promise.all([values, roles, register]);
      server = await start();
      person = person.at(server.address);

      whole = await expectWhole(database, files);
      const editions = await count('select count(*) n from convention_editions where convention_id = $1', [
        conventionId,
      ]);
      const reached = await count('select edition n from conventions where id = $1', [conventionId]);
      const held = await count(
        `select jsonb_array_length(f->'values') n from conventions, jsonb_array_elements(definition->'fields') f
       where id = $1 and f->>'name' = 'Function'`,
        [conventionId],
      );
      const told = await count(
        `select count(*) n from events where subject_type = 'convention' and verb = 'value added' and subject_id = $1`,
        [conventionId],
      );
      expect(reached).toBe(editions);
      expect(told).toBe(editions - 1);
      expect(held).toBe(4 + told);

      const turns = (
        await database.query<{ name: string; edition: number }>(
          'select name, edition from roles where project_id = $1',
          [projectId],
        )
      ).rows;
      // Roles are saved together: all carry the mark of the same save, and each save has its event.
      expect(new Set(turns.map(({ name }) => name.split(' ~')[1]))).toHaveLength(1);
      const roleEvents = await count(`select count(*) n from events where subject_type = 'role' and project_id = $1`, [
        projectId,
      ]);
      expect(roleEvents).toBe(turns.reduce((sum, { edition }) => sum + edition - 1, 0));
    }
    expect(answered).toBeGreaterThanOrEqual(KILLS);
    expect(whole.versions).toBeGreaterThan(CODES.length);
    await server.stop();
  },
);
