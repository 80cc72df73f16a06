import { listContainers, moveStates, showContainer } from '@kindred/contract/register/register';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { addressOf, ApiProblem, call, setCsrfToken, whenSignedOut } from './api.ts';

const PROJECT = '00000000-0000-4000-8000-000000000001';
const fetched = vi.fn<typeof fetch>();
beforeEach(() => vi.stubGlobal('fetch', fetched));
afterEach(() => {
  vi.unstubAllGlobals();
  fetched.mockReset();
});
const problemOf = async (promise: Promise<unknown>) =>
  promise.then(
    () => expect.fail('It was not refused.'),
    (error: ApiProblem) => error.problem,
  );

describe('addresses', () => {
  it('have what is given, encoded, and leave out what is not', () => {
    const query = { q: 'plan & roof', status: '', kind: undefined, limit: 100, conflicting: false };
    expect(addressOf(listContainers, { projectId: PROJECT }, query)).toBe(
      `/api/projects/${PROJECT}/containers?q=plan+%26+roof&limit=100&conflicting=false`,
    );
    expect(addressOf(showContainer, { projectId: 'a/b', containerId: '?' })).toBe('/api/projects/a%2Fb/containers/%3F');
  });
});

describe('calls', () => {
  it('send their body with the token of the session, and answer what the server says', async () => {
    setCsrfToken('secret');
    fetched.mockResolvedValue(new Response('[]'));
    const body = { containerIds: [PROJECT], action: 'share' as const };
    expect(await call(moveStates, { params: { projectId: PROJECT }, body })).toEqual([]);
    const [address, { method, headers, body: sent }] = fetched.mock.calls[0] as unknown as [string, RequestInit];
    expect([address, method]).toEqual([`/api/projects/${PROJECT}/containers/states`, 'POST']);
    expect(headers).toEqual({ 'x-csrf-token': 'secret', 'content-type': 'application/json' });
    expect(JSON.parse(sent as string)).toEqual(body);
  });

  it('answer nothing where there is nothing to say', async () => {
    fetched.mockResolvedValue(new Response(null, { status: 204 }));
    expect(await call(listContainers, { params: { projectId: PROJECT } })).toBeNull();
  });

  it('fail in the words of the server', async () => {
    const problem = { type: '', code: 'gate-closed', status: 409, title: 'No', detail: 'Its status does not fit.' };
    fetched.mockResolvedValue(new Response(JSON.stringify(problem), { status: 409 }));
    expect(await problemOf(call(listContainers, { params: { projectId: PROJECT } }))).toEqual(problem);
  });

  it('say what to do when there is no connection, or an answer that nobody can read', async () => {
    fetched.mockRejectedValue(new TypeError('Failed to fetch'));
    expect(await problemOf(call(listContainers, { params: { projectId: PROJECT } }))).toMatchObject({
      code: 'offline',
      detail: expect.stringContaining('Nothing was changed') as string,
    });
    fetched.mockResolvedValue(new Response('<html>Bad gateway</html>', { status: 502 }));
    expect(await problemOf(call(listContainers, { params: { projectId: PROJECT } }))).toMatchObject({
      code: 'unreadable',
      status: 502,
    });
  });

  it('lead to the sign-in when the session has ended', async () => {
    const signedOut = vi.fn();
    whenSignedOut(signedOut);
    const problem = { type: '', code: 'sign-in-first', status: 401, title: '', detail: 'Sign in first.' };
    fetched.mockResolvedValue(new Response(JSON.stringify(problem), { status: 401 }));
    await problemOf(call(listContainers, { params: { projectId: PROJECT } }));
    expect(signedOut).toHaveBeenCalledOnce();
  });
});
