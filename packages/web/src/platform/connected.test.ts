import { afterEach, expect, it, vi } from 'vitest';
import { ApiProblem } from './api.ts';

const answers: (boolean | Error)[] = [];
vi.mock('./api.ts', async (original) => ({
  ...(await original<typeof import('./api.ts')>()),
  call: () => {
    const next = answers.shift() ?? true;
    if (next === true) return Promise.resolve({});
    return Promise.reject(
      next || new ApiProblem({ type: '', code: 'offline', status: 0, title: 'No connection', detail: '' }),
    );
  },
}));
const { connected } = await import('./connected.ts');
afterEach(() => vi.useRealTimers());

it('ends at once where the server answers', async () => {
  await connected();
});

it('asks again when the browser says that it is online, and before that every few seconds', async () => {
  vi.useFakeTimers();
  answers.push(false, false, false);
  let there = false;
  const waiting = connected().then(() => (there = true));
  await vi.advanceTimersByTimeAsync(0);
  dispatchEvent(new Event('online'));
  await vi.advanceTimersByTimeAsync(0);
  expect(answers).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(4000);
  expect(there).toBe(false);
  await vi.advanceTimersByTimeAsync(6000);
  await waiting;
  expect(there).toBe(true);
});

it('any other error is not taken for a missing connection', async () => {
  answers.push(new Error('our mistake'));
  await expect(connected()).rejects.toThrow('our mistake');
});
