/** Things go wrong around the server: the database goes away, the disk fills up, a file is taken away while somebody downloads it. */
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, discardIntake, editContainers, listContainers } from '@kindred/contract/register/register';
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { startPostgres } from '../../scripts/postgres.mjs';
import { startServer } from '../../scripts/server.mjs';
import { deliverFile, refusal, testProject, testServer, until } from './harness.ts';
import { expectWhole } from './whole.ts';

const text = (words: string): Uint8Array => new TextEncoder().encode(words);

it(
  'the database is stopped and started under load: requests say so, and then go on',
  { timeout: 120_000 },
  async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-away-'));
    fs.chmodSync(folder, 0o755);
    const files = path.join(folder, 'files');
    let postgres = await startPostgres(path.join(folder, 'postgres'));
    const port = Number(new URL(postgres.url).port);
    const server = await startServer({
      DATABASE_URL: postgres.url,
      PORT: '0',
      KS_DATA: files,
      KS_LOG: 'silent',
      KS_ROLE: 'web',
    });
    try {
      const person = new ApiPerson(server.address, '');
      await person.call(createFirstPerson, {
        body: { name: 'Away', email: 'away@test.example', password: 'a long enough password' },
      });
      const { id: projectId } = await person.call(createProject, {
        body: { name: 'Away', number: 'AWA', kind: 'Other' },
      });
      const params = { projectId };
      const [first] = await person.call(listFolders, { params });
      let running = true;
      let done = 0;
      let refused = 0;
      const problems = new Set<string>();
      const worker = async (k: number): Promise<void> => {
        for (let n = 0; running; n++) {
          try {
            const code = `AWA-AAA-ZZ-00-R-A-000${k}`;
            const uploadId = await person.upload(projectId, `${code}.txt`, text(`${k} ${n}`), []);
            const body = { folderId: first!.id, files: [{ uploadId, code }] };
            const { files: delivered } = await person.call(deliver, { params, body });
            const edits = [{ containerId: delivered[0]!.containerId, title: `Title ${n}` }];
            await person.call(editContainers, { params, body: { edits } });
            done++;
          } catch (error) {
            refused++;
            const said = /"code":"([a-z-]+)"/.exec(String((error as Error).message));
            if (said) problems.add(said[1]!);
            await new Promise((resolve) => setTimeout(resolve, 50));
          }
        }
      };
      const workers = [1, 2, 3, 4].map(worker);
      const more = (): Promise<void> => {
        const wanted = done + 8;
        return until(() => done >= wanted, 'work goes on');
      };
      for (let round = 1; round <= 3; round++) {
        await more();
        postgres.stop();
        const before = refused;
        await until(() => refused >= before + 4, 'everybody notices');
        postgres = await startPostgres(path.join(folder, 'postgres'), { port });
      }
      await more();
      running = false;
      await Promise.all(workers);
      expect(server.child.exitCode).toBeNull();
      expect([...problems].filter((code) => code === 'unexpected')).toEqual([]);
      expect(problems).toContain('database-away');
      const database = new pg.Client(postgres.url);
      await database.connect();
      expect((await expectWhole(database, files)).versions).toBeGreaterThanOrEqual(done);
      await database.end();
    } finally {
      await server.stop();
      postgres.remove();
      fs.rmSync(folder, { recursive: true, force: true });
    }
  },
);

/** A disk of eight megabytes, where this account may make one. */
function tinyDisk(): string | undefined {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-tiny-'));
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=8m', 'tmpfs', folder]).status === 0) return folder;
  fs.rmdirSync(folder);
  return undefined;
}
const disk = tinyDisk();

it.skipIf(!disk)('a full disk refuses what has no room, and keeps what is there', { timeout: 60_000 }, async () => {
  const server = await testServer({ dataFolder: disk! });
  try {
    const project = await testProject(server);
    const folder = 'Project documents';
    const megabyte = (n: number) => Buffer.alloc(2 ** 20, `megabyte ${n} `);
    const kept = await deliverFile(project, project.founder, folder, 'ORP-TVA-ZZ-00-R-A-0001.txt', megabyte(1));
    const large = project.founder.upload(project.projectId, 'large.bin', Buffer.alloc(12 * 2 ** 20, 1), []);
    expect(await refusal(large)).toMatchObject({ status: 507, code: 'disk-full' });
    const answer = await fetch(`${server.address}/api/projects/${project.projectId}/versions/${kept.versionId}/file`, {
      headers: project.founder.headersForFiles(),
    });
    expect(Buffer.from(await answer.arrayBuffer()).equals(megabyte(1))).toBe(true);
    for (const name of fs.readdirSync(path.join(disk!, 'uploads'))) fs.rmSync(path.join(disk!, 'uploads', name));
    await deliverFile(project, project.founder, folder, 'ORP-TVA-ZZ-00-R-A-0002.txt', megabyte(2));
    const { items } = await project.founder.call(listContainers, { params: project.params });
    expect(items).toHaveLength(2);
  } finally {
    await server.remove().catch(() => undefined);
    spawnSync('umount', ['-l', disk!]);
  }
});

it('what is taken away while somebody downloads it still arrives whole', { timeout: 60_000 }, async () => {
  const server = await testServer({ maxUploadBytes: 2 ** 28 });
  try {
    const project = await testProject(server);
    const bytes = Buffer.alloc(60 * 2 ** 20, 'a scan that takes its time ');
    const { containerId, versionId } = await deliverFile(
      project,
      project.founder,
      'Project documents',
      'lost.bin',
      bytes,
    );
    const response = await fetch(`${server.address}/api/projects/${project.projectId}/versions/${versionId}/file`, {
      headers: project.founder.headersForFiles(),
    });
    const reader = response.body!.getReader();
    const parts: Uint8Array[] = [(await reader.read()).value!];
    await project.founder.call(discardIntake, { params: { ...project.params, containerId } });
    for (let part = await reader.read(); !part.done; part = await reader.read()) parts.push(part.value);
    expect(Buffer.concat(parts).equals(bytes)).toBe(true);
  } finally {
    await server.remove();
  }
});

it(
  'twenty people deliver ten files each at once: nothing is lost, nothing is there twice',
  { timeout: 120_000 },
  async () => {
    const server = await testServer();
    try {
      const project = await testProject(server);
      const people = [];
      for (let i = 0; i < 20; i++) people.push((await project.join(`Person ${i}`, 'Author', 'Architecture')).api);
      await Promise.all(
        people.map(async (person, i) => {
          const codes = Array.from({ length: 10 }, (_, n) => `ORP-TVA-ZZ-00-R-A-${String(1000 + i * 10 + n)}`);
          const uploads = await Promise.all(
            codes.map((code) => person.upload(project.projectId, `${code}.txt`, text(`what stands in ${code}`))),
          );
          await person.call(deliver, {
            params: project.params,
            body: {
              folderId: project.folders.get('Architecture / Drawings')!,
              // Everybody delivers the first code too: these become versions of one container.
              files: [
                ...codes.map((code, n) => ({ uploadId: uploads[n]!, code: n ? code : 'ORP-TVA-ZZ-00-R-A-9999' })),
              ],
            },
          });
        }),
      );
      const { items } = await project.founder.call(listContainers, { params: project.params, query: { limit: 200 } });
      expect(items).toHaveLength(20 * 9 + 1);
      expect(items.find(({ code }) => code.endsWith('9999'))!.versionNumber).toBe(20);
      const database = new pg.Client(server.platform.config.databaseUrl);
      await database.connect();
      expect(await expectWhole(database, server.platform.config.dataFolder)).toEqual({ versions: 200 });
      await database.end();
    } finally {
      await server.remove();
    }
  },
);
