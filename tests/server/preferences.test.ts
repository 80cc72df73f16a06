import { changePreference, listPreferences } from '@kindred/contract/identity/identity';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { refusal, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
});
afterAll(() => server.remove());

it('each person has their own, the last choice counts, and what is too long leaves what was kept', async () => {
  const [ann, eve] = [(await project.join('Ann', 'Author')).api, (await project.join('Eve', 'Author')).api];
  await ann.call(changePreference, { body: { key: 'pen', value: { width: 2 } } });
  await ann.call(changePreference, { body: { key: 'pen', value: { width: 3 } } });
  await ann.call(changePreference, { body: { key: 'columns/one', value: ['code'] } });
  expect(await refusal(ann.call(changePreference, { body: { key: 'pen', value: 'x'.repeat(20_001) } }))).toMatchObject({
    code: 'too-large',
  });
  expect(await ann.call(listPreferences)).toEqual({ pen: { width: 3 }, 'columns/one': ['code'] });
  expect(await eve.call(listPreferences)).toEqual({});
});
