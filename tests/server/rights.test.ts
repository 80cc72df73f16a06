/** Walks every operation × every role × another project. */
import { operations } from '@kindred/contract/api';
import type { AnyOperation } from '@kindred/contract/platform/operation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STARTER_ROLES } from '../../packages/server/src/portfolio/starters/people.ts';
import { allows } from '@kindred/core/people/rights';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { addressOfNothing, projectOf, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let other: TestProject;
const people = new Map<string, ApiPerson>();

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  other = await projectOf(server, project.founder, project.creatorId, 'OTH');
  for (const { name } of STARTER_ROLES) people.set(name, (await project.join(`Person ${name}`, name)).api);
});
afterAll(() => server.remove());

const inProject = operations.map(({ operation }) => operation).filter(({ path }) => path.includes(':projectId'));

/** Calls an operation with ids that exist nowhere and an empty body: rights are judged before anything else. */
async function status(operation: AnyOperation, api: ApiPerson | null, projectId: string): Promise<number> {
  const response = await fetch(addressOfNothing(server, operation, projectId), {
    method: operation.method.toUpperCase(),
    headers: {
      ...(api?.headersForFiles() ?? {}),
      ...(operation.method === 'get' ? {} : { 'content-type': 'application/json' }),
    },
    ...(operation.method === 'get' ? {} : { body: '{}' }),
  });
  await response.arrayBuffer();
  return response.status;
}

describe.each(inProject.map((operation) => [operation.id, operation] as const))('%s', (_id, operation) => {
  it('is closed to whoever is not signed in', async () => {
    expect(await status(operation, null, project.projectId)).toBe(401);
  });

  it.each(STARTER_ROLES.map(({ name, grid }) => [name, grid] as const))(
    'for the role %s goes by its grid',
    async (name, grid) => {
      const allowed =
        typeof operation.access === 'object'
          ? allows({ administrator: false, grids: [grid] }, operation.access)
          : operation.access === 'member';
      const answer = await status(operation, people.get(name)!, project.projectId);
      if (allowed) expect([401, 403]).not.toContain(answer);
      else expect(answer).toBe(403);
      expect(answer).toBeLessThan(500);
    },
  );

  it('in another project answers as if it did not exist', async () => {
    for (const api of people.values()) expect(await status(operation, api, other.projectId)).toBe(404);
    expect(await status(operation, project.founder, crypto.randomUUID())).toBe(404);
  });
});

it('changes need the token of the session, so that no other page can make them', async () => {
  const { cookie } = project.founder.headersForFiles();
  const response = await fetch(`${server.address}/api/projects`, {
    method: 'POST',
    headers: { cookie: cookie!, 'content-type': 'application/json' },
    body: '{"name":"x","kind":"Other"}',
  });
  expect(response.status).toBe(403);
  expect(await response.json()).toMatchObject({ code: 'csrf' });
});

it('the API describes every operation', async () => {
  const document = (await (await fetch(`${server.address}/api/openapi.json`)).json()) as {
    openapi: string;
    paths: Record<string, Record<string, { operationId: string }>>;
  };
  expect(document.openapi).toBe('3.1.0');
  const ids = Object.values(document.paths).flatMap((path) =>
    Object.values(path).map(({ operationId }) => operationId),
  );
  expect(ids.sort()).toEqual(operations.map(({ operation }) => operation.id).sort());
});

it('health tells of the database and the jobs', async () => {
  expect(await (await fetch(`${server.address}/api/health`)).json()).toEqual({
    status: 'ok',
    version: '0.1.0',
    database: 'ok',
    jobs: { waiting: 0, failed: 0 },
  });
});
