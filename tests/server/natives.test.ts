/** What people look at and what its program works on are one version with two files. */
import {
  downloadNative,
  deliver,
  downloadVersions,
  lookUpCodes,
  restoreVersion,
} from '@kindred/contract/register/register';
import { listHistory } from '@kindred/contract/things/things';
import { expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, share } from './harness.ts';
import { unzip } from './unzip.ts';
import { architect, DRAWINGS, engineer, nextCode, project, server, show, text, threePeople } from './three-people.ts';

threePeople();

async function deliverPair(code: string, words: string) {
  const uploadId = await architect.api.upload(project.projectId, `${code}.pdf`, text(`%PDF-1.4 ${words}`));
  const native = await architect.api.upload(project.projectId, `${code}.xyz`, text(`native of ${words}`));
  const { files } = await architect.api.call(deliver, {
    params: project.params,
    body: {
      folderId: project.folders.get(DRAWINGS)!,
      files: [{ uploadId, code, nativeUploadIds: [native] }],
    },
  });
  return files[0]!;
}
const read = (person: ApiPerson, versionId: string, nativeId: string): Promise<Response> =>
  fetch(
    `${server.address}/api${downloadNative.path.replace(':projectId', project.projectId).replace(':versionId', versionId).replace(':nativeId', nativeId)}`,
    { headers: person.headersForFiles() },
  );

it('they arrive as one version; both are downloaded, by those who may see it', async () => {
  const code = nextCode();
  const one = await deliverPair(code, 'the first');
  const { container, versions } = await show(architect.api, one.containerId);
  expect(container).toMatchObject({ versionNumber: 1, kind: 'drawing', fileName: `${code}.pdf` });
  const [native] = versions[0]!.natives;
  expect(native).toMatchObject({ fileName: `${code}.xyz`, size: 19 });
  expect(await (await read(architect.api, one.versionId, native!.id)).text()).toBe('native of the first');
  expect((await read(engineer.api, one.versionId, native!.id)).status).toBe(404);
  await share(project, architect.api, one.containerId);
  expect((await read(engineer.api, one.versionId, native!.id)).status).toBe(200);
  expect((await read(engineer.api, crypto.randomUUID(), native!.id)).status).toBe(404);
});

it('a version that is shared in part keeps its native files with its team', async () => {
  const one = await deliverPair(nextCode(), 'secret sheets');
  await share(project, architect.api, one.containerId);
  const { rows } = await server.platform.pool.query<{ id: string }>(
    "insert into share_sets (project_id, team_id, name, sheet_numbers, viewpoint_ids) values ($1, $2, 'Part', '{A-1}', '{}') returning id",
    [project.projectId, project.teams.get('Architecture')],
  );
  await server.platform.pool.query('update versions set share_set_id = $1 where id = $2', [rows[0]!.id, one.versionId]);
  const [native] = (await show(architect.api, one.containerId)).versions[0]!.natives;
  expect((await show(engineer.api, one.containerId)).versions[0]!.natives).toEqual([]);
  expect((await read(engineer.api, one.versionId, native!.id)).status).toBe(404);
  expect((await read(architect.api, one.versionId, native!.id)).status).toBe(200);
});

it('they come back together, leave together in a zip, and no file goes twice', async () => {
  const code = nextCode();
  const one = await deliverPair(code, 'the first');
  await deliverPair(code, 'the second');
  await architect.api.call(restoreVersion, {
    params: { ...project.params, containerId: one.containerId },
    body: { number: 1 },
  });
  const { versions } = await show(architect.api, one.containerId);
  expect(versions.map(({ natives }) => natives.length)).toEqual([1, 1, 1]);
  const [restored] = versions;
  expect(await (await read(architect.api, restored!.id, restored!.natives[0]!.id)).text()).toBe('native of the first');

  const path = `${downloadVersions.path.replace(':projectId', project.projectId)}?versionIds=${restored!.id}`;
  const zip = await fetch(`${server.address}/api${path}`, { headers: architect.api.headersForFiles() });
  const names = [...(await unzip(Buffer.from(await zip.arrayBuffer()))).keys()];
  expect(names).toEqual(expect.arrayContaining([`${code}.pdf`, `${code}.xyz`]));

  const uploadId = await architect.api.upload(project.projectId, 'x.pdf', text('%PDF-1.4'));
  const body = {
    folderId: project.folders.get(DRAWINGS)!,
    files: [{ uploadId, code: nextCode(), nativeUploadIds: [uploadId] }],
  };
  expect(await refusal(architect.api.call(deliver, { params: project.params, body }))).toMatchObject({
    code: 'upload-twice',
  });
});

it('a native file that comes later goes with the version that nobody else has got, and not with one that others have', async () => {
  const code = nextCode();
  const uploadId = await architect.api.upload(project.projectId, `${code}.pdf`, text('%PDF-1.4 alone'));
  const send = async (uploaded: string, more: object = {}) => {
    const body = { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId: uploaded, code, ...more }] };
    return (await architect.api.call(deliver, { params: project.params, body })).files[0]!;
  };
  const native = (words: string, extension = 'xyz') =>
    architect.api.upload(project.projectId, `${code}.${extension}`, text(words));
  const one = await send(uploadId);
  const [known] = await architect.api.call(lookUpCodes, { params: project.params, body: { codes: [code] } });
  expect(known).toMatchObject({ fileName: `${code}.pdf`, state: 'work in progress', natives: [] });
  expect(await send(await native('later'), { onto: 1 })).toMatchObject({ versionId: one.versionId, versionNumber: 1 });
  const { versions } = await show(architect.api, one.containerId);
  expect(versions[0]!.natives).toMatchObject([{ fileName: `${code}.xyz`, size: 5 }]);
  const history = await architect.api.call(listHistory, {
    params: project.params,
    query: { type: 'container', id: one.containerId },
  });
  expect(history.items[0]).toMatchObject({ verb: 'native file added', after: { version: 1, fileName: `${code}.xyz` } });

  expect(await send(await native('own', 'dgn'), { ownVersion: true })).toMatchObject({ versionNumber: 2 });
  await send(await architect.api.upload(project.projectId, `${code}.pdf`, text('%PDF-1.4 third')));
  await share(project, architect.api, one.containerId);
  expect(await send(await native('too late'))).toMatchObject({ versionNumber: 4 });
});

it('a drawing that comes after its native file makes a version with both', async () => {
  const code = nextCode();
  const send = async (extension: string) => {
    const uploadId = await architect.api.upload(
      project.projectId,
      `${code}.${extension}`,
      text(`%PDF-1.4 ${extension}`),
    );
    const body = { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId, code }] };
    return (await architect.api.call(deliver, { params: project.params, body })).files[0]!;
  };
  await send('xyz');
  const { containerId } = await send('pdf');
  const { versions } = await show(architect.api, containerId);
  expect(versions.map(({ fileName, natives }) => [fileName, natives.map((native) => native.fileName)])).toEqual([
    [`${code}.pdf`, [`${code}.xyz`]],
    [`${code}.xyz`, []],
  ]);
});
