import { listContainers, moveStates } from '@kindred/contract/register/register';
import { signOut } from '@kindred/contract/identity/identity';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { addressOf, ApiProblem, createClient, problemFrom, Unreachable } from './client.ts';

const answers = vi.fn<(address: string, init: RequestInit) => Promise<Response>>();
vi.stubGlobal('fetch', (address: string, init: RequestInit) => answers(address, init));
afterEach(() => void answers.mockReset());
const call = createClient({ server: 'http://there', headers: () => ({ authorization: 'Bearer secret' }) });
const params = { projectId: 'p 1' };

describe('an address', () => {
  it('has its parameters in their places, and of the query what is given', () => {
    expect(
      addressOf(listContainers, params, { q: 'a&b', status: '', kind: undefined, limit: 0, atIntake: false }),
    ).toBe('/api/projects/p%201/containers?q=a%26b&limit=0&atIntake=false');
  });
});

describe('a call', () => {
  it('says who calls, and what is wanted as JSON', async () => {
    answers.mockResolvedValue(new Response('{"changed":1}'));
    const body = { containerIds: ['c'], action: 'share' as const };
    expect(await call(moveStates, { params, body })).toEqual({ changed: 1 });
    const [address, init] = answers.mock.calls[0]!;
    expect(address).toBe('http://there/api/projects/p%201/containers/states');
    expect(init).toMatchObject({ method: 'POST', body: JSON.stringify(body) });
    expect(init.headers).toEqual({ authorization: 'Bearer secret', 'content-type': 'application/json' });
  });

  it('without a body sends none, and takes an empty answer for nothing', async () => {
    answers.mockResolvedValue(new Response(null, { status: 204 }));
    expect(await call(signOut)).toBeNull();
    expect(answers.mock.calls[0]![1]).not.toHaveProperty('body');
  });

  it('that is refused rejects with the words of the server', async () => {
    const problem = { type: 'x', code: 'gate', status: 409, title: 'Closed', detail: 'The gate is closed.' };
    answers.mockResolvedValue(new Response(JSON.stringify(problem), { status: 409 }));
    const error = await call(listContainers, { params }).catch((error: unknown) => error);
    expect(error).toBeInstanceOf(ApiProblem);
    expect((error as ApiProblem).problem).toEqual(problem);
    expect((error as ApiProblem).message).toBe('The gate is closed.');
  });

  it('that nobody answers is told apart from one that is refused, and from a mistake of ours', async () => {
    answers.mockRejectedValueOnce(new TypeError('fetch failed'));
    await expect(call(listContainers, { params })).rejects.toBeInstanceOf(Unreachable);
    answers.mockRejectedValueOnce(new RangeError('ours'));
    await expect(call(listContainers, { params })).rejects.toBeInstanceOf(RangeError);
  });

  it('that only reads and came too fast is asked once more; what changes something is not, nor what has to wait long', async () => {
    vi.useFakeTimers();
    const tooFast = (seconds: number) => new Response('{}', { status: 429, headers: { 'retry-after': `${seconds}` } });
    answers
      .mockResolvedValueOnce(tooFast(1))
      .mockResolvedValueOnce(tooFast(1))
      .mockResolvedValueOnce(new Response('7'));
    const asked = call(listContainers, { params });
    await vi.advanceTimersByTimeAsync(2000);
    expect(await asked).toBe(7);
    for (const [operation, seconds, times] of [
      [moveStates, 1, 1],
      [listContainers, 60, 1],
      [listContainers, 1, 3],
    ] as const) {
      answers.mockReset().mockImplementation(() => Promise.resolve(tooFast(seconds)));
      const refused = call(operation, { params }).catch((error: unknown) => error);
      await vi.advanceTimersByTimeAsync(10_000);
      expect(await refused).toBeInstanceOf(ApiProblem);
      expect(answers).toHaveBeenCalledTimes(times);
    }
    vi.useRealTimers();
  });

  it('lets whoever wants hear every answer', async () => {
    const heard = vi.fn();
    answers.mockResolvedValue(new Response('{}', { status: 500 }));
    const hearing = createClient({ server: '', headers: () => ({}), heard });
    await hearing(listContainers, { params }).catch(() => undefined);
    expect(heard.mock.calls[0]![0]).toMatchObject({ status: 500 });
  });
});

it('what answers no problem as it should is told as such', () => {
  expect(problemFrom('<html>502</html>', 502)).toMatchObject({ code: 'unreadable', status: 502 });
});
