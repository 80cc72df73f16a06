/** A socket takes only so much, only from our own page, and only as long as the session or token that it came by is good. */
import { createToken, deleteToken, signIn, signOut } from '@kindred/contract/identity/identity';
import { io, type Socket } from 'socket.io-client';
import { afterAll, afterEach, beforeAll, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { testProject, testServer, until, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
const open: Socket[] = [];
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
});
afterEach(() => {
  for (const socket of open.splice(0)) socket.disconnect();
});
afterAll(() => server.remove());

interface By {
  cookie?: string;
  token?: string;
  origin?: string;
}
const connect = ({ cookie, token, origin }: By): Socket => {
  const socket = io(server.address, {
    path: '/api/live',
    transports: ['websocket'],
    forceNew: true,
    reconnection: false,
    ...(token && { auth: { token } }),
    extraHeaders: { ...(cookie && { cookie }), ...(origin && { origin }) },
  });
  open.push(socket);
  return socket;
};
/** How it ended: 'connect', or why it was not let in. */
const outcome = (socket: Socket): Promise<string> =>
  new Promise((resolve) => {
    socket.once('connect', () => resolve('connect'));
    socket.once('connect_error', ({ message }) => resolve(message));
  });
const founder = (): string => project.founder.headersForFiles().cookie ?? '';
const another = async (): Promise<ApiPerson> => {
  const person = new ApiPerson(server.address, '');
  await person.call(signIn, { body: { email: 'founder@test.example', password: 'a long enough password' } });
  return person;
};
const hungUp = (socket: Socket): Promise<boolean> =>
  until(() => socket.disconnected, 'the socket ends').then(() => true);

it('nobody unknown is let in', async () => {
  expect(await outcome(connect({}))).toBe('Sign in first');
  expect(await outcome(connect({ token: 'ks_none' }))).toBe('Sign in first');
});

it('a page of another origin is not', async () => {
  expect(await outcome(connect({ cookie: founder(), origin: 'https://elsewhere.example' }))).not.toBe('connect');
  expect(await outcome(connect({ cookie: founder(), origin: server.address }))).toBe('connect');
});

it('ends at once with its session, and no other of that person', async () => {
  const leaving = await another();
  const [gone, kept] = [connect({ cookie: leaving.headersForFiles().cookie ?? '' }), connect({ cookie: founder() })];
  await Promise.all([outcome(gone), outcome(kept)]);
  await leaving.call(signOut, {});
  expect(await hungUp(gone)).toBe(true);
  expect(kept.connected).toBe(true);
});

it('ends at once with its token', async () => {
  const { id, secret } = await project.founder.call(createToken, { body: { name: 'socket' } });
  const socket = connect({ token: secret });
  expect(await outcome(socket)).toBe('connect');
  await project.founder.call(deleteToken, { params: { tokenId: id } });
  expect(await hungUp(socket)).toBe(true);
});

it('that sends too much, or too large, is ended; the server goes on', async () => {
  const [flood, large] = [connect({ cookie: founder() }), connect({ cookie: founder() })];
  await Promise.all([outcome(flood), outcome(large)]);
  for (let i = 0; i < 1000; i++) flood.emit('enter', project.projectId);
  large.emit('momentary', 'x'.repeat(50_000));
  await Promise.all([hungUp(flood), hungUp(large)]);
  expect(await outcome(connect({ cookie: founder() }))).toBe('connect');
});

it('one person has at most thirty on a node', async () => {
  const said = [];
  for (let i = 0; i < 32; i++) said.push(await outcome(connect({ cookie: founder() })));
  expect(said.filter((one) => one === 'connect').length).toBeLessThanOrEqual(30);
  expect(said.at(-1)).toBe('Too many windows are open');
});
