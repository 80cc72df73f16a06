/** What both storage drivers promise: blobs are whole or absent, uploads go on where they broke off. */
import { createHash, randomBytes } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { deliver, downloadVersion } from '@kindred/contract/register/register';
import { stationSheets } from '../../packages/demo/src/drawings/station-sheets.ts';
import { writeSheet } from '../../packages/demo/src/drawings/write-sheet.ts';
import { cleanUp } from '../../packages/server/src/register/clean-up.ts';
import { FolderStore } from '../../packages/server/src/platform/storage/folder-store.ts';
import { S3Store } from '../../packages/server/src/platform/storage/s3-store.ts';
import type { BlobStore } from '../../packages/server/src/platform/storage/store.ts';
import { deliverFile, prepared, testProject, testServer } from './harness.ts';
import { objectStore, type ObjectStore } from './object-store.ts';

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-storage-'));
let objects: ObjectStore;
beforeAll(async () => {
  objects = await objectStore();
});
afterAll(async () => {
  await objects.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const DRIVERS: [name: string, open: () => BlobStore][] = [
  ['in a folder', () => new FolderStore(path.join(folder, 'files'))],
  ['in an object store', () => new S3Store(objects.settings, path.join(folder, 'moment'))],
];

describe.each(DRIVERS)('blobs %s', (name, open) => {
  it('come back as they were put, whole or in part, from bytes, files and streams', async () => {
    const store = open();
    const content = randomBytes(3 * 2 ** 20 + 5);
    const file = path.join(folder, 'a-file');
    fs.writeFileSync(file, content);
    expect(await store.putFile(file)).toEqual({ sha256: sha256(content), size: content.length });
    expect(fs.existsSync(file)).toBe(false);
    expect((await buffer(await store.read(sha256(content)))).equals(content)).toBe(true);
    const part = await store.readBytes(sha256(content), content.length - 10, 100);
    expect(Buffer.from(part)).toEqual(content.subarray(-10));
    const words = Buffer.from('words of a letter');
    expect((await store.putBytes(words)).sha256).toBe(sha256(words));
    const streamed = await store.putStream(Readable.from([words, content]));
    expect(streamed.sha256).toBe(sha256(Buffer.concat([words, content])));
    expect(streamed.size).toBe(words.length + content.length);
  });

  it('what a killed process left half-written goes after its time, and nothing that is whole', async () => {
    const store = open();
    const { sha256: hash } = await store.putBytes(Buffer.from('whole'));
    const half = path.join(folder, name === 'in a folder' ? 'files' : 'moment', 'temporary', 'half-written');
    fs.mkdirSync(path.dirname(half), { recursive: true });
    fs.writeFileSync(half, 'ha');
    expect(await store.removeLeftOvers(new Date(Date.now() - 60_000))).toBe(0);
    expect(await store.removeLeftOvers(new Date(Date.now() + 60_000))).toBeGreaterThan(0);
    expect(fs.existsSync(half)).toBe(false);
    expect((await buffer(await store.read(hash))).toString()).toBe('whole');
  });

  it('are lent as local files, listed with when they were put, and removed', async () => {
    const store = open();
    const content = randomBytes(100);
    const before = Date.now() - 2000;
    const { sha256: hash } = await store.putBytes(content);
    const lent = await store.withFile(hash, async (file) => fs.readFileSync(file));
    expect(lent).toEqual(content);
    const listed = new Map<string, Date>();
    for await (const { sha256: one, at } of store.list()) listed.set(one, at);
    expect(listed.get(hash)!.getTime()).toBeGreaterThan(before);
    await store.remove(hash);
    await store.remove(hash);
    await expect(store.read(hash).then(buffer)).rejects.toThrow();
  });

  it('know no names but hashes', async () => {
    await expect(async () => open().read('../../etc/passwd')).rejects.toThrow('Not a SHA-256');
  });

  it('that do not arrive leave nothing behind', async () => {
    const store = open();
    async function* broken() {
      yield Buffer.from('half of it');
      throw new Error('cut off');
    }
    await expect(store.putStream(Readable.from(broken()))).rejects.toThrow('cut off');
    const names: string[] = [];
    for await (const { sha256: one } of store.list()) names.push(one);
    expect(names).not.toContain(sha256(Buffer.from('half of it')));
  });
});

describe('a server on an object store', () => {
  // The small stand-in cannot list the parts of an upload: this takes the real one of `npm run test:s3`.
  it.skipIf(!process.env.KS_TEST_S3)(
    'receives, resumes, prepares, sends and cleans up as with a folder',
    { timeout: 120_000 },
    async () => {
      const server = await testServer({ s3: objects.settings, role: 'all' });
      try {
        const project = await testProject(server);
        const { founder } = project;
        const pdf = await writeSheet({
          ...stationSheets({ number: 1 })[0]!,
          revision: 'P01',
          status: 'S3',
          date: '2026-01-05',
          drawnBy: 'A. B.',
        });
        const sheet = await deliverFile(project, founder, 'Project documents', 'ORP-TVA-ZZ-00-D-A-0001.pdf', pdf);
        expect(await prepared(project, founder, sheet.containerId)).toMatchObject({ preparation: 'ready' });

        // Cut off in the middle of a part, and resumed by another request.
        const content = randomBytes(17 * 2 ** 20);
        const headers = { ...founder.headersForFiles(), 'tus-resumable': '1.0.0' };
        const metadata = `projectId ${btoa(project.projectId)},filename ${btoa('scan.bin')}`;
        const created = await fetch(`${server.address}/api/uploads`, {
          method: 'POST',
          headers: { ...headers, 'upload-length': String(content.length), 'upload-metadata': metadata },
        });
        const at = `${server.address}${created.headers.get('location')}`;
        const send = (from: number, to: number) =>
          fetch(at, {
            method: 'PATCH',
            headers: { ...headers, 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' },
            body: content.subarray(from, to),
          });
        expect((await send(0, 6_000_001)).status).toBe(204);
        const offset = Number((await fetch(at, { method: 'HEAD', headers })).headers.get('upload-offset'));
        expect(offset).toBe(6_000_001);
        expect((await send(offset, content.length)).status).toBe(204);
        const { files } = await founder.call(deliver, {
          params: project.params,
          body: {
            folderId: project.folders.get('Project documents')!,
            files: [{ uploadId: at.split('/').at(-1)!, code: 'ORP-TVA-ZZ-00-R-A-0002' }],
          },
        });
        const { versionId } = files[0]!;
        const back = await fetch(
          `${server.address}/api${downloadVersion.path.replace(':projectId', project.projectId).replace(':versionId', versionId)}`,
          { headers: founder.headersForFiles() },
        );
        expect(sha256(Buffer.from(await back.arrayBuffer()))).toBe(sha256(content));

        // What nobody delivered, and what nothing names, goes.
        await founder.upload(project.projectId, 'left.txt', Buffer.from('left over'), []);
        const removed = await cleanUp(server.platform, -1);
        expect(removed.uploads).toBe(1);
        const names: string[] = [];
        for await (const { sha256: one } of server.platform.store.list()) names.push(one);
        expect(names).toContain(sha256(content));
        expect(names).not.toContain(sha256(Buffer.from('left over')));
      } finally {
        await server.remove();
      }
    },
  );
});
