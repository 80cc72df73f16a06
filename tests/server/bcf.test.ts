/** Issues leave as BCF files: those that one sees, with what others need of them. */
import { startBcfExport } from '@kindred/contract/bcf/bcf';
import { commentIssue } from '@kindred/contract/issues/comments';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { listLongJobs } from '@kindred/contract/platform/jobs';
import { addViewpoint } from '@kindred/contract/scene/scene';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openZip } from '../../packages/archive/src/read-zip.ts';
import { readBcf } from '../../packages/core/src/bcf/read-bcf.ts';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal } from './harness.ts';
import { made } from './markup-table.ts';
import { architect, colleague, engineer, first, project, server, threePeople } from './three-people.ts';

threePeople();
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
const WALL = '1YvctVUKr0kugbFTf53O9L';
let folder: string;
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'bcf-'));
});
afterAll(() => fs.rm(folder, { recursive: true }));

async function exported(person: ApiPerson, body: Parameters<typeof start>[1]) {
  const { id } = await start(person, body);
  const file = path.join(folder, `${id}.bcf`);
  await fs.writeFile(file, await made(person, server.address, project.projectId, id));
  const zip = await openZip(file);
  const read = await readBcf(zip);
  return { zip, read };
}
const start = (person: ApiPerson, body: { version: '2.1' | '3.0'; status?: 'open' | 'closed'; q?: string }) =>
  person.call(startBcfExport, { params: project.params, body });

it.each(['2.1', '3.0'] as const)('in version %s, with viewpoint, picture and comments', async (version) => {
  const { versionId } = await first();
  const viewpoint = await architect.api.call(addViewpoint, {
    params: project.params,
    body: {
      ...{ name: 'Duct', versionIds: [versionId], picture: `data:image/png;base64,${PIXEL}` },
      state: {
        camera: { position: [0, 0, 2], target: [0, 4, 2], fieldOfView: 50 },
        ...{ sections: [], hidden: [], isolated: [WALL], selection: [WALL] },
      } as never,
    },
  });
  const issue = await architect.api.call(raiseIssue, {
    params: project.params,
    body: {
      ...{ title: `Duct through <beam> & wall, ${version}`, type: 'clash', priority: 'high', dueOn: '2026-12-24' },
      ...{
        description: 'Lower it',
        responsible: { kind: 'person', id: colleague.id } as const,
        viewpointId: viewpoint.id,
      },
    },
  });
  const at = { ...project.params, issueId: issue.id };
  await architect.api.call(commentIssue, { params: at, body: { text: 'By half a metre' } });
  const { read, zip } = await exported(architect.api, { version, q: version });
  expect(read).toMatchObject({ version, notes: [] });
  expect(read.topics).toMatchObject([
    {
      ...{ guid: issue.id, title: `Duct through <beam> & wall, ${version}`, description: 'Lower it' },
      ...{ type: 'clash', status: 'open', priority: 'high', due: '2026-12-24T00:00:00Z' },
      assignedId: version === '3.0' ? String(issue.number) : null,
      comments: [{ text: 'By half a metre' }],
      viewpoints: [
        {
          ...{ guid: viewpoint.id, selection: [{ ifcGuid: WALL }] },
          camera: { kind: 'perspective', position: [0, 0, 2], direction: [0, 1, 0], up: [0, 0, 1], fieldOfView: 50 },
          visibility: { default: false, exceptions: [{ ifcGuid: WALL }] },
        },
      ],
    },
  ]);
  expect(read.topics[0]!.referenceLinks[0]).toMatch(new RegExp(`/projects/${project.projectId}/issues/${issue.id}$`));
  const picture = await zip.read(read.topics[0]!.viewpoints[0]!.snapshot!);
  expect([...picture.subarray(0, 4)]).toEqual([0x89, 0x50, 0x4e, 0x47]);
  zip.close();
});

it('holds what fits and what one sees, and is refused where nothing does', async () => {
  await architect.api.call(raiseIssue, {
    params: project.params,
    body: { title: 'Without a place', type: 'question', priority: 'normal' },
  });
  // The viewpoints lie on work in progress of another team.
  const theirs = await exported(engineer.api, { version: '3.0' });
  expect(theirs.read.topics.map(({ title }) => title)).toEqual(['Without a place']);
  theirs.zip.close();
  const mine = await exported(architect.api, { version: '3.0', status: 'open' });
  expect(mine.read.topics).toHaveLength(3);
  mine.zip.close();
  expect(await refusal(start(architect.api, { version: '3.0', status: 'closed' }))).toMatchObject({
    code: 'no-issues',
  });
  const jobs = await architect.api.call(listLongJobs, { params: project.params });
  expect(jobs.map(({ fileName }) => fileName)).toContainEqual(expect.stringMatching(/^Issues .*\.bcf$/));
});
