import { listFolders } from '@kindred/contract/register/folders';
import { showProject } from '@kindred/contract/portfolio/portfolio';
import { listRelated, jump, listHistory } from '@kindred/contract/things/things';
import {
  deliver,
  listContainers,
  lookUpCodes,
  moveStates,
  repairNames,
  showContainer,
} from '@kindred/contract/register/register';
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let architect: ApiPerson;
let engineer: ApiPerson;
const pdf = new TextEncoder().encode('%PDF-1.4 not really');
const DRAWINGS = 'Architecture / Drawings';

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  architect = (await project.join('Ann Architect', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
});
afterAll(() => server.remove());

describe('deliveries', () => {
  it('of the same code become versions with their own metadata', async () => {
    const code = 'ORP-TVA-ZZ-00-D-A-0001';
    for (const [revision, title] of [
      ['P01', 'First'],
      ['P02', 'Second'],
    ] as const) {
      const uploadId = await architect.upload(
        project.projectId,
        `${code}.pdf`,
        new TextEncoder().encode(`%PDF ${revision}`),
      );
      await architect.call(deliver, {
        params: project.params,
        body: { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId, code, revision, title }] },
      });
    }
    const { items } = await architect.call(listContainers, { params: project.params, query: { q: code } });
    expect(items).toHaveLength(1);
    const { versions, container } = await architect.call(showContainer, {
      params: { ...project.params, containerId: items[0]!.id },
    });
    expect(container).toMatchObject({ versionNumber: 2, revision: 'P02', title: 'Second' });
    expect(versions.map(({ number, revision }) => [number, revision])).toEqual([
      [2, 'P02'],
      [1, 'P01'],
    ]);
    const { items: history } = await architect.call(listHistory, {
      params: project.params,
      query: { type: 'container', id: container.id },
    });
    expect(history.map(({ verb }) => verb)).toEqual(['delivered', 'delivered']);
    const response = await fetch(
      `${server.address}/api/projects/${project.projectId}/versions/${versions[1]!.id}/file`,
      { headers: architect.headersForFiles() },
    );
    expect(await response.text()).toBe('%PDF P01');
    expect(response.headers.get('content-disposition')).toContain(`${code}.pdf`);
  });

  it('of a known code are proposed with what the register knows, to those who may see it', async () => {
    const codes = ['ORP-TVA-ZZ-00-D-A-0001', 'ORP-TVA-ZZ-00-D-A-7777'];
    const look = (api: ApiPerson) => api.call(lookUpCodes, { params: project.params, body: { codes } });
    expect(await look(architect)).toMatchObject([
      { code: codes[0], title: 'Second', revision: 'P02', versionNumber: 2 },
    ]);
    // It is work in progress of another team.
    expect(await look(engineer)).toEqual([]);
  });

  it('at the same moment all arrive, each with a number of its own', async () => {
    const code = 'ORP-TVA-ZZ-00-D-A-0002';
    const uploads = await Promise.all([1, 2, 3, 4].map(() => architect.upload(project.projectId, `${code}.pdf`, pdf)));
    const deliveries = await Promise.all(
      uploads.map((uploadId) =>
        architect.call(deliver, {
          params: project.params,
          body: { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId, code }] },
        }),
      ),
    );
    const done = deliveries.map(({ files }) => files[0]!);
    expect(done.map(({ versionNumber }) => versionNumber).sort()).toEqual([1, 2, 3, 4]);
    expect(new Set(done.map(({ containerId }) => containerId)).size).toBe(1);
    const { versions } = await architect.call(showContainer, {
      params: { ...project.params, containerId: done[0]!.containerId },
    });
    expect(versions).toHaveLength(4);
  });

  it('with a wrong name wait at the intake until the name is repaired', async () => {
    const delivered = await deliverFile(project, architect, DRAWINGS, 'plan final.pdf', pdf);
    expect(delivered.atIntake).toBe(true);
    expect((await engineer.call(listContainers, { params: project.params, query: { intake: true } })).items).toEqual(
      [],
    );
    expect((await project.founder.call(showProject, { params: project.params })).waiting.intake).toBe(1);
    const { containerId } = delivered;
    const repair = async (person: ApiPerson, code: string) =>
      (await person.call(repairNames, { params: project.params, body: { repairs: [{ containerId, code }] } }))[0]!;
    expect(await refusal(repair(architect, 'ORP-TVA-ZZ-00-D-A-0003'))).toMatchObject({ status: 403 });
    expect((await repair(project.founder, 'ORP-TVA-ZZ-00-D-A-3')).problem).toContain('does not conform');
    expect((await repair(project.founder, 'ORP-TVA-ZZ-00-D-A-0001')).problem).toContain('in the register already');
    expect(await repair(project.founder, 'ORP-TVA-ZZ-00-D-A-0003')).toEqual({
      containerId,
      code: 'ORP-TVA-ZZ-00-D-A-0003',
      problem: null,
      versionOf: null,
    });
    const { container } = await project.founder.call(showContainer, { params: { ...project.params, containerId } });
    expect(container).toMatchObject({ atIntake: false, code: 'ORP-TVA-ZZ-00-D-A-0003' });
  });

  it('that are strict are refused with the verdict, and nothing is delivered', async () => {
    const uploadId = await architect.upload(project.projectId, 'x.pdf', pdf);
    const files = [{ uploadId, code: 'ORP-TVA-ZZ-00-X-A-0009' }];
    const problem = await refusal(
      architect.call(deliver, {
        params: project.params,
        body: { folderId: project.folders.get(DRAWINGS)!, files, strict: true },
      }),
    );
    expect(problem).toMatchObject({ status: 422, code: 'name-does-not-conform' });
    expect(problem.fields![0]!.path).toBe('ORP-TVA-ZZ-00-X-A-0009/Form');
    const again = await architect.call(deliver, {
      params: project.params,
      body: { folderId: project.folders.get(DRAWINGS)!, files },
    });
    expect(again.files[0]!.atIntake).toBe(true);
  });

  it('refuse two files of one code, a folder of another team, and an upload that is not there', async () => {
    const uploadId = await architect.upload(project.projectId, 'x.pdf', pdf);
    const send = (folder: string, files: { uploadId: string; code: string }[]) =>
      refusal(
        architect.call(deliver, { params: project.params, body: { folderId: project.folders.get(folder)!, files } }),
      );
    const code = 'ORP-TVA-ZZ-00-D-A-0010';
    expect(
      await send(DRAWINGS, [
        { uploadId, code },
        { uploadId, code },
      ]),
    ).toMatchObject({ code: 'code-twice' });
    expect(await send('Structure / Drawings', [{ uploadId, code }])).toMatchObject({ status: 403 });
    expect(await send(DRAWINGS, [{ uploadId: 'a'.repeat(32), code }])).toMatchObject({ code: 'upload-incomplete' });
    expect((await architect.call(listContainers, { params: project.params, query: { q: code } })).items).toEqual([]);
  });
});

describe('work in progress', () => {
  it('is seen by its own team alone, by whatever path', async () => {
    const { containerId, versionId } = await deliverFile(
      project,
      architect,
      DRAWINGS,
      'ORP-TVA-ZZ-01-D-A-0100.pdf',
      pdf,
    );
    const q = 'ORP-TVA-ZZ-01-D-A-0100';
    const params = { ...project.params, containerId };
    expect((await engineer.call(listContainers, { params: project.params, query: { q } })).items).toEqual([]);
    expect(await engineer.call(jump, { params: project.params, query: { q } })).toEqual([]);
    expect(await refusal(engineer.call(showContainer, { params }))).toMatchObject({ status: 404 });
    expect(
      await refusal(
        engineer.call(listRelated, { params: project.params, query: { type: 'container', id: containerId } }),
      ),
    ).toMatchObject({ status: 404 });
    expect(
      await refusal(
        engineer.call(listHistory, { params: project.params, query: { type: 'container', id: containerId } }),
      ),
    ).toMatchObject({ status: 404 });
    const file = await fetch(`${server.address}/api/projects/${project.projectId}/versions/${versionId}/file`, {
      headers: engineer.headersForFiles(),
    });
    expect(file.status).toBe(404);
    const counts = await engineer.call(listFolders, { params: project.params });
    expect(counts.find(({ path }) => path === DRAWINGS)!.containers).toBe(0);
    const taken = await engineer.upload(project.projectId, `${q}.pdf`, pdf);
    expect(
      await refusal(
        engineer.call(deliver, {
          params: project.params,
          body: { folderId: project.folders.get('Structure / Drawings')!, files: [{ uploadId: taken, code: q }] },
        }),
      ),
    ).toMatchObject({ code: 'code-taken' });

    await share(project, architect, containerId);
    expect((await engineer.call(listContainers, { params: project.params, query: { q } })).items).toHaveLength(1);
    expect(await engineer.call(jump, { params: project.params, query: { q } })).toHaveLength(1);
  });

  it('moves only along its table, and withdrawing needs a reason', async () => {
    const { containerId } = await deliverFile(project, architect, DRAWINGS, 'ORP-TVA-ZZ-01-D-A-0101.pdf', pdf);
    const move = (body: { action: 'share' | 'publish' | 'archive' | 'withdraw'; reason?: string }) =>
      architect.call(moveStates, { params: project.params, body: { containerIds: [containerId], ...body } });
    expect(await refusal(move({ action: 'publish' }))).toMatchObject({ code: 'gate-closed' });
    expect(await move({ action: 'share' })).toMatchObject([{ state: 'shared' }]);
    expect(await refusal(move({ action: 'withdraw' }))).toMatchObject({ code: 'reason-needed' });
    expect(await move({ action: 'withdraw', reason: 'Wrong grid' })).toMatchObject([{ state: 'work in progress' }]);
  });
});

describe('the register', () => {
  it('pages by key without losing or repeating a row, in every order', async () => {
    for (const sort of ['code', 'title', 'deliveredAt', 'revision', 'status'] as const)
      for (const descending of [false, true]) {
        const seen: string[] = [];
        let after: string | null = null;
        do {
          const page: { items: { id: string }[]; next: string | null } = await project.founder.call(listContainers, {
            params: project.params,
            query: { sort, descending, limit: 2, ...(after && { after }) } as never,
          });
          seen.push(...page.items.map(({ id }) => id));
          after = page.next;
        } while (after);
        const { items } = await project.founder.call(listContainers, { params: project.params, query: { limit: 200 } });
        expect(seen.length).toBe(items.length);
        expect(new Set(seen)).toEqual(new Set(items.map(({ id }) => id)));
      }
  });

  it('refuses a cursor that it never gave out, and fields that it does not know', async () => {
    expect(
      await refusal(architect.call(listContainers, { params: project.params, query: { after: 'nonsense' } })),
    ).toMatchObject({ code: 'bad-cursor' });
    expect(
      await refusal(
        architect.call(listContainers, { params: project.params, query: { sort: 'size; drop table users' } as never }),
      ),
    ).toMatchObject({ status: 400 });
  });

  it('takes any words as words', async () => {
    for (const q of ["'; drop table users; --", '%', '_', '\\', '<script>alert(1)</script>', ':* & | !', '(((', 'ü'])
      expect((await architect.call(listContainers, { params: project.params, query: { q } })).items).toBeInstanceOf(
        Array,
      );
  });
});

describe('uploads', () => {
  it('refuse an empty file and too large a one, with a sentence', async () => {
    const post = (length: number) =>
      fetch(`${server.address}/api/uploads`, {
        method: 'POST',
        headers: {
          ...architect.headersForFiles(),
          'tus-resumable': '1.0.0',
          'upload-length': String(length),
          'upload-metadata': `projectId ${btoa(project.projectId)},filename ${btoa('a.pdf')}`,
        },
      });
    expect(await (await post(0)).json()).toMatchObject({ code: 'empty-file' });
    expect(await (await post(2 ** 31)).json()).toMatchObject({ code: 'too-large' });
  });

  it('go on where they were cut off, and arrive whole', async () => {
    const content = Buffer.alloc(3_000_000, 'kindred');
    const headers = { ...architect.headersForFiles(), 'tus-resumable': '1.0.0' };
    const created = await fetch(`${server.address}/api/uploads`, {
      method: 'POST',
      headers: {
        ...headers,
        'upload-length': String(content.length),
        'upload-metadata': `projectId ${btoa(project.projectId)},filename ${btoa('big.bin')}`,
      },
    });
    const url = new URL(created.headers.get('location')!, server.address).href;
    const cut = new AbortController();
    const slow = new ReadableStream({
      async start(controller) {
        controller.enqueue(content.subarray(0, 1_000_000));
      },
      // Asked for more: what there was is on its way.
      pull: () => cut.abort(),
    });
    await fetch(url, {
      method: 'PATCH',
      headers: { ...headers, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' },
      body: slow,
      duplex: 'half',
      signal: cut.signal,
    } as RequestInit).catch(() => undefined);
    const head = await fetch(url, { method: 'HEAD', headers });
    const offset = Number(head.headers.get('upload-offset'));
    expect(offset).toBeLessThan(content.length);
    const rest = await fetch(url, {
      method: 'PATCH',
      headers: { ...headers, 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' },
      body: content.subarray(offset),
    });
    expect(rest.status).toBe(204);
    const code = 'ORP-TVA-ZZ-00-R-A-0001';
    const { files } = await architect.call(deliver, {
      params: project.params,
      body: { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId: url.split('/').at(-1)!, code }] },
    });
    const { versions } = await architect.call(showContainer, {
      params: { ...project.params, containerId: files[0]!.containerId },
    });
    expect(versions[0]).toMatchObject({
      size: content.length,
      sha256: createHash('sha256').update(content).digest('hex'),
    });
  });

  it('belong to whoever began them', async () => {
    const uploadId = await architect.upload(project.projectId, 'mine.pdf', pdf);
    const response = await fetch(`${server.address}/api/uploads/${uploadId}`, {
      method: 'HEAD',
      headers: { ...engineer.headersForFiles(), 'tus-resumable': '1.0.0' },
    });
    expect(response.status).toBe(404);
  });

  it('clean their names: no paths, no marks that turn the reading round', async () => {
    const uploadId = await architect.upload(project.projectId, '../../plan\u202Efdp.pdf', pdf);
    const { files } = await architect.call(deliver, {
      params: project.params,
      body: { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId, code: 'ORP-TVA-ZZ-00-D-A-0200' }] },
    });
    const { container } = await architect.call(showContainer, {
      params: { ...project.params, containerId: files[0]!.containerId },
    });
    expect(container.fileName).toBe('planfdp.pdf');
  });
});

it('markup in any text field comes back as the text that it is', async () => {
  const code = 'ORP-TVA-ZZ-00-D-A-0300';
  const title = '<img src=x onerror=alert(1)>';
  const uploadId = await architect.upload(project.projectId, `${code}.pdf`, pdf);
  const { files } = await architect.call(deliver, {
    params: project.params,
    body: { folderId: project.folders.get(DRAWINGS)!, files: [{ uploadId, code, title }] },
  });
  const { container } = await architect.call(showContainer, {
    params: { ...project.params, containerId: files[0]!.containerId },
  });
  expect(container.title).toBe(title);
});
