/** One request must not stop the others: what nobody knows is not read, what is too much or too slow is ended. */
import { createToken } from '@kindred/contract/identity/identity';
import { previewConvention, showNaming } from '@kindred/contract/naming/naming';
import { addPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { deliver, lookUpCodes } from '@kindred/contract/register/register';
import net from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let token: string;
beforeAll(async () => {
  server = await testServer({
    patience: { seconds: 1, bytesPerSecond: 1000 },
    costlyPerMinute: { person: 12, project: 15 },
  });
  project = await testProject(server);
  token = (await project.founder.call(createToken, { body: { name: 'test' } })).secret;
});
afterAll(() => server.remove());

const post = (path: string, body: string, headers: Record<string, string> = {}) =>
  fetch(`${server.address}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body,
  });
const known = () => ({ authorization: `Bearer ${token}` });
const codes = () => `/projects/${project.projectId}/codes`;

describe('what is sent', () => {
  it('by somebody unknown is not even read', async () => {
    for (const body of ['{"broken":', '['.repeat(50_000), 'x'.repeat(3_000_000)])
      expect((await post(codes(), body)).status).toBe(401);
  });
  it('to sign in is small', async () => {
    const answer = await post('/sign-in', JSON.stringify({ email: 'a@b.example', password: 'x'.repeat(6000) }));
    expect(answer.status).toBe(413);
    expect(await answer.json()).toMatchObject({ code: 'too-large', detail: expect.stringContaining('5 kB') as string });
  });
  it('is at most 100 kB, more where an operation needs it', async () => {
    const many = JSON.stringify({ codes: Array.from({ length: 1000 }, (_, i) => `${'X'.repeat(150)}${i}`) });
    expect((await post(codes(), many, known())).status).toBe(200);
    const answer = await post(`/projects/${project.projectId}/share-sets`, many, known());
    expect(answer.status).toBe(413);
    expect(await answer.json()).toMatchObject({ detail: expect.stringContaining('Nothing was changed') as string });
  });
  it.each([
    ['nests too deep', '{"codes":'.repeat(30) + '1' + '}'.repeat(30), 'too-deep'],
    ['holds too many values', `{"codes":[${'1,'.repeat(400_000)}1]}`, 'too-many-parts'],
    ['is no JSON', '{"codes":[}', 'invalid-json'],
  ])('and %s is refused by name', async (_, body, code) => {
    const answer = await post(codes(), body, known());
    expect(answer.status).toBe(400);
    expect(await answer.json()).toMatchObject({ code });
  });
  it('compressed is not unpacked', async () => {
    expect((await post(codes(), 'x', { ...known(), 'content-encoding': 'gzip' })).status).toBe(415);
  });
});

describe('a connection', () => {
  const open = (lines: string[]): Promise<net.Socket> =>
    new Promise((resolve, reject) => {
      const socket = net.connect(server.port, '127.0.0.1', () => {
        socket.write(lines.join('\r\n'));
        resolve(socket);
      });
      socket.once('error', reject);
      socket.resume();
    });
  const ended = (socket: net.Socket): Promise<void> =>
    new Promise((resolve) => {
      socket.once('close', () => resolve());
      socket.once('error', () => undefined);
    });

  it.each(['/api/sign-in', '/api/uploads', '/assets/none'])('whose sender dawdles is ended: %s', async (path) => {
    const socket = await open([`POST ${path} HTTP/1.1`, 'Host: here', 'Content-Length: 5000', '', '{']);
    const drip = setInterval(() => socket.write(' '), 100);
    await ended(socket);
    clearInterval(drip);
  });

  it('that sends fast enough may take long', async () => {
    const body = JSON.stringify({ codes: ['X'.repeat(150)], more: 'y'.repeat(20_000) });
    const socket = await open([
      `POST ${'/api' + codes()} HTTP/1.1`,
      'Host: here',
      `Authorization: Bearer ${token}`,
      'Content-Type: application/json',
      'Connection: close',
      `Content-Length: ${body.length}`,
      '',
      '',
    ]);
    const end = ended(socket);
    let answer = '';
    socket.on('data', (part: Buffer) => (answer += part.toString()));
    for (let at = 0; at < body.length; at += 2500) {
      socket.write(body.slice(at, at + 2500));
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    await end;
    expect(answer).toMatch(/^HTTP\/1\.1 400 /);
    expect(answer).toContain('more');
  });

  it('of one person beside too many others is refused; what has begun goes on', async () => {
    const begun = await fetch(`${server.address}/api/uploads`, {
      method: 'POST',
      headers: {
        ...known(),
        'tus-resumable': '1.0.0',
        'upload-length': String(2 ** 20),
        'upload-metadata': `projectId ${btoa(project.projectId)},filename ${btoa('a.txt')}`,
      },
    });
    const path = new URL(begun.headers.get('location')!, `${server.address}/api/uploads`).pathname;
    const answers: number[] = [];
    const sockets = await Promise.all(
      Array.from({ length: 16 }, () =>
        open([
          `PATCH ${path} HTTP/1.1`,
          'Host: here',
          `Authorization: Bearer ${token}`,
          'Tus-Resumable: 1.0.0',
          'Upload-Offset: 0',
          'Content-Type: application/offset+octet-stream',
          `Content-Length: ${2 ** 20}`,
          '',
          'begin',
        ]),
      ),
    );
    for (const socket of sockets)
      socket.on('data', (part: Buffer) => answers.push(Number(/^HTTP\/1\.1 (\d+)/.exec(part.toString())?.[1])));
    await Promise.all(sockets.map(ended));
    expect(answers.filter((status) => status === 429).length).toBeGreaterThanOrEqual(4);
  });
});

it('a queue of long work is fair: who asks for little does not wait for all of who asks for much', async () => {
  const quiet = await project.join('Quiet One', 'Author', 'Structure');
  const busy = await project.join('Busy One', 'Author', 'Architecture');
  const folder = (team: string): string => `${team} / Drawings`;
  const deliverOne = (who: ApiPerson, team: string, n: number) =>
    deliverFile(project, who, folder(team), `ORP-TVA-ZZ-00-D-A-0${n}.pdf`, Buffer.from('%PDF-1.4'));
  for (let n = 201; n <= 206; n++) await deliverOne(busy.api, 'Architecture', n);
  const { versionId } = await deliverOne(quiet.api, 'Structure', 301);
  // No worker runs here: what waits stands in its order.
  const { rows } = await server.platform.pool.query<{ id: string }>(
    `select data ->> 'versionId' as id from pgboss.job where name = 'prepare-version' and state < 'active' order by priority desc, created_on, id`,
  );
  const place = rows.findIndex(({ id }) => id === versionId);
  expect(rows.length).toBeGreaterThanOrEqual(7);
  expect(place).toBeLessThan(rows.length - 1);
});

it('projects are begun by whoever may, and only so many a day', async () => {
  const few = await testServer({ perDay: { projects: 2, people: 3 }, createProjects: 'administrators' });
  try {
    const mine = await testProject(few);
    const begin = (who: ApiPerson, number: string) =>
      who.call(createProject, { body: { name: number, number, kind: 'Other' } });
    const other = await mine.join('Other Author', 'Author');
    expect((await refusal(begin(other.api, 'ONE'))).status).toBe(403);
    await begin(mine.founder, 'TWO');
    expect(await refusal(begin(mine.founder, 'THR'))).toMatchObject({
      status: 429,
      detail: expect.stringContaining('24 hours') as string,
    });
    const people = ['a', 'b', 'c'].map((name) => ({
      name,
      email: `${name}@day.example`,
      roleIds: [mine.roles.get('Author')!],
    }));
    expect((await refusal(mine.founder.call(addPeople, { params: mine.params, body: { people } }))).status).toBe(429);
  } finally {
    await few.remove();
  }
});

describe('costly requests', () => {
  const preview = async (api: ApiPerson): Promise<string> => {
    const { conventions } = await api.call(showNaming, { params: project.params });
    const { id, definition } = conventions[0]!;
    const params = { ...project.params, conventionId: id };
    const asked = api.call(previewConvention, { params, body: { definition } });
    return asked.then(
      () => 'done',
      async () => (await refusal(asked)).code,
    );
  };

  it('are counted for each person, then for all of a project; others are not held up', async () => {
    const other = await project.join('Other Author', 'Author');
    const said: string[] = [];
    for (let i = 0; i < 14; i++) said.push(await preview(project.founder));
    expect(said.at(-1)).toBe('too-many-tries');
    const theirs: string[] = [];
    for (let i = 0; i < 8; i++) theirs.push(await preview(other.api));
    // The person has tries left, the project has none.
    expect(theirs[0]).toBe('done');
    expect(theirs.at(-1)).toBe('too-many-tries');
    // What everybody does all day is not counted.
    await other.api.call(lookUpCodes, { params: project.params, body: { codes: ['A'] } });
    await deliverFile(project, project.founder, [...project.folders.keys()][0]!, 'note.txt', Buffer.from('words'));
    const answer = await fetch(`${server.address}/api/tokens`, {
      method: 'POST',
      headers: { ...known(), 'content-type': 'application/json' },
      body: '{"name":"one more"}',
    });
    expect(answer.status).toBe(429);
    expect(Number(answer.headers.get('retry-after'))).toBeGreaterThan(0);
  });
  it('of a delivery are none', () => expect(deliver.costly).toBeUndefined());
});

describe('the pace of one person', () => {
  it('is theirs alone; what cannot be read counts more, and who goes beyond waits for the refusal', async () => {
    const paced = await testServer({ requestsPerSecond: 4 });
    try {
      const own = await testProject(paced);
      const other = await own.join('Olga Other', 'Author');
      const ask = async (api: ApiPerson, body?: string): Promise<number> => {
        const headers = { ...api.headersForFiles(), 'content-type': 'application/json' };
        const init = body === undefined ? { headers } : { method: 'POST', headers, body };
        const path = `/api/projects/${own.projectId}/${body === undefined ? 'folders' : 'codes'}`;
        return (await fetch(paced.address + path, init)).status;
      };
      const begun = Date.now();
      const many = await Promise.all(Array.from({ length: 40 }, () => ask(own.founder)));
      expect(many.filter((status) => status === 200).length).toBeLessThan(40);
      expect(many).toContain(429);
      expect(Date.now() - begun).toBeGreaterThanOrEqual(1000);
      expect(await ask(other.api)).toBe(200);
      const broken = [await ask(other.api, '{'), await ask(other.api, '{'), await ask(other.api, '{')];
      expect(broken).toEqual([400, 400, 429]);
    } finally {
      await paced.remove();
    }
  });
});
