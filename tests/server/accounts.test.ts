/** What people do with their account, and what others cannot do with it. */
import * as identity from '@kindred/contract/identity/identity';
import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { linkIn, refusal, testProject, testServer, until, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let ann: { api: ApiPerson; id: string };
const EMAIL = 'ann.author.orp@test.example';
const OLD = 'a long enough password';
let password = OLD;

beforeAll(async () => {
  // Callers name their address: here stands a proxy.
  server = await testServer({ trustedProxies: 1 });
  project = await testProject(server);
  ann = await project.join('Ann Author', 'Author', 'Architecture');
});
afterAll(() => server.remove());

const fresh = (): ApiPerson => new ApiPerson(server.address, '');
const signIn = async (body: { email: string; password: string; code?: string }): Promise<ApiPerson> => {
  const person = fresh();
  await person.call(identity.signIn, { body });
  return person;
};
const tryFrom = async (address: string, tried: string, email = EMAIL) => {
  const answer = await fetch(`${server.address}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-forwarded-for': address },
    body: JSON.stringify({ email, password: tried }),
  });
  return answer.status;
};
const mailsTo = async (email: string): Promise<string[]> =>
  (
    await server.platform.pool.query<{ subject: string }>('select subject from mails where "to" = $1 order by id', [
      email,
    ])
  ).rows.map(({ subject }) => subject);

describe('a password', () => {
  it.each([
    ['password1234', 'common-password'],
    ['aaaaaaaaaaaaaa', 'common-password'],
    ['Ann Author12', 'password-names-you'],
    [`${EMAIL}1`, 'password-names-you'],
  ])('like “%s” is refused', async (chosen, code) => {
    const body = { current: password, password: chosen };
    expect((await refusal(ann.api.call(identity.changePassword, { body }))).code).toBe(code);
  });

  it('is changed with the old one; other sessions end, this one stays, and the owner is told', async () => {
    const other = await signIn({ email: EMAIL, password });
    const wrong = { current: 'not this one at all', password: 'four words nobody joins' };
    expect((await refusal(ann.api.call(identity.changePassword, { body: wrong }))).code).toBe('wrong-password');
    const body = { current: password, password: 'four words nobody joins' };
    await ann.api.call(identity.changePassword, { body });
    password = body.password;
    await ann.api.call(identity.showSession);
    expect((await refusal(other.call(identity.showSession))).status).toBe(401);
    expect(await mailsTo(EMAIL)).toContain('The password of your account was changed');
  });

  it('that was forgotten is chosen anew by a link that is good once; everything else that was signed in ends', async () => {
    const { secret } = await ann.api.call(identity.createToken, { body: { name: 'agent' } });
    await fresh().call(identity.askForNewPassword, { body: { email: EMAIL.toUpperCase() } });
    // Nobody learns whether there is such an address.
    await fresh().call(identity.askForNewPassword, { body: { email: 'nobody@test.example' } });
    const key = (await linkIn(server, EMAIL)).split('new-password=')[1]!;
    const body = { key, password: 'another four odd words' };
    const again = fresh();
    await again.call(identity.chooseNewPassword, { body });
    password = body.password;
    expect((await refusal(fresh().call(identity.chooseNewPassword, { body }))).code).toBe('link-used');
    expect((await refusal(ann.api.call(identity.showSession))).status).toBe(401);
    const byToken = await fetch(`${server.address}/api/session`, { headers: { authorization: `Bearer ${secret}` } });
    expect(byToken.status).toBe(401);
    ann = { ...ann, api: again };
  });

  it('by a link that is too old is not chosen', async () => {
    await fresh().call(identity.askForNewPassword, { body: { email: EMAIL } });
    await server.platform.pool.query(`update mail_keys set expires_at = now() - interval '1 minute'`);
    const key = (await linkIn(server, EMAIL)).split('new-password=')[1]!;
    const body = { key, password: 'yet another four words' };
    expect((await refusal(fresh().call(identity.chooseNewPassword, { body }))).code).toBe('link-used');
  });
});

it('who guesses waits longer each time; the owner elsewhere is not locked out', async () => {
  const said: number[] = [];
  for (let i = 0; i < 8; i++) said.push(await tryFrom('203.0.113.7', `guess number ${i}`));
  expect(said.slice(0, 5)).toEqual([401, 401, 401, 401, 401]);
  expect(said.slice(5)).toEqual([429, 429, 429]);
  expect(await tryFrom('203.0.113.7', password)).toBe(429);
  expect(await tryFrom('198.51.100.2', password)).toBe(200);
});

it('sessions are listed and ended one by one, or all but this with all tokens', async () => {
  const [second, third] = [await signIn({ email: EMAIL, password }), await signIn({ email: EMAIL, password })];
  const { sessions } = await ann.api.call(identity.listSessions);
  expect(sessions.filter(({ current }) => current)).toHaveLength(1);
  const [theirs] = (await second.call(identity.listSessions)).sessions.filter(({ current }) => current);
  await ann.api.call(identity.endSession, { params: { sessionId: theirs!.id } });
  expect((await refusal(second.call(identity.showSession))).status).toBe(401);
  await third.call(identity.showSession);
  // Nobody ends the session of another person.
  const [founders] = (await project.founder.call(identity.listSessions)).sessions;
  const stranger = ann.api.call(identity.endSession, { params: { sessionId: founders!.id } });
  expect((await refusal(stranger)).status).toBe(404);
  await ann.api.call(identity.createToken, { body: { name: 'agent' } });
  await ann.api.call(identity.endAllOthers);
  expect((await refusal(third.call(identity.showSession))).status).toBe(401);
  expect(await ann.api.call(identity.listTokens)).toEqual([]);
  expect((await ann.api.call(identity.listSessions)).sessions).toHaveLength(1);
});

it('a second factor: a code beside the password, each good once; codes on paper for who loses the device', async () => {
  const { secret, address } = await ann.api.call(identity.beginSecondFactor);
  expect(address).toMatch(/^otpauth:\/\/totp\//);
  const code = (at: number): string => new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });
  const wrong = ann.api.call(identity.turnOnSecondFactor, { body: { code: '000000' } });
  expect((await refusal(wrong)).code).toBe('wrong-code');
  const moment = Date.now();
  const { recoveryCodes } = await ann.api.call(identity.turnOnSecondFactor, { body: { code: code(moment - 30_000) } });
  expect(recoveryCodes).toHaveLength(10);
  expect((await refusal(signIn({ email: EMAIL, password }))).code).toBe('second-factor');
  await signIn({ email: EMAIL, password, code: code(moment) });
  expect((await refusal(signIn({ email: EMAIL, password, code: code(moment) }))).code).toBe('wrong-code');
  await signIn({ email: EMAIL, password, code: recoveryCodes[0]! });
  expect((await refusal(signIn({ email: EMAIL, password, code: recoveryCodes[0]! }))).code).toBe('wrong-code');
  await ann.api.call(identity.turnOffSecondFactor, { body: { password } });
  await signIn({ email: EMAIL, password });
  expect(await mailsTo(EMAIL)).toContain('The second factor of your account was turned off');
});

it('signing out leaves nothing in the browser for whoever sits there next', async () => {
  const leaving = await signIn({ email: EMAIL, password });
  const headers = leaving.headersForFiles();
  const answer = await fetch(`${server.address}/api/sign-out`, { method: 'POST', headers });
  expect(answer.status).toBe(204);
  expect(answer.headers.get('clear-site-data')).toBe('"cache"');
  await until(async () => (await fetch(`${server.address}/api/session`, { headers })).status === 401);
});
