/** BCF files come in: new topics, those that were changed elsewhere, and those that were changed on both sides. */
import {
  listBcfTransfers,
  showBcfImport,
  startBcfExport,
  startBcfImport,
  takeBcfImport,
} from '@kindred/contract/bcf/bcf';
import { commentIssue } from '@kindred/contract/issues/comments';
import { changeIssue, listIssues, raiseIssue, showIssue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import { addViewpoint } from '@kindred/contract/scene/scene';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openZip } from '../../packages/archive/src/read-zip.ts';
import { zipAsTheyCome } from '../../packages/archive/src/write-zip.ts';
import type { BcfFile, BcfTopic } from '../../packages/core/src/bcf/bcf-file.ts';
import { readBcf } from '../../packages/core/src/bcf/read-bcf.ts';
import { writeBcf } from '../../packages/core/src/bcf/write-bcf.ts';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal } from './harness.ts';
import { ended, made } from './markup-table.ts';
import { architect, engineer, first, project, server, threePeople } from './three-people.ts';

vi.setConfig({ testTimeout: 400_000 });
threePeople();
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
let folder: string;
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'bcf-in-'));
});
afterAll(() => fs.rm(folder, { recursive: true }));

const founder = () => project.founder;
async function exported(version: '2.1' | '3.0', q: string): Promise<BcfFile> {
  const { id } = await founder().call(startBcfExport, { params: project.params, body: { version, q } });
  const file = path.join(folder, `${id}.bcf`);
  await fs.writeFile(file, await made(founder(), server.address, project.projectId, id));
  const zip = await openZip(file);
  const read = await readBcf(zip);
  zip.close();
  return read;
}
async function bytesOf(file: BcfFile, version = file.version): Promise<Uint8Array> {
  async function* entries() {
    for await (const { name, bytes } of writeBcf(
      file,
      version,
      () => Promise.resolve(PIXEL),
      () => undefined,
    ))
      yield { name, content: bytes };
  }
  return buffer(zipAsTheyCome(entries()));
}
const send = async (person: ApiPerson, bytes: Uint8Array, status: 'done' | 'failed' = 'done') => {
  const uploadId = await person.upload(project.projectId, 'issues.bcf', bytes, [], 'bcf');
  const { id } = await person.call(startBcfImport, { params: project.params, body: { uploadId } });
  return { id, note: await ended(person, project.projectId, id, status) };
};
const found = (jobId: string) => founder().call(showBcfImport, { params: { ...project.params, jobId } });
async function take(jobId: string, body: Body<typeof takeBcfImport> = {}) {
  const job = await founder().call(takeBcfImport, { params: { ...project.params, jobId }, body });
  return ended(founder(), project.projectId, job.id);
}
const topic = (more: Partial<BcfTopic>): BcfTopic => ({
  ...{ guid: crypto.randomUUID(), assignedId: null, title: 'From elsewhere', description: null, type: null },
  ...{ status: null, priority: null, stage: null, index: null, author: 'somebody@elsewhere.invalid' },
  ...{ created: '2026-01-02T03:04:05Z', modifiedAuthor: null, modified: null, assignedTo: null, due: null },
  ...{ labels: [], referenceLinks: [], header: [], snippet: null, documents: [], related: [], comments: [] },
  viewpoints: [],
  ...more,
});
const fileOf = (...topics: BcfTopic[]): BcfFile => ({ version: '3.0', project: null, topics, notes: [] });
const byTitle = async (q: string) =>
  (await founder().call(listIssues, { params: project.params, query: { q, limit: 50 } })).items;

describe.each(['2.1', '3.0'] as const)('a file of version %s that was changed elsewhere', (version) => {
  it('is taken field by field; what was changed on both sides is chosen, and nothing comes twice', async () => {
    const name = `Duct ${version.replace('.', '')}`;
    const issue = await founder().call(raiseIssue, {
      params: project.params,
      body: { title: name, description: 'Lower it', type: 'clash', priority: 'normal', dueOn: '2026-12-24' },
    });
    const at = { ...project.params, issueId: issue.id };
    await founder().call(commentIssue, { params: at, body: { text: 'Ours' } });
    const file = await exported(version, name);
    const [theirs] = file.topics;
    Object.assign(theirs!, { status: 'Resolved', priority: 'high', description: 'Lower it by 200 mm' });
    theirs!.comments.push({
      ...{ guid: crypto.randomUUID(), author: 'eve@elsewhere.invalid', date: '2026-05-06T07:08:09Z', text: 'Done' },
      ...{ viewpoint: null, modifiedAuthor: null, modified: null },
    });
    // Meanwhile somebody changed it here too.
    await founder().call(changeIssue, { params: at, body: { edition: 1, description: 'Lower it soon' } });

    const bytes = await bytesOf(file);
    const job = await send(founder(), bytes);
    const preview = await found(job.id);
    expect(preview.topics).toMatchObject([
      {
        ...{ found: 'conflict', issue: { number: issue.number }, comments: 1, viewpoints: 0 },
        fields: [
          { field: 'description', mine: 'Lower it soon', theirs: 'Lower it by 200 mm', found: 'both' },
          { field: 'status', mine: 'open', theirs: 'Resolved', found: 'theirs' },
          { field: 'priority', mine: 'normal', theirs: 'high', found: 'theirs' },
        ],
      },
    ]);
    await take(job.id, { theirs: {}, mine: { [issue.id]: ['priority'] } });
    const shown = await founder().call(showIssue, { params: at });
    expect(shown.issue).toMatchObject({
      ...{ status: 'answered', priority: 'normal', description: 'Lower it soon', comments: 2 },
    });
    expect(shown.comments.map(({ text, writtenBy }) => [text, writtenBy])).toContainEqual([
      'Done',
      'eve@elsewhere.invalid',
    ]);
    // The same file once more changes nothing; what was left out then is not asked again.
    const again = await send(founder(), bytes);
    expect(await found(again.id)).toMatchObject({ topics: [], same: 1 });
    await take(again.id);
    expect((await founder().call(showIssue, { params: at })).issue.comments).toBe(2);
    // It leaves with the word of the other program, as long as that means what is here.
    expect((await exported(version, name)).topics[0]).toMatchObject({ status: 'Resolved', guid: issue.id });
  });
});

it('what an issue has no place for is kept, and written again', async () => {
  const guid = crypto.randomUUID();
  const bytes = await bytesOf(
    fileOf(
      topic({
        ...{
          guid,
          title: 'Kept by us',
          type: 'Remark of theirs',
          priority: 'Major',
          stage: 'Tender',
          labels: ['A', 'B'],
        },
        ...{ status: 'In Progress', assignedTo: 'nobody@elsewhere.invalid', due: '2027-01-05T00:00:00Z' },
        ...{ referenceLinks: ['https://elsewhere.invalid/7'], related: [crypto.randomUUID()] },
        documents: [
          {
            ...{ guid: null, description: 'Their plan', url: 'https://elsewhere.invalid/plan.pdf', entry: null },
            ...{ fileName: null, documentGuid: null },
          },
        ],
        viewpoints: [
          {
            ...{ guid: crypto.randomUUID(), index: 1, selection: [], visibility: null, sections: [], lines: [] },
            camera: { kind: 'perspective', position: [1, 2, 3], direction: [0, 1, 0], up: [0, 0, 1], fieldOfView: 60 },
            ...{
              bitmaps: [],
              colours: [
                {
                  colour: 'FF0000',
                  components: [{ ifcGuid: '1YvctVUKr0kugbFTf53O9L', originatingSystem: null, authoringToolId: null }],
                },
              ],
              snapshot: 'shot.png',
            },
          },
        ],
      }),
    ),
  );
  const job = await send(founder(), bytes);
  expect((await found(job.id)).topics).toMatchObject([{ guid, found: 'new', issue: null, viewpoints: 1 }]);
  await take(job.id);
  const [issue] = await byTitle('Kept by us');
  expect(issue).toMatchObject({
    ...{ type: 'Remark of theirs', priority: 'Major', status: 'in hand', labels: ['A', 'B'], dueOn: '2027-01-05' },
    ...{ responsible: null, writtenBy: 'somebody@elsewhere.invalid', createdAt: '2026-01-02T03:04:05.000Z' },
    // No model is here to look at: its picture stays.
    ...{ viewpointId: null, pictures: 1 },
  });
  const [back] = (await exported('3.0', 'Kept by us')).topics;
  expect(back).toMatchObject({
    ...{ guid, type: 'Remark of theirs', priority: 'Major', status: 'In Progress', stage: 'Tender' },
    ...{ assignedTo: 'nobody@elsewhere.invalid', author: 'somebody@elsewhere.invalid', labels: ['A', 'B'] },
    viewpoints: [{ index: 1, camera: { position: [1, 2, 3], fieldOfView: 60 }, colours: [{ colour: 'FF0000' }] }],
    documents: [{ description: 'Their plan', url: 'https://elsewhere.invalid/plan.pdf' }],
  });
  expect(back!.referenceLinks).toContain('https://elsewhere.invalid/7');
  expect(back!.related).toHaveLength(1);
});

it('strange topics come in as well as can be, each with a note, and no other is lost', async () => {
  const twin = crypto.randomUUID();
  const bytes = await bytesOf(
    fileOf(
      topic({ title: 'Strange one', created: '2999-01-01T00:00:00Z', status: 'Banana', labels: ['a,b', ' '] }),
      topic({ title: '', description: 'Strange without a title' }),
      topic({ title: 'Strange twin', guid: twin }),
      topic({ title: 'Strange twin again', guid: twin }),
      topic({ title: `Strange ${'x'.repeat(400)}`, author: null, created: 'yesterday' }),
    ),
  );
  const job = await send(founder(), bytes);
  const preview = await found(job.id);
  expect(preview.topics.length).toBeGreaterThanOrEqual(4);
  await take(job.id);
  const all = await byTitle('Strange');
  expect(all.map(({ title }) => title)).toEqual(
    expect.arrayContaining(['Strange one', expect.stringMatching(/title/i), expect.stringMatching(/^Strange x{100,}/)]),
  );
  const one = all.find(({ title }) => title === 'Strange one')!;
  expect(one).toMatchObject({ status: 'open', labels: ['a b'] });
  expect(Date.parse(one.createdAt)).toBeLessThanOrEqual(Date.now());
});

it('files that are none, and people who may not, get a clear answer, and nothing is changed', async () => {
  const broken = await send(founder(), new TextEncoder().encode('no zip at all'), 'failed');
  expect(broken.note).toMatch(/Nothing was changed/);
  expect(await refusal(found(broken.id))).toMatchObject({ status: 404 });
  const uploadId = await founder().upload(project.projectId, 'a.bcf', await bytesOf(fileOf(topic({}))), [], 'bcf');
  expect(
    await refusal(engineer.api.call(startBcfImport, { params: project.params, body: { uploadId } })),
  ).toMatchObject({ status: 403 });
  await expect(engineer.api.upload(project.projectId, 'a.bcf', PIXEL, [], 'bcf')).rejects.toThrow();
});

it('an issue at a place that one does not see is left as it is', async () => {
  const { versionId } = await first();
  const viewpoint = await architect.api.call(addViewpoint, {
    params: project.params,
    body: {
      ...{ name: 'Ours', versionIds: [versionId], picture: `data:image/png;base64,${PIXEL.toString('base64')}` },
      state: {
        camera: { position: [0, 0, 2], target: [0, 4, 2], fieldOfView: 50 },
        ...{ sections: [], hidden: [], isolated: null, selection: [] },
      },
    },
  });
  const issue = await architect.api.call(raiseIssue, {
    params: project.params,
    body: { title: 'Among architects', type: 'question', priority: 'low', viewpointId: viewpoint.id },
  });
  const stranger = await project.join('Cora Coordinator', 'Coordinator');
  const bytes = await bytesOf(fileOf(topic({ guid: issue.id, title: 'Taken over' })));
  const job = await send(stranger.api, bytes);
  const params = { ...project.params, jobId: job.id };
  expect(await stranger.api.call(showBcfImport, { params })).toMatchObject({ topics: [], same: 0 });
  const taken = await stranger.api.call(takeBcfImport, { params, body: {} });
  await ended(stranger.api, project.projectId, taken.id);
  expect(await architect.api.call(showIssue, { params: { ...project.params, issueId: issue.id } })).toMatchObject({
    issue: { title: 'Among architects' },
  });
  // What somebody else reads is not shown.
  expect(await refusal(found(job.id))).toMatchObject({ status: 404 });
});

it('what left and came in is listed, with file, filter, counts and by whom', async () => {
  const { items } = await founder().call(listBcfTransfers, { params: project.params, query: {} });
  expect(items.map(({ way }) => way)).toEqual(expect.arrayContaining(['in', 'out']));
  expect(items.find(({ way }) => way === 'out')).toMatchObject({
    ...{ counts: { topics: 1 }, filter: { q: expect.any(String) }, by: { id: project.creatorId } },
  });
  expect(items.find(({ way }) => way === 'in')).toMatchObject({ fileName: 'issues.bcf', version: '3.0' });
});
