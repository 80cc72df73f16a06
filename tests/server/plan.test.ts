/** A page of a drawing is linked with a storey of a model: seen by whoever sees both. */
import { linkPlan, listPlanLinks, unlinkPlan } from '@kindred/contract/plan/plan-links';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';
import { sheetsPdf } from './markup-table.ts';

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let engineer: ApiPerson;
const text = (words: string) => new TextEncoder().encode(words);

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
});
afterAll(() => server.remove());

it('is made, replaced and taken away; nobody hears of it who does not see both', async () => {
  const folder = 'Architecture / Drawings';
  const drawing = await deliverFile(project, author, folder, 'ORP-TVA-ZZ-00-D-A-0101.pdf', await sheetsPdf(1));
  const model = await deliverFile(project, author, folder, 'ORP-TVA-ZZ-ZZ-M-A-0001.ifc', text('ISO-10303-21;'));
  const link = {
    ...{ containerId: drawing.containerId, page: 1, modelId: model.containerId, storey: '00 Ground' },
    ...{ elevation: 4.2, top: 8.1, map: { a: 0.035, b: 0, c: 10, d: 20 }, error: 0.006, pairs: [] },
  };
  const put = (person: ApiPerson, over: object = {}) =>
    person.call(linkPlan, { params: project.params, body: { ...link, ...over } });
  const seen = async (person: ApiPerson) =>
    (await person.call(listPlanLinks, { params: project.params, query: {} })).map(({ storey }) => storey);

  expect(await refusal(put(engineer))).toMatchObject({ status: 404 });
  expect(await refusal(put(author, { modelId: drawing.containerId }))).toMatchObject({ code: 'no-plan-or-model' });
  expect(await refusal(put(author, { containerId: model.containerId, modelId: drawing.containerId }))).toMatchObject({
    code: 'no-plan-or-model',
  });
  expect(await refusal(put(author, { map: { a: 0, b: 0, c: 1, d: 1 } }))).toMatchObject({ code: 'points-too-close' });

  const first = await put(author);
  expect(first).toMatchObject({ ...link, versionId: drawing.versionId, modelVersionId: model.versionId });
  await put(author, { storey: '01 Upper' });
  expect([await seen(author), await seen(engineer)]).toEqual([['01 Upper'], []]);
  await share(project, author, drawing.containerId);
  expect(await seen(engineer)).toEqual([]);
  await share(project, author, model.containerId);
  expect(await seen(engineer)).toEqual(['01 Upper']);

  const [made] = await author.call(listPlanLinks, { params: project.params, query: {} });
  const { id } = made!;
  await engineer.call(unlinkPlan, { params: { ...project.params, linkId: id } });
  expect(await seen(author)).toEqual([]);
  expect(await refusal(author.call(unlinkPlan, { params: { ...project.params, linkId: id } }))).toMatchObject({
    status: 404,
  });
});
