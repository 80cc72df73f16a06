import { CodedError } from '@kindred/core/platform/coded-error';
import { beforeEach, describe, expect, it, vi } from 'vitest';

const shown: { title?: string; message: unknown; type: string }[] = [];
vi.mock('element-plus', () => ({
  ElNotification: (notice: (typeof shown)[number]) => {
    shown.push(notice);
    return { close: () => undefined };
  },
}));
const { ApiProblem, unlessRefused } = await import('./api.ts');
const { answered, attempt, sayProblem } = await import('./say.ts');
const refusal = new ApiProblem({ type: '', code: 'gate', status: 409, title: 'Closed', detail: 'The gate is closed.' });
beforeEach(() => void (shown.length = 0));

describe('a problem is told', () => {
  it('in the words of whoever refused', () => {
    sayProblem(refusal);
    sayProblem(new CodedError('not-json'));
    sayProblem(new Error('ours'));
    expect(shown.map(({ title, message }) => [title, message])).toEqual([
      ['Closed', 'The gate is closed.'],
      ['Not possible like this', 'This file is not JSON. Nothing was changed.'],
      ['Something went wrong', 'ours'],
    ]);
  });
  it('by whoever attempts something, who then knows that it was not done', async () => {
    expect(await attempt(() => Promise.reject(refusal))).toBe(false);
    expect(await attempt(() => Promise.resolve())).toBe(true);
    expect(shown).toHaveLength(1);
  });
});

describe('only what is expected is caught', () => {
  it('a refusal, where something may be missing', async () => {
    expect(await unlessRefused(Promise.reject(refusal))).toBeUndefined();
    expect(await unlessRefused(Promise.resolve(7))).toBe(7);
    await expect(unlessRefused(Promise.reject(new RangeError('ours')))).rejects.toThrow('ours');
  });
  it('a question that is closed without an answer', async () => {
    expect(await answered(Promise.reject('cancel' as never))).toBeUndefined();
    expect(await answered(Promise.reject('close' as never))).toBeUndefined();
    expect(await answered(Promise.resolve({ value: 'yes' }))).toEqual({ value: 'yes' });
    await expect(answered(Promise.reject(new Error('ours')))).rejects.toThrow('ours');
  });
});
