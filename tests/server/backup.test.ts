/** A drill: a copy is made while people work, everything is lost, and everything that the copy names comes back. */
import { listHistory } from '@kindred/contract/things/things';
import { listContainers } from '@kindred/contract/register/register';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { backUp, check, restore } from '../../packages/server/src/backup.ts';
import { FolderStore } from '../../packages/server/src/platform/storage/folder-store.ts';
import { openDatabase } from '../../packages/server/src/platform/database.ts';
import { capabilities } from '../../packages/server/src/capabilities.ts';
import { deliverFile, newDatabase, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-backup-'));
const FOLDER = 'Architecture / Drawings';
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
});
afterAll(async () => {
  await server.remove();
  fs.rmSync(folder, { recursive: true, force: true });
});

const installation = () => ({ databaseUrl: server.platform.config.databaseUrl, store: server.platform.store });
const deliverOne = (n: number) =>
  deliverFile(project, project.founder, FOLDER, `ORP-TVA-ZZ-00-R-A-${n}.txt`, Buffer.from(`content ${n}`));
const blobFiles = (at: string): string[] =>
  fs
    .readdirSync(path.join(at, 'blobs'), { recursive: true, withFileTypes: true })
    .filter((one) => one.isFile())
    .map((one) => path.join(one.parentPath, one.name));

it(
  'a copy that is made while people deliver is whole, and comes back with all that it names',
  { timeout: 180_000 },
  async () => {
    for (let n = 1001; n <= 1010; n++) await deliverOne(n);
    const { containerId } = await deliverOne(1011);
    const history = await project.founder.call(listHistory, {
      params: project.params,
      query: { type: 'container', id: containerId },
    });
    let working = true;
    const others = (async () => {
      for (let n = 2001; working; n++) await deliverOne(n);
    })();
    const first = await backUp(installation(), folder);
    working = false;
    await others;
    expect(first.copied).toBe(first.blobs);
    expect(first.blobs).toBeGreaterThanOrEqual(11);

    // Only what is new is copied again.
    await deliverOne(3001);
    const second = await backUp(installation(), folder);
    expect(second.copied).toBe(second.blobs - first.blobs);
    const before = await project.founder.call(listContainers, { params: project.params, query: { limit: 200 } });

    const databaseUrl = await newDatabase('restored');
    const dataFolder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-restored-'));
    await restore({ databaseUrl, store: new FolderStore(dataFolder) }, folder);
    const restored = await testServer({ databaseUrl, dataFolder });
    try {
      const read = async <T>(api: string): Promise<T> =>
        (await (
          await fetch(`${restored.address}/api/projects/${project.projectId}${api}`, {
            headers: project.founder.headersForFiles(),
          })
        ).json()) as T;
      // The session of before is good: nobody notices more than a pause.
      const after = await read<{ items: unknown[] }>('/containers?limit=200');
      expect(after.items).toEqual(before.items);
      expect(await read(`/history?type=container&id=${containerId}`)).toEqual(history);
      for (const { versionId, code } of before.items) {
        const file = await fetch(`${restored.address}/api/projects/${project.projectId}/versions/${versionId}/file`, {
          headers: project.founder.headersForFiles(),
        });
        expect(await file.text()).toBe(`content ${code.split('-').at(-1)}`);
      }
      expect(await check(restored.platform.db, restored.platform.store, capabilities.blobs)).toMatchObject({
        damaged: [],
        missing: [],
      });
    } finally {
      await restored.remove();
    }
    await expect(restore(installation(), folder)).rejects.toThrow('not empty');
  },
);

it('a check names what is damaged and what is missing; such an installation is not copied as if it were whole', async () => {
  const { dataFolder } = server.platform.config;
  const [damaged, missing] = blobFiles(dataFolder) as [string, string];
  const content = fs.readFileSync(damaged);
  fs.writeFileSync(damaged, Buffer.concat([content, Buffer.from('x')]));
  const away = path.join(folder, 'away');
  fs.renameSync(missing, away);
  const found = await check(server.platform.db, server.platform.store, capabilities.blobs);
  expect([found.damaged, found.missing]).toEqual([[path.basename(damaged)], [path.basename(missing)]]);
  const elsewhere = path.join(folder, 'elsewhere');
  await expect(backUp(installation(), elsewhere)).rejects.toThrow();
  expect(fs.existsSync(path.join(elsewhere, 'backup.json'))).toBe(false);
  fs.writeFileSync(damaged, content);
  fs.renameSync(away, missing);
});

it('a copy that was damaged is not restored', async () => {
  const [file] = blobFiles(folder) as [string];
  fs.appendFileSync(file, 'x');
  const dataFolder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-restored-'));
  const databaseUrl = await newDatabase('restored');
  await expect(restore({ databaseUrl, store: new FolderStore(dataFolder) }, folder)).rejects.toThrow('damaged');
  const handle = openDatabase(databaseUrl, 1);
  const { rows } = await handle.pool.query(`select 1 from information_schema.tables where table_schema = 'public'`);
  await handle.pool.end();
  fs.rmSync(dataFolder, { recursive: true, force: true });
  expect(rows).toEqual([]);
});
