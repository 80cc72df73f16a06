/** What broke in use at real sizes: hundreds of chosen rows, a thousand files at the intake. */
import { changeIssue, raiseIssue } from '@kindred/contract/issues/issues';
import {
  deliver,
  editContainers,
  listContainers,
  lookUpVersions,
  repairNames,
  type Container,
} from '@kindred/contract/register/register';
import { sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let author: { api: ApiPerson; id: string };
let reviewer: { api: ApiPerson; id: string };
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  author = await project.join('Ann Author', 'Author', 'Architecture');
  reviewer = await project.join('Ray Reviewer', 'Reviewer', 'Structure');
});
afterAll(() => server.remove());

const FOLDER = 'Architecture / Drawings';
async function deliverMany(codes: string[]): Promise<void> {
  for (let at = 0; at < codes.length; at += 100) {
    const files = [];
    for (const code of codes.slice(at, at + 100))
      files.push({ code, uploadId: await author.api.upload(project.projectId, `${code}.txt`, Buffer.from(code), []) });
    await author.api.call(deliver, { params: project.params, body: { folderId: project.folders.get(FOLDER)!, files } });
  }
}
async function all(query: { intake?: boolean }): Promise<Container[]> {
  const found: Container[] = [];
  for (let after: string | undefined; ;) {
    const page = await author.api.call(listContainers, {
      params: project.params,
      query: { ...query, limit: 200, ...(after && { after }) },
    });
    found.push(...page.items);
    if (!page.next) return found;
    after = page.next;
  }
}
const code = (n: number): string => `ORP-TVA-ZZ-00-R-A-${String(n).padStart(4, '0')}`;

describe('many chosen rows', { timeout: 180_000 }, () => {
  it('are found by their versions, all of them, in their order', async () => {
    await deliverMany(Array.from({ length: 300 }, (_, i) => code(i + 1)));
    const ids = (await all({})).map(({ versionId }) => versionId).reverse();
    expect(ids).toHaveLength(300);
    const found = await author.api.call(lookUpVersions, { params: project.params, body: { versionIds: ids } });
    expect(found.map(({ versionId }) => versionId)).toEqual(ids);
    // Others do not see work in progress.
    expect(await reviewer.api.call(lookUpVersions, { params: project.params, body: { versionIds: ids } })).toEqual([]);
  });

  it('are not sent outside their team while they are work in progress; shared they are, all', async () => {
    const rows = (await all({})).slice(0, 283);
    const send = (to: string) =>
      author.api.call(sendTransmittal, {
        params: project.params,
        body: {
          title: 'Many',
          reason: 'for information',
          versionIds: rows.map(({ versionId }) => versionId),
          personIds: [to],
          partyIds: [],
          recipientsSeeEachOther: false,
        },
      });
    expect(await refusal(send(reviewer.id))).toMatchObject({
      code: 'not-shared',
      detail: expect.stringContaining('282 more') as string,
    });
    for (const { id } of rows) await share(project, author.api, id);
    expect((await send(reviewer.id)).files).toHaveLength(283);
  });
});

it('a status that the project does not know is named, and nothing is changed', async () => {
  const [row] = await all({});
  const edit = (status: string) =>
    author.api.call(editContainers, { params: project.params, body: { edits: [{ containerId: row!.id, status }] } });
  expect(await refusal(edit('X9'))).toMatchObject({
    code: 'unknown-status',
    detail: expect.stringContaining('“X9”') as string,
  });
  await edit('S3');
});

it(
  'a thousand files at the intake are repaired in one go, each with its own outcome',
  { timeout: 300_000 },
  async () => {
    await deliverMany(Array.from({ length: 1000 }, (_, i) => `wrong name ${i}`));
    const waiting = await all({ intake: true });
    expect(waiting).toHaveLength(1000);
    const repairs = waiting.map(({ id }, i) => ({ containerId: id, code: i % 10 ? code(2000 + i) : 'still wrong' }));
    const outcomes = await project.founder.call(repairNames, { params: project.params, body: { repairs } });
    expect(outcomes.filter(({ problem }) => problem === null)).toHaveLength(900);
    expect(await all({ intake: true })).toHaveLength(100);
  },
);

it('an issue is changed by whoever raised it or may change issues; whoever is responsible answers or passes it on', async () => {
  const other = await project.join('Olaf Onlooker', 'Reviewer', 'Structure');
  const raised = await author.api.call(raiseIssue, {
    params: project.params,
    body: {
      title: 'Clash at grid 4',
      type: 'question',
      priority: 'normal',
      responsible: { kind: 'person', id: reviewer.id },
    } as never,
  });
  let edition = raised.edition;
  const change = async (who: ApiPerson, body: object) => {
    const after = await who.call(changeIssue, {
      params: { ...project.params, issueId: raised.id },
      body: { edition, ...body } as never,
    });
    edition = after.edition;
    return after;
  };
  for (const body of [
    { action: 'void', reason: 'no' },
    { responsible: { kind: 'person', id: other.id } },
    { title: 'Mine now' },
  ])
    expect((await refusal(change(other.api, body))).status).toBe(403);
  expect((await refusal(change(reviewer.api, { action: 'void', reason: 'no' }))).status).toBe(403);
  expect((await refusal(change(reviewer.api, { title: 'Mine now' }))).status).toBe(403);
  await change(reviewer.api, { action: 'take in hand' });
  await change(reviewer.api, { responsible: { kind: 'person', id: other.id } });
  await change(other.api, { action: 'answer' });
  await change(author.api, { action: 'close' });
  const manager = await project.join('Cora Coordinator', 'Coordinator');
  await change(manager.api, { action: 'reopen', reason: 'Not yet' });
});
