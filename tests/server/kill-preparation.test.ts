/** A server that prepares files is killed again and again: nothing hangs, nothing is prepared twice, no child lives on. */
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver } from '@kindred/contract/register/register';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { startServer, type ServerProcess } from '../../scripts/server.mjs';
import { wholeModel } from './damaged-files.ts';
import { inFull, until, newDatabase } from './harness.ts';

const KILLS = inFull ? 20 : 2;
const FILES = inFull ? 100 : 8;
let databaseUrl: string;
const files = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-kill-'));
let database: pg.Client;
let web: ServerProcess;
let person: ApiPerson;
let params: { projectId: string };

const start = (role: 'web' | 'worker' | 'all') =>
  startServer({
    DATABASE_URL: databaseUrl,
    PORT: '0',
    KS_DATA: files,
    KS_LOG: 'silent',
    KS_ROLE: role,
    KS_PREPARATION_PROCESSES: '2',
  });

beforeAll(async () => {
  databaseUrl = await newDatabase('kill');
  database = new pg.Client(databaseUrl);
  await database.connect();
  web = await start('web');
  person = new ApiPerson(web.address, '');
  await person.call(createFirstPerson, {
    body: { name: 'Kim Kill', email: 'kim@test.example', password: 'a long enough password' },
  });
  const { id } = await person.call(createProject, { body: { name: 'Kill', number: 'KIL', kind: 'Other' } });
  params = { projectId: id };
});
afterAll(async () => {
  await web.stop();
  await database.end();
  fs.rmSync(files, { recursive: true, force: true });
});

async function deliverModels(prefix: string): Promise<void> {
  const [folder] = await person.call(listFolders, { params });
  const sent = [];
  for (let n = 0; n < FILES; n++) {
    const code = `KIL-AAA-ZZ-ZZ-M-A-${prefix}${String(n).padStart(3, '0')}`;
    sent.push({ code, uploadId: await person.upload(params.projectId, `${code}.ifc`, wholeModel) });
  }
  await person.call(deliver, { params, body: { folderId: folder!.id, files: sent } });
}
const count = async (where: string): Promise<number> =>
  Number((await database.query<{ n: string }>(`select count(*) n from versions where ${where}`)).rows[0]!.n);

const childrenOf = (pid: number): number[] => {
  const lines = execFileSync('ps', ['-eo', 'pid=,ppid='], { encoding: 'utf8' }).trim().split('\n');
  return lines
    .map((line) => line.trim().split(/\s+/).map(Number))
    .flatMap(([child, parent]) => (parent === pid ? [child!] : []));
};
const alive = (pid: number): boolean => fs.existsSync(`/proc/${pid}`);

it.each(['worker', 'all'] as const)(
  `${KILLS} kills of a server in the role “%s” while ${FILES} models are prepared: all end ready`,
  { timeout: inFull ? 1_200_000 : 300_000 },
  async (role) => {
    await deliverModels(role === 'all' ? '1' : '2');
    const orphans: number[] = [];
    for (let kill = 0; kill < KILLS; kill++) {
      const worker = await start(role);
      const before = await count(`preparation = 'ready'`);
      await until(
        async () =>
          (await count(`preparation in ('checking', 'preparing')`)) > 0 &&
          (await count(`preparation = 'ready'`)) >= before,
        'it works',
      );
      orphans.push(...childrenOf(worker.child.pid!));
      worker.child.kill('SIGKILL');
    }
    await until(() => orphans.every((pid) => !alive(pid)), 'children die with their parent');
    const worker = await start(role);
    try {
      await until(async () => (await count(`preparation <> 'ready'`)) === 0, 'all are ready', 180_000);
    } finally {
      await worker.stop();
    }
    expect(await count(`preparation <> 'ready'`)).toBe(0);
    // Each became ready once: that is an event.
    const { rows } = await database.query(
      `select subject_id from events where verb = 'preparation ready' group by 1 having count(*) > 1`,
    );
    expect(rows).toEqual([]);
  },
);

it('work that nobody does any more ends as failed, with “try again”', { timeout: 200_000 }, async () => {
  await database.query(
    `update versions set preparation = 'checking', delivered_at = now() - interval '5 minutes' where id = (select id from versions limit 1)`,
  );
  const worker = await start('worker');
  try {
    await until(
      async () => (await count(`preparation = 'failed' and preparation_note like '%try again.'`)) === 1,
      'it is swept',
      150_000,
    );
  } finally {
    await worker.stop();
  }
});
