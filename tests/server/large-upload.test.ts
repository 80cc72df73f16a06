/** Two gigabytes (an eighth of it in the ordinary run), cut off in the middle and resumed: whole, and never in memory. */
import { deliver, showContainer } from '@kindred/contract/register/register';
import { createHash } from 'node:crypto';
import http from 'node:http';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { testProject, testServer, inFull, until, type TestProject, type TestServer } from './harness.ts';

const SIZE = (inFull ? 2 ** 31 : 2 ** 28) + 12_345;
const PART = Buffer.alloc(2 ** 22, 'two gigabytes of a scan ');
let server: TestServer;
let project: TestProject;
beforeAll(async () => {
  server = await testServer({ maxUploadBytes: 2 ** 32 });
  project = await testProject(server);
});
afterAll(() => server.remove());

/** The bytes of the file from `offset` up to `end`. */
function* content(offset: number, end: number): Generator<Buffer> {
  for (let at = offset; at < end;) {
    const start = at % PART.length;
    const part = PART.subarray(start, Math.min(PART.length, start + end - at));
    yield part;
    at += part.length;
  }
}

it('arrives whole after it was cut off in the middle', { timeout: 240_000 }, async () => {
  const headers = { ...project.founder.headersForFiles(), 'tus-resumable': '1.0.0' };
  const created = await fetch(`${server.address}/api/uploads`, {
    method: 'POST',
    headers: {
      ...headers,
      'upload-length': String(SIZE),
      'upload-metadata': `projectId ${btoa(project.projectId)},filename ${btoa('scan.bin')}`,
    },
  });
  expect(created.status).toBe(201);
  const url = new URL(created.headers.get('location')!, server.address).href;
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);

  /** Sends from `offset` to `end`, then hangs up unless that is the end of the file. */
  const send = async (offset: number, end: number): Promise<number | undefined> => {
    const request = http.request(url, {
      method: 'PATCH',
      headers: {
        ...headers,
        'upload-offset': offset,
        'content-type': 'application/offset+octet-stream',
        'content-length': SIZE - offset,
      },
    });
    const answered = new Promise<number | undefined>((resolve) => {
      request.on('response', (response) => {
        response.resume();
        resolve(response.statusCode);
      });
      request.on('error', () => resolve(undefined));
    });
    await pipeline(Readable.from(content(offset, end)), request, { end: end === SIZE });
    if (end < SIZE) request.destroy();
    return answered;
  };
  const offsetNow = async (): Promise<number> =>
    Number((await fetch(url, { method: 'HEAD', headers })).headers.get('upload-offset'));

  await send(0, Math.floor(SIZE * 0.55));
  let offset = 0;
  // What was on its way when the line broke may still be written: whoever resumes asks again.
  await until(async () => {
    offset = await offsetNow();
    expect(offset).toBeGreaterThan(0);
    expect(offset).toBeLessThan(SIZE);
    return (await send(offset, SIZE)) === 204;
  }, 'the rest arrives');
  clearInterval(watch);
  // The server runs in this process: a file in memory would show.
  expect(most - before).toBeLessThan(Math.max(SIZE / 4, 2 ** 28 / 2));

  const { files } = await project.founder.call(deliver, {
    params: project.params,
    body: {
      folderId: project.folders.get('Project documents')!,
      files: [{ uploadId: url.split('/').at(-1)!, code: 'ORP-TVA-ZZ-00-R-A-0001' }],
    },
  });
  const { versions } = await project.founder.call(showContainer, {
    params: { ...project.params, containerId: files[0]!.containerId },
  });
  const hash = createHash('sha256');
  for (const part of content(0, SIZE)) hash.update(part);
  expect(versions[0]).toMatchObject({ size: SIZE, sha256: hash.digest('hex') });
});
