import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ call: vi.fn(), signedOut: () => undefined as void, tokens: [] as string[] }));
vi.mock('../platform/api.ts', async () => {
  const { ApiProblem } = await import('@kindred/client/client');
  return {
    ApiProblem,
    call: api.call,
    setCsrfToken: (token: string) => api.tokens.push(token),
    whenSignedOut: (run: () => void) => void (api.signedOut = run),
  };
});
const left = vi.fn();
vi.mock('../platform/live.ts', () => ({ useLive: () => ({ leave: left }) }));
const problems: unknown[] = [];
vi.mock('../platform/say.ts', () => ({
  attempt: (run: () => Promise<unknown>) =>
    run().then(
      () => true,
      (error: unknown) => (problems.push(error), false),
    ),
}));
const { ApiProblem } = await import('../platform/api.ts');
const { useSession } = await import('./store.ts');
const problem = (code: string) => new ApiProblem({ type: '', code, status: 401, title: code, detail: code });
const session = { csrfToken: 'csrf', person: { id: 'p', name: 'Ann' } };
beforeEach(() => {
  setActivePinia(createPinia());
  api.call.mockReset();
  left.mockReset();
  problems.length = 0;
});

it('asks once who has signed in', async () => {
  api.call.mockResolvedValue(session);
  const store = useSession();
  expect(await store.ensure()).toBe(true);
  expect(await store.ensure()).toBe(true);
  expect(api.call).toHaveBeenCalledTimes(1);
  expect(store.me).toEqual(session.person);
  expect(api.tokens.at(-1)).toBe('csrf');
});

it('nobody is signed in only where the server says so; no connection is no answer', async () => {
  api.call.mockRejectedValueOnce(problem('sign-in-first'));
  expect(await useSession().ensure()).toBe(false);
  api.call.mockRejectedValueOnce(problem('offline'));
  await expect(useSession().ensure()).rejects.toThrow('offline');
});

it('signs out where the server has heard of it; otherwise says so and stays', async () => {
  const store = useSession();
  store.begin(session as never);
  api.call.mockRejectedValueOnce(problem('offline'));
  await store.end();
  expect(store.session).not.toBeNull();
  expect(problems).toHaveLength(1);
  api.call.mockResolvedValueOnce(null);
  await store.end();
  expect(store.session).toBeNull();
  expect(left).toHaveBeenCalledTimes(1);
});

it('a session that has ended elsewhere is forgotten here, once', () => {
  const store = useSession();
  store.begin(session as never);
  api.signedOut();
  api.signedOut();
  expect(left).toHaveBeenCalledTimes(1);
});
