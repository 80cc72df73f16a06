import { operation } from '@kindred/contract/platform/operation';
import { Type } from '@sinclair/typebox';
import express from 'express';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { refused } from './errors.ts';
import { apiRouter, problemHandler, route, type Route } from './http.ts';
import type { Platform } from './services.ts';
import { compileText } from './validation.ts';

const add = operation('addThing', {
  method: 'post',
  path: '/projects/:projectId/things',
  summary: 'Add a thing',
  access: 'member',
  query: Type.Object({ at: Type.Optional(Type.Integer()) }, { additionalProperties: false }),
  body: Type.Object({ title: Type.String({ minLength: 1 }) }, { additionalProperties: false }),
  response: Type.Object({ title: Type.String() }),
});
const log = { error: vi.fn() };
const servers: http.Server[] = [];
afterEach(() => {
  servers.splice(0).forEach((server) => server.close());
  log.error.mockReset();
});

async function serve(routes: Route[]): Promise<string> {
  const platform = {
    config: { checkAnswers: true, costlyPerMinute: { person: 1, project: 1 } },
    log,
    gate: { admit: () => Promise.resolve({ id: 'p' }) },
  } as unknown as Platform;
  const app = express().use(apiRouter(platform, routes)).use(problemHandler(platform));
  const server = http.createServer(app);
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
const PLACE = '/projects/6c844d34-9062-4ed8-8044-1f0f4e0a8a11/things';
const post = async (handle: Parameters<typeof route<typeof add>>[1], sent: unknown, query = '') => {
  const address = await serve([route(add, handle)]);
  const answer = await fetch(`${address}${PLACE}${query}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: typeof sent === 'string' ? sent : JSON.stringify(sent),
  });
  return { detail: '', ...((await answer.json()) as Record<string, unknown>), status: answer.status };
};

it('hands over what was sent, numbers of the query as numbers', async () => {
  const heard = vi.fn();
  const answer = await post(
    ({ query, body, actor }) => {
      heard(query, body, actor.id);
      return Promise.resolve({ title: body.title });
    },
    { title: 'x' },
    '?at=7',
  );
  expect(answer).toMatchObject({ status: 200, title: 'x' });
  expect(heard).toHaveBeenCalledWith({ at: 7 }, { title: 'x' }, 'p');
});

describe('what is wrong in a request is named, and nothing is done', () => {
  const never = () => Promise.reject(new Error('was called'));
  it.each([
    [{ title: '' }, '', 'title'],
    [{}, '', 'title'],
    [{ title: 'x', more: 1 }, '', 'more'],
    [{ title: 'x' }, '?at=soon', 'at'],
    [{ title: 'x' }, '?where=1', 'where'],
  ])('%j %s', async (body, query, field) => {
    const answer = await post(never, body, query);
    expect(answer).toMatchObject({ status: 400, code: 'invalid-request' });
    expect(answer.detail).toContain(`“${field}”`);
    expect(answer.detail).toContain('Nothing was changed');
  });
  it('no JSON at all', async () =>
    expect(await post(never, '{"title":')).toMatchObject({ status: 400, code: 'invalid-json' }));
});

describe('an error', () => {
  const failing = (error: unknown) => post(() => Promise.reject(error as Error), { title: 'x' });
  const wrapped = (code: string) => new Error('Failed query', { cause: Object.assign(new Error('inside'), { code }) });

  it('that was meant for people leaves as it is, and is not logged', async () => {
    expect(await failing(refused('taken', 'The code is taken.'))).toMatchObject({ status: 422, code: 'taken' });
    expect(log.error).not.toHaveBeenCalled();
  });
  it.each([
    ['ENOSPC', 507, 'disk-full'],
    ['53100', 507, 'disk-full'],
    ['ECONNREFUSED', 503, 'database-away'],
    ['57P01', 503, 'database-away'],
    ['08006', 503, 'database-away'],
    ['42703', 500, 'unexpected'],
  ])('%s is told as what it is, wherever it stands inside', async (code, status, told) => {
    expect(await failing(wrapped(code))).toMatchObject({ status, code: told });
    expect(log.error).toHaveBeenCalledTimes(1);
  });
  it('that nobody foresaw tells nothing of the inside', async () => {
    const answer = await failing(new Error('password of the database is secret'));
    expect(answer).toMatchObject({ status: 500, code: 'unexpected' });
    expect(JSON.stringify(answer)).not.toContain('secret');
  });
});

it('an answer outside the contract is an error where we test', async () => {
  expect(await post(() => Promise.resolve({ wrong: 1 } as never), { title: 'x' })).toMatchObject({ status: 500 });
  expect(String((log.error.mock.calls[0]![0] as { err: Error }).err)).toContain(
    'addThing answered outside the contract',
  );
});

it('a schema says what is wrong each time anew', () => {
  const validate = compileText(Type.Object({ n: Type.Integer() }));
  expect(validate({ n: 'x' })![0]!.instancePath).toBe('/n');
  expect(validate({ n: '3' })).toBeUndefined();
  expect(validate({})![0]!.params).toEqual({ missingProperty: 'n' });
});
