/** Several nodes: two that serve and one that works; one is killed, and nobody notices more than a reconnect. */
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject, listProjects } from '@kindred/contract/portfolio/portfolio';
import { addFolder } from '@kindred/contract/register/folders';
import { deliver, showContainer } from '@kindred/contract/register/register';
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import net from 'node:net';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { io, type Socket } from 'socket.io-client';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { stationSheets } from '../../packages/demo/src/drawings/station-sheets.ts';
import { writeSheet } from '../../packages/demo/src/drawings/write-sheet.ts';
import { startServer, type ServerProcess } from '../../scripts/server.mjs';
import { newDatabase } from './harness.ts';

let databaseUrl: string;
const files = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-nodes-'));
const PATIENCE = { timeout: 60_000, interval: 100 };
let database: pg.Client;
let [one, two, worker] = [] as unknown as [ServerProcess, ServerProcess, ServerProcess];
let balancer: Balancer;
let person: ApiPerson;
let params: { projectId: string };
const sockets: Socket[] = [];

const start = (role: 'web' | 'worker') =>
  startServer({
    DATABASE_URL: databaseUrl,
    PORT: '0',
    KS_DATA: files,
    KS_LOG: 'silent',
    KS_ROLE: role,
    KS_PREPARATION_PROCESSES: '1',
  });

/** Stands before the nodes: each connection goes to the next one that answers. */
interface Balancer {
  address: string;
  close(): void;
}
async function balance(ports: number[]): Promise<Balancer> {
  let next = 0;
  const server = net.createServer((client) => {
    client.on('error', () => client.destroy());
    const connect = (tries: number): void => {
      const node = net.connect(ports[next++ % ports.length]!, '127.0.0.1');
      node.once('connect', () => {
        client.pipe(node).pipe(client);
        node.on('close', () => client.destroy());
        client.on('close', () => node.destroy());
      });
      node.once('error', () => (tries ? connect(tries - 1) : client.destroy()));
    };
    connect(ports.length);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return { address: `http://127.0.0.1:${(server.address() as net.AddressInfo).port}`, close: () => server.close() };
}
const portOf = ({ address }: ServerProcess): number => Number(new URL(address).port);

beforeAll(async () => {
  databaseUrl = await newDatabase('nodes');
  database = new pg.Client(databaseUrl);
  await database.connect();
  // All at once on an empty database: one brings it up to date, the others wait.
  [one, two, worker] = await Promise.all([start('web'), start('web'), start('worker')]);
  balancer = await balance([portOf(one), portOf(two)]);
  person = new ApiPerson(balancer.address, '');
  await person.call(createFirstPerson, {
    body: { name: 'Ann Node', email: 'ann@test.example', password: 'a long enough password' },
  });
  const { id } = await person.call(createProject, { body: { name: 'Nodes', number: 'NOD', kind: 'Other' } });
  params = { projectId: id };
}, 120_000);
afterAll(async () => {
  for (const socket of sockets) socket.disconnect();
  balancer.close();
  await Promise.all([one, two, worker].map((node) => node.stop()));
  await database.end();
  fs.rmSync(files, { recursive: true, force: true });
});

/** Somebody in the project, by one address, who enters again whenever they had to connect anew. */
async function listen(address: string) {
  const socket = io(address, {
    path: '/api/live',
    transports: ['websocket'],
    extraHeaders: { cookie: person.headersForFiles().cookie ?? '' },
    reconnectionDelay: 50,
    reconnectionDelayMax: 200,
  });
  sockets.push(socket);
  const heard = { socket, changes: [] as string[], momentary: [] as unknown[], entered: 0 };
  socket.on('connect', async () => {
    if (await socket.emitWithAck('enter', params.projectId)) heard.entered++;
  });
  socket.on('change', ({ subjectType }: { subjectType: string }) => heard.changes.push(subjectType));
  socket.on('momentary', ({ data }: { data: unknown }) => heard.momentary.push(data));
  await vi.waitFor(() => expect(heard.entered).toBeGreaterThan(0), PATIENCE);
  return heard;
}
const folderNamed = (name: string) => person.call(addFolder, { params, body: { parentId: null, name } });

it('every node and the worker say that they are well', async () => {
  for (const node of [one, two, worker])
    expect(await (await fetch(`${node.address}/api/health`)).json()).toMatchObject({ status: 'ok' });
});

it('a change made on one node is heard on the other; pointers go between them without the database', async () => {
  const [here, there] = [await listen(one.address), await listen(two.address)];
  await folderNamed('Heard');
  await vi.waitFor(() => {
    expect(here.changes).toContain('folder');
    expect(there.changes).toContain('folder');
  }, PATIENCE);
  const present = (await person.call(listProjects))[0]!.present;
  expect(present.map(({ name }) => name)).toEqual(['Ann Node']);

  // The nodes find each other within a few seconds; a pointer moves on meanwhile.
  const written = async () =>
    Number(
      (
        await database.query(
          `select sum(n_tup_ins + n_tup_upd) n from pg_stat_user_tables where relname = 'socket_io_attachments'`,
        )
      ).rows[0].n,
    );
  const before = await written();
  await vi.waitFor(() => {
    here.socket.emit('momentary', { x: 1, y: 2 });
    expect(there.momentary).toContainEqual({ x: 1, y: 2 });
  }, PATIENCE);
  expect(await written()).toBe(before);
  expect(here.momentary).toEqual([]);
});

it('a stranger is no peer, and what is too large is no pointer', async () => {
  const answer = await fetch(`${one.address}/api/peers`);
  expect(answer.status).toBe(404);
  const [here, there] = [await listen(one.address), await listen(one.address)];
  here.socket.emit('momentary', 'x'.repeat(5000));
  here.socket.emit('momentary', 'small');
  await vi.waitFor(() => expect(there.momentary).toContain('small'), PATIENCE);
  expect(there.momentary).toEqual(['small']);
});

it('a file delivered by one node is prepared by the worker', async () => {
  const pdf = await writeSheet({
    ...stationSheets({ number: 1 })[0]!,
    revision: 'P01',
    status: 'S3',
    date: '2026-01-05',
    drawnBy: 'A. B.',
  });
  const { id: folderId } = await folderNamed('Drawings');
  const uploadId = await person.upload(params.projectId, 'a.pdf', pdf);
  const { files: delivered } = await person.call(deliver, {
    params,
    body: { folderId, files: [{ uploadId, code: 'a' }] },
  });
  const { containerId } = delivered[0]!;
  await vi.waitFor(async () => {
    const { container } = await person.call(showContainer, { params: { ...params, containerId } });
    expect(container.preparation).toBe('ready');
  }, PATIENCE);
});

it(
  'a worker that is killed in the middle of a preparation loses nothing: the next one goes on',
  { timeout: 120_000 },
  async () => {
    const { id: folderId } = await folderNamed('Killed');
    const uploads = await Promise.all(
      Array.from({ length: 6 }, (_, i) =>
        person.upload(params.projectId, `${i}.txt`, new TextEncoder().encode(`text ${i}`)),
      ),
    );
    worker.child.kill('SIGKILL');
    await worker.ended;
    const { files: delivered } = await person.call(deliver, {
      params,
      body: { folderId, files: uploads.map((uploadId, i) => ({ uploadId, code: `text ${i}` })) },
    });
    // As if it had died with one of them in its hands.
    await database.query(
      `update pgboss.job set state = 'active', started_on = now() - interval '1 minute' where id =
      (select id from pgboss.job where name = 'prepare-version' and state = 'created' limit 1)`,
    );
    worker = await start('worker');
    for (const { containerId } of delivered)
      await vi.waitFor(async () => {
        const { container } = await person.call(showContainer, { params: { ...params, containerId } });
        expect(container.preparation).toBe('ready');
      }, PATIENCE);
  },
);

it('one part that comes to two nodes at the same moment is written once; what is stored is what its hash says', async () => {
  const content = Buffer.from(Array.from({ length: 400_000 }, (_, i) => i % 251));
  const tus = { ...person.headersForFiles(), 'tus-resumable': '1.0.0' };
  const begun = await fetch(`${one.address}/api/uploads`, {
    method: 'POST',
    headers: {
      ...tus,
      'upload-length': String(content.length),
      'upload-metadata': `projectId ${btoa(params.projectId)},filename ${btoa('NOD-AAA-ZZ-00-R-A-0777.txt')}`,
    },
  });
  const id = begun.headers.get('location')!.split('/').at(-1)!;
  const send = (node: ServerProcess, offset: number, part: Buffer) =>
    fetch(`${node.address}/api/uploads/${id}`, {
      method: 'PATCH',
      headers: { ...tus, 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' },
      body: new Uint8Array(part),
    }).then(({ status }) => status);
  const half = content.length / 2;
  for (const [from, to] of [
    [0, half],
    [half, content.length],
  ] as const) {
    const said = await Promise.all([one, two, one, two].map((node) => send(node, from, content.subarray(from, to))));
    expect(said.filter((status) => status === 204)).toHaveLength(1);
    for (const status of said) expect([204, 403, 404, 409, 410, 423]).toContain(status);
  }
  // An offset that is not where the file ends is refused.
  expect(await send(two, 17, content.subarray(0, 10))).toBeGreaterThanOrEqual(400);
  const { rows } = await database.query<{ sha256: string }>('select sha256 from uploads where id = $1', [id]);
  expect(rows[0]!.sha256).toBe(createHash('sha256').update(content).digest('hex'));
});

it('a node that is killed is noticed by no more than a reconnect', async () => {
  const heard = await Promise.all([listen(balancer.address), listen(balancer.address)]);
  const before = heard.map(({ entered }) => entered);
  one.child.kill('SIGKILL');
  await one.ended;
  // The one of the two that stood on the dead node is back; the other has noticed nothing.
  await vi.waitFor(() => expect(heard.some(({ entered }, i) => entered > before[i]!)).toBe(true), PATIENCE);
  for (const one of heard) one.changes.length = 0;
  await folderNamed('After the kill');
  await vi.waitFor(() => {
    for (const { changes } of heard) expect(changes).toContain('folder');
  }, PATIENCE);
});
