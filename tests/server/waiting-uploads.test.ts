/** What was uploaded waits for whoever uploaded it, until it is delivered or discarded. */
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { deliver } from '@kindred/contract/register/register';
import { discardUpload, listUploads, showRoom } from '@kindred/contract/register/uploads';
import { expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, testProject, testServer } from './harness.ts';
import { architect, colleague, DRAWINGS, nextCode, project, text, threePeople } from './three-people.ts';

threePeople();

const list = async (api: ApiPerson, query: { limit?: number; after?: string } = {}) =>
  api.call(listUploads, { params: project.params, query });
const discard = (api: ApiPerson, uploadId: string) =>
  api.call(discardUpload, { params: { ...project.params, uploadId } });
const upload = (name: string) => architect.api.upload(project.projectId, name, text(`words of ${name}`));

it('is listed page by page to its owner alone, and gone once it is delivered or discarded', async () => {
  const [code, other] = [nextCode(), nextCode()];
  const ids = [await upload(`${code}.txt`), await upload(`${other}.txt`), await upload('left.txt')];
  const first = await list(architect.api, { limit: 2 });
  const rest = await list(architect.api, { limit: 2, after: first.next! });
  expect([...first.items, ...rest.items]).toMatchObject([
    { id: ids[0], fileName: `${code}.txt`, arrived: true },
    { id: ids[1], fileName: `${other}.txt`, arrived: true },
    { id: ids[2], fileName: 'left.txt', arrived: true },
  ]);
  expect(rest.next).toBeNull();
  expect((await list(colleague.api)).items).toEqual([]);
  expect(await refusal(discard(colleague.api, ids[2]!))).toMatchObject({ status: 404 });

  await discard(architect.api, ids[2]!);
  expect(await refusal(discard(architect.api, ids[2]!))).toMatchObject({ status: 404 });
  const body = { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId: ids[0]!, code }] };
  await architect.api.call(deliver, { params: project.params, body });
  expect((await list(architect.api)).items.map(({ id }) => id)).toEqual([ids[1]]);
});

it('that has not arrived in full is listed as such', async () => {
  const begun = await fetch(`${project.server.address}/api/uploads`, {
    method: 'POST',
    headers: {
      ...architect.api.headersForFiles(),
      'tus-resumable': '1.0.0',
      'upload-length': '100',
      'upload-metadata': `projectId ${btoa(project.projectId)},filename ${btoa('half.pdf')}`,
    },
  });
  expect(begun.status).toBe(201);
  const half = (await list(architect.api)).items.find(({ fileName }) => fileName === 'half.pdf')!;
  expect(half).toMatchObject({ arrived: false, size: 100 });
  await discard(architect.api, half.id);
});

it('is refused before it begins where a project or the installation holds all that it may', async () => {
  const small = await testServer({ quota: { project: 3000, installation: 5000 } });
  try {
    const own = await testProject(small);
    const send = (size: number, params = own.projectId) =>
      own.founder.upload(params, `${size}.txt`, new Uint8Array(size).fill(65), []);
    await send(2000);
    await send(900);
    await expect(send(200)).rejects.toThrow(/This project holds 0\.0 MB/);
    await send(90);
    expect(await own.founder.call(showRoom, { params: own.params })).toEqual({ held: 2990, most: 3000 });
    const { id } = await own.founder.call(createProject, { body: { name: 'Next', number: 'NXT', kind: 'Other' } });
    await send(1500, id);
    await expect(send(1200, id)).rejects.toThrow(/This installation holds/);
  } finally {
    await small.remove();
  }
});
