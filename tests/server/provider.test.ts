/** Signing in by an OpenID Connect provider: who may, who may not, and what an answer has to fit. */
import { showSession, showSignIn } from '@kindred/contract/identity/identity';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { startSimulatedProvider, type Vouched } from '../../packages/demo/src/simulated-provider.ts';
import { freePort } from '../../scripts/postgres.mjs';
import { testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let simulated: Awaited<ReturnType<typeof startSimulatedProvider>>;
let server: TestServer;
let project: TestProject;
beforeAll(async () => {
  simulated = await startSimulatedProvider('kindred', 'a secret');
  const port = await freePort();
  server = await testServer({
    port,
    publicUrl: `http://127.0.0.1:${port}`,
    provider: {
      issuer: simulated.issuer,
      clientId: 'kindred',
      clientSecret: 'a secret',
      label: 'your account at work',
    },
  });
  project = await testProject(server);
});
afterAll(async () => {
  await server.remove();
  await simulated.close();
});

interface Step {
  location: string;
  cookies: Map<string, string>;
}
/** One redirect, as a browser follows it. */
async function go(address: string, cookies = new Map<string, string>()): Promise<Step> {
  const cookie = [...cookies].map(([name, value]) => `${name}=${value}`).join('; ');
  const response = await fetch(new URL(address, server.address), { redirect: 'manual', headers: { cookie } });
  await response.arrayBuffer();
  const kept = new Map(cookies);
  for (const line of response.headers.getSetCookie()) {
    const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!;
    if (value) kept.set(name!, value);
    else kept.delete(name!);
  }
  return { location: response.headers.get('location') ?? `${response.status}`, cookies: kept };
}
async function signInBy(person: Vouched, then = '/projects'): Promise<Step> {
  simulated.vouchFor(person);
  const left = await go(`/api/sign-in/provider?then=${encodeURIComponent(then)}`);
  const back = await go(left.location);
  return go(back.location, left.cookies);
}
const refusedWith = ({ location }: Step): string => new URL(location, server.address).searchParams.get('refused') ?? '';
const sessionIn = async ({ cookies }: Step) => {
  const response = await fetch(`${server.address}/api${showSession.path}`, {
    headers: { cookie: [...cookies].map(([name, value]) => `${name}=${value}`).join('; ') },
  });
  return (await response.json()) as { person?: { email: string } };
};
const invite = (name: string, email: string) =>
  project.founder.call(addPerson, {
    params: project.params,
    body: { name, email, roleIds: [project.roles.get('Author')!] },
  });

it('is offered on the sign-in page', async () => {
  const anybody = new ApiPerson(server.address, '');
  expect(await anybody.call(showSignIn)).toMatchObject({ provider: 'your account at work' });
});

it('lets in who was invited with the address that it vouches for, and knows them afterwards by another', async () => {
  const { id } = await invite('Wanda Work', 'wanda@work.example');
  const first = await signInBy({ sub: 'w-1', email: 'Wanda@work.example', email_verified: true }, '/projects/x?tab=1');
  expect(first.location).toBe('/projects/x?tab=1');
  expect((await sessionIn(first)).person!.email).toBe('wanda@work.example');
  const { members } = await project.founder.call(listPeople, { params: project.params });
  expect(members.find((member) => member.id === id)!.invited).toBe(false);
  const later = await signInBy({ sub: 'w-1', email: 'wanda.married@work.example', email_verified: true });
  expect((await sessionIn(later)).person!.email).toBe('wanda@work.example');
});

it('lets in nobody else: strangers, addresses that it does not vouch for, a second account of one address', async () => {
  expect(refusedWith(await signInBy({ sub: 's-1', email: 'stranger@work.example', email_verified: true }))).toContain(
    'Nobody here has the address stranger@work.example',
  );
  await invite('Uma Unsure', 'uma@work.example');
  expect(refusedWith(await signInBy({ sub: 'u-1', email: 'uma@work.example', email_verified: false }))).toContain(
    'does not vouch',
  );
  await signInBy({ sub: 'u-2', email: 'uma@work.example', email_verified: true });
  expect(refusedWith(await signInBy({ sub: 'u-3', email: 'uma@work.example', email_verified: true }))).toContain(
    'Another account',
  );
});

it('takes no answer that was not asked for by the same browser, none twice, none for another question', async () => {
  await invite('Vera Victim', 'vera@work.example');
  const vera = { sub: 'v-1', email: 'vera@work.example', email_verified: true };
  simulated.vouchFor(vera);
  const left = await go('/api/sign-in/provider');
  const back = await go(left.location);
  const mallory = await go('/api/sign-in/provider');
  expect(refusedWith(await go(back.location))).toContain('Begin once more');
  expect(refusedWith(await go(back.location, mallory.cookies))).toContain('Begin once more');
  expect((await go(back.location, left.cookies)).location).toBe('/');
  expect(refusedWith(await go(back.location, left.cookies))).toContain('Begin once more');
  expect(refusedWith(await signInBy({ ...vera, wrongNonce: true }))).toContain('Begin once more');
  const denied = `${server.address}/api/sign-in/provider/return?error=access_denied&state=x`;
  expect(refusedWith(await go(denied, left.cookies))).toContain('Begin once more');
});

it.each(['https://elsewhere.example/', '//elsewhere.example', '/\\elsewhere.example'])(
  'goes nowhere outside afterwards: %s',
  async (then) => {
    await invite('Theo Then', 'theo@work.example').catch(() => undefined);
    const step = await signInBy({ sub: 't-1', email: 'theo@work.example', email_verified: true }, then);
    expect(step.location).toBe('/');
  },
);

it('where there is no provider, there is nothing', async () => {
  const plain = await testServer();
  try {
    expect((await fetch(`${plain.address}/api/sign-in/provider`, { redirect: 'manual' })).status).toBe(404);
  } finally {
    await plain.remove();
  }
});
