/** Long work: named, with progress, cancelled, tried again, its result kept for whoever started it and for nobody else. */
import { cancelLongJob, listLongJobs, tryLongJobAgain } from '@kindred/contract/platform/jobs';
import { startRegisterExport } from '@kindred/contract/register/register';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  const bytes = new TextEncoder().encode('a file');
  await deliverFile(project, author, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-R-A-0101.txt', bytes);
});
afterAll(() => server.remove());

const startExport = (as: 'xlsx' | 'csv') => author.call(startRegisterExport, { params: project.params, query: { as } });
const jobsOf = (api: ApiPerson) => api.call(listLongJobs, { params: project.params });
const ended = async (id: string) =>
  vi.waitFor(
    async () => {
      const job = (await jobsOf(author)).find((one) => one.id === id)!;
      expect(['done', 'failed', 'cancelled']).toContain(job.status);
      return job;
    },
    { timeout: 30_000, interval: 50 },
  );
const file = (api: ApiPerson, id: string) =>
  fetch(`${server.address}/api/projects/${project.projectId}/jobs/${id}/file`, { headers: api.headersForFiles() });

it('runs while one goes on working, and keeps its file for its owner', async () => {
  const started = await startExport('csv');
  expect(started).toMatchObject({ kind: 'register export', path: 'register', fileName: null });
  const job = await ended(started.id);
  expect(job).toMatchObject({ status: 'done', progress: 1, fileName: expect.stringMatching(/^Register .*\.csv$/) });
  const answer = await file(author, started.id);
  expect(answer.headers.get('cache-control')).toBe('private, no-cache');
  expect(await answer.text()).toContain('ORP-TVA-ZZ-00-R-A-0101');
  expect((await file(project.founder, started.id)).status).toBe(404);
  expect(await jobsOf(project.founder)).toEqual([]);
});

it('is cancelled before it has begun, and can be tried again', async () => {
  const { id } = await startExport('xlsx');
  const cancelled = await author.call(cancelLongJob, { params: { ...project.params, jobId: id } }).catch(() => null);
  const first = await ended(id);
  // It may have been faster than the hand that cancels.
  if (cancelled) expect(['cancelled', 'done']).toContain(first.status);
  const again = author.call(tryLongJobAgain, { params: { ...project.params, jobId: id } });
  if (first.status === 'done') expect((await refusal(again)).code).toBe('job-not-ended');
  else {
    await again;
    expect(await ended(id)).toMatchObject({ status: 'done' });
  }
  const other = project.founder.call(cancelLongJob, { params: { ...project.params, jobId: id } });
  expect((await refusal(other)).status).toBe(404);
});

it('that failed says so in words, and is tried again by hand', async () => {
  const { id } = await startExport('csv');
  await ended(id);
  // As if it had outlasted its retries.
  await server.platform.pool.query(
    `update long_jobs set status = 'failed', note = 'This ended unexpectedly.', sha256 = null where id = $1`,
    [id],
  );
  const answer = await file(author, id);
  expect(answer.status).toBe(422);
  expect((await answer.json()).code).toBe('no-result');
  await author.call(tryLongJobAgain, { params: { ...project.params, jobId: id } });
  expect(await ended(id)).toMatchObject({ status: 'done', note: '' });
});
