import { PiniaColada } from '@pinia/colada';
import type { LongJob } from '@kindred/contract/platform/jobs';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { defineComponent } from 'vue';
import { settings } from './settings.ts';

const server = vi.hoisted(() => ({ list: [] as object[], calls: [] as string[] }));
vi.mock('./api.ts', () => ({
  addressOf: (operation: { id: string }, { jobId }: { jobId: string }) => `/${operation.id}/${jobId}`,
  call: (operation: { id: string }) => {
    server.calls.push(operation.id);
    return Promise.resolve(operation.id === 'listLongJobs' ? server.list : null);
  },
}));
const said: string[] = [];
vi.mock('./say.ts', () => ({
  attempt: (run: () => Promise<unknown>) => run().then(() => true),
  sayDone: (words: string) => said.push(words),
  sayProblem: (error: Error) => said.push(error.message),
}));
const { useJobs } = await import('./jobs-store.ts');

const job = (status: LongJob['status'], over: Partial<LongJob> = {}): LongJob =>
  ({
    id: 'j1',
    kind: 'register export',
    name: 'Register as XLSX',
    status,
    progress: 0,
    note: '',
    fileName: null,
    ...over,
  }) as LongJob;
const downloads: string[] = [];
let store: ReturnType<typeof useJobs>;
beforeEach(async () => {
  server.calls.length = said.length = downloads.length = 0;
  HTMLAnchorElement.prototype.click = function () {
    downloads.push(new URL(this.href).pathname);
  };
  settings.projectId = 'p';
  server.list = [job('running')];
  mount(defineComponent({ setup: () => ((store = useJobs()), () => null) }), {
    global: { plugins: [createPinia(), PiniaColada] },
  });
  await flushPromises();
});
async function becomes(next: LongJob): Promise<void> {
  server.list = [next];
  await store.cancel(next);
  await flushPromises();
}

it('shows what runs', () => {
  expect(store.running.map(({ name }) => name)).toEqual(['Register as XLSX']);
});

it('hands over the file of what somebody waits for here, once', async () => {
  await store.follow(job('running'));
  await becomes(job('done', { fileName: 'Register.xlsx' }));
  await becomes(job('done', { fileName: 'Register.xlsx', progress: 1 }));
  expect(said).toEqual(['Register as XLSX is ready.']);
  expect(downloads).toEqual(['/downloadLongJob/j1']);
  expect(store.running).toEqual([]);
});

it('leaves alone what was started elsewhere', async () => {
  await becomes(job('done', { fileName: 'Register.xlsx' }));
  expect([said, downloads]).toEqual([[], []]);
});

it('says why something failed, and hears of it again when it is tried again', async () => {
  await store.follow(job('running'));
  await becomes(job('failed', { note: 'This ended unexpectedly.' }));
  expect(said).toEqual(['Register as XLSX: This ended unexpectedly.']);
  server.list = [job('waiting')];
  await store.tryAgain(job('failed'));
  await becomes(job('done'));
  expect(said.at(-1)).toBe('Register as XLSX is ready.');
  expect(server.calls).toContain('tryLongJobAgain');
});

it('says nothing of what somebody cancelled', async () => {
  await store.follow(job('running'));
  await becomes(job('cancelled'));
  expect(said).toEqual([]);
});

it('whoever waits for the end of a job gets it, and nobody else is told', async () => {
  const end = store.ended(job('running'));
  await flushPromises();
  await becomes(job('failed', { note: 'No markups in it.' }));
  expect(await end).toMatchObject({ status: 'failed', note: 'No markups in it.' });
  expect(said).toEqual([]);
});
