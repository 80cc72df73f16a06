import { beforeEach, expect, it, vi } from 'vitest';
import type { Arrival } from './arrival.ts';
import { UploadQueue, type Listener } from './upload-queue.ts';

interface Options {
  onSuccess(): void;
  onError(error: Error): void;
  onProgress(sent: number): void;
  metadata: { projectId: string; filename: string };
}
/** Uploads that have begun; a test ends them. */
const begun: (Options & { resumed: boolean; aborted: boolean; url: string })[] = [];
const unfinished = new Set<string>();
vi.mock('../platform/api.ts', () => ({ getCsrfToken: () => 'token' }));
vi.mock('../platform/connected.ts', () => ({ connected: () => expect.fail('nothing was cut off') }));
vi.mock('tus-js-client', () => ({
  Upload: class {
    url = '/api/uploads/u1';
    resumed = false;
    aborted = false;
    constructor(
      _file: unknown,
      readonly options: Options,
    ) {}
    findPreviousUploads = () => Promise.resolve(unfinished.has(this.options.metadata.filename) ? [{}] : []);
    resumeFromPreviousUpload = () => void (this.resumed = true);
    start = () => void begun.push(Object.assign(this, this.options));
    abort = () => {
      this.aborted = true;
      return Promise.resolve();
    };
  },
}));
const said: string[] = [];
const listener: Listener = {
  started: ({ file }) => said.push(`started ${file!.name}`),
  paused: ({ file }) => said.push(`paused ${file!.name}`),
  arrived: ({ file }, uploadId) => said.push(`arrived ${file!.name} as ${uploadId}`),
  broke: ({ file }, problem) => said.push(`broke ${file!.name}: ${problem}`),
};
const arrivals = (names: string): Arrival[] =>
  [...names].map((name, i) => ({ key: name.charCodeAt(0) * 100 + i, file: { name }, sent: 0 }) as unknown as Arrival);
const settled = () => new Promise((resolve) => setTimeout(resolve));
const running = (): string => begun.map(({ metadata }) => metadata.filename).join('');
beforeEach(() => {
  begun.length = said.length = 0;
  unfinished.clear();
});

it('sends three at a time, in their order, those of a later drop after those of an earlier', async () => {
  const queue = new UploadQueue();
  queue.add(arrivals('abcd'), 'one', listener);
  queue.add(arrivals('ef'), 'two', listener);
  await settled();
  expect(running()).toBe('abc');
  for (const next of ['abcd', 'abcde', 'abcdef']) {
    begun[next.length - 4]!.onSuccess();
    await settled();
    expect(running()).toBe(next);
  }
  expect(begun.map(({ metadata }) => metadata.projectId)).toEqual(['one', 'one', 'one', 'one', 'two', 'two']);
  expect(said).toContain('arrived a as u1');
});

it('goes on where it was cut off', async () => {
  unfinished.add('b');
  new UploadQueue().add(arrivals('ab'), 'one', listener);
  await settled();
  expect(begun.map(({ resumed }) => resumed)).toEqual([false, true]);
});

it('one that the server refuses says so in its words, or in ours, and makes room', async () => {
  new UploadQueue().add(arrivals('abcd'), 'one', listener);
  await settled();
  const refused = (body: string) => Object.assign(new Error('409'), { originalResponse: { getBody: () => body } });
  begun[0]!.onError(refused('{"detail":"Too large."}'));
  begun[1]!.onError(refused('<html>'));
  await settled();
  expect(said).toContain('broke a: Too large.');
  expect(said.find((line) => line.startsWith('broke b'))).toContain('What has arrived is kept');
  expect(running()).toBe('abcd');
});

it('without a connection it waits, however long, and goes on by itself', async () => {
  let back = (): void => undefined;
  const queue = new UploadQueue(() => new Promise((resolve) => (back = resolve)));
  const [a] = arrivals('a') as [Arrival];
  queue.add([a], 'one', listener);
  await settled();
  begun[0]!.onError(new Error('no network'));
  await settled();
  expect(said).toEqual(['started a', 'paused a']);
  back();
  await settled();
  expect(said).toEqual(['started a', 'paused a', 'started a']);
  begun.at(-1)!.onSuccess();
  expect(said.at(-1)).toBe('arrived a as u1');
});

it('one that is taken out while there is no connection stays out', async () => {
  let back = (): void => undefined;
  const queue = new UploadQueue(() => new Promise((resolve) => (back = resolve)));
  const [a] = arrivals('a') as [Arrival];
  queue.add([a], 'one', listener);
  await settled();
  begun[0]!.onError(new Error('no network'));
  await queue.remove(a);
  back();
  await settled();
  expect(said).toEqual(['started a', 'paused a']);
});

it('one that is taken out is heard of no more, whether it waits or is on its way', async () => {
  const queue = new UploadQueue();
  const [a, b, c, d, e] = arrivals('abcde') as [Arrival, Arrival, Arrival, Arrival, Arrival];
  queue.add([a, b, c, d, e], 'one', listener);
  await settled();
  await queue.remove(d);
  await queue.remove(a);
  await settled();
  expect(begun[0]!.aborted).toBe(true);
  expect(running()).toBe('abce');
  begun[0]!.onSuccess();
  begun[0]!.onError(new Error('aborted'));
  expect(said.filter((line) => line.includes(' a') && !line.startsWith('started'))).toEqual([]);
});

it('shows how much has been sent', async () => {
  const [a] = arrivals('a') as [Arrival];
  new UploadQueue().add([a], 'one', listener);
  await settled();
  begun[0]!.onProgress(512);
  expect(a.sent).toBe(512);
});
