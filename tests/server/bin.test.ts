/** Containers are moved, called otherwise, put into the bin and restored, archived and brought back. */
import {
  changeCode,
  listBin,
  moveContainers,
  removeContainers,
  restoreContainers,
} from '@kindred/contract/register/bin';
import { addFolder, changeFolder, removeFolder } from '@kindred/contract/register/folders';
import { addConvention } from '@kindred/contract/naming/naming';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { listContainers, moveStates } from '@kindred/contract/register/register';
import { jump, listHistory } from '@kindred/contract/things/things';
import { sendTransmittal, showTransmittal } from '@kindred/contract/transmittal/transmittal';
import { describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { emptyBin } from '../../packages/server/src/register/bin.ts';
import { refusal, share } from './harness.ts';
import {
  architect,
  deliverOnto,
  DRAWINGS,
  engineer,
  fileOf,
  first,
  nextCode,
  project,
  server,
  show,
  threePeople,
} from './three-people.ts';

threePeople();

const bin = (api: ApiPerson, query: { limit?: number; after?: string } = {}) =>
  api.call(listBin, { params: project.params, query });
const remove = (api: ApiPerson, containerIds: string[], reason = 'Delivered by mistake') =>
  api.call(removeContainers, { params: project.params, body: { containerIds, reason } });
const restore = (api: ApiPerson, containerIds: string[]) =>
  api.call(restoreContainers, { params: project.params, body: { containerIds } });
const recode = (api: ApiPerson, containerId: string, code: string) =>
  api.call(changeCode, { params: { ...project.params, containerId }, body: { code, reason: 'Wrong number' } });
const verbsOf = async (containerId: string): Promise<string[]> => {
  const query = { type: 'container', id: containerId };
  const { items } = await project.founder.call(listHistory, { params: project.params, query });
  return items.map(({ verb }) => verb);
};

describe('the bin', () => {
  it('takes a container out of every list, and gives it back with all its versions', async () => {
    const code = nextCode();
    const one = await first(code);
    await share(project, architect.api, one.containerId);
    await deliverOnto(architect.api, code, 'second');
    await remove(project.founder, [one.containerId]);

    expect(await refusal(show(project.founder, one.containerId))).toMatchObject({ status: 404 });
    expect((await fileOf(project.founder, one.versionId)).status).toBe(404);
    const { items } = await project.founder.call(listContainers, { params: project.params, query: { q: code } });
    expect(items).toEqual([]);
    expect(await project.founder.call(jump, { params: project.params, query: { q: code } })).toEqual([]);
    expect((await bin(project.founder)).items).toMatchObject([
      { code, versions: 2, folder: DRAWINGS, reason: 'Delivered by mistake', removedBy: 'Founder One' },
    ]);

    await restore(project.founder, [one.containerId]);
    expect((await show(architect.api, one.containerId)).versions).toHaveLength(2);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({ versionNumber: 1, state: 'shared' });
    expect((await bin(project.founder)).items).toEqual([]);
    expect((await verbsOf(one.containerId)).slice(0, 2)).toEqual(['taken out of the bin', 'put into the bin']);
  });

  it('takes it only from whoever has the right to delete', async () => {
    const one = await first();
    expect(await refusal(remove(architect.api, [one.containerId]))).toMatchObject({ status: 403 });
    expect(await refusal(bin(engineer.api))).toMatchObject({ status: 403 });
  });

  it('never takes what was published, sent or asked about: all stay, and each says why', async () => {
    const [published, sent, asked, free] = [await first(), await first(), await first(), await first()];
    for (const { containerId } of [published, sent, asked]) await share(project, architect.api, containerId);
    await project.founder.call(moveStates, {
      params: project.params,
      body: { containerIds: [published.containerId], action: 'archive' },
    });
    const body = { reason: 'for information' as const, partyIds: [], recipientsSeeEachOther: true };
    await project.founder.call(sendTransmittal, {
      params: project.params,
      body: { ...body, title: 'Plans', message: '', versionIds: [sent.versionId], personIds: [engineer.id] },
    });
    await project.founder.call(raiseIssue, {
      params: project.params,
      body: {
        title: 'Which way does it open?',
        type: 'question',
        priority: 'normal',
        place: { versionId: asked.versionId, page: 1, x: 1, y: 1 },
      },
    });
    const all = [published, sent, asked, free].map(({ containerId }) => containerId);
    const { code, fields } = await refusal(remove(project.founder, all));
    expect(code).toBe('has-to-stay');
    expect(fields?.map(({ message }) => message).sort()).toEqual([
      expect.stringMatching(/^version 1 is archived$/),
      expect.stringMatching(/^version 1 is part of issue \d+ Which way does it open\?$/),
      expect.stringMatching(/^version 1 is part of transmittal \d+ Plans$/),
    ]);
    expect((await show(project.founder, free.containerId)).container.code).toBeTruthy();
    await remove(project.founder, [free.containerId]);
  });

  it('frees the code: a new container may have it, and then the old one waits until it is free again', async () => {
    const code = nextCode();
    const old = await first(code);
    await remove(project.founder, [old.containerId]);
    const fresh = await first(code, 'the right one');
    expect(fresh.containerId).not.toBe(old.containerId);
    expect(fresh.versionNumber).toBe(1);
    expect(await refusal(restore(project.founder, [old.containerId]))).toMatchObject({ code: 'code-taken' });
    await recode(project.founder, fresh.containerId, nextCode());
    await restore(project.founder, [old.containerId]);
    expect((await show(project.founder, old.containerId)).container.code).toBe(code);
  });

  it('pages, empties itself after its time, and keeps its folder until then', async () => {
    const folder = await project.founder.call(addFolder, {
      params: project.params,
      body: { name: 'Sketches', parentId: project.folders.get(DRAWINGS)! },
    });
    const some = [await first(), await first(), await first()];
    const containerIds = some.map(({ containerId }) => containerId);
    await project.founder.call(moveContainers, {
      params: project.params,
      body: { containerIds, folderId: folder.id },
    });
    await remove(project.founder, containerIds);
    const page = await bin(project.founder, { limit: 2 });
    expect(page.items).toHaveLength(2);
    const rest = await bin(project.founder, { limit: 100, after: page.next! });
    const listed = [...page.items, ...rest.items].map(({ containerId }) => containerId);
    expect(new Set(listed).size).toBe(listed.length);
    expect(listed).toEqual(expect.arrayContaining(containerIds));

    const params = { ...project.params, folderId: folder.id };
    expect((await refusal(project.founder.call(removeFolder, { params }))).detail).toContain('lie in the bin');
    expect(await emptyBin(server.platform, 1)).toBe(0);
    expect(await emptyBin(server.platform, -1)).toBeGreaterThanOrEqual(3);
    expect((await bin(project.founder)).items).toEqual([]);
    expect(await refusal(restore(project.founder, containerIds))).toMatchObject({ status: 404 });
    await project.founder.call(removeFolder, { params });
  });
});

describe('a container in another folder', () => {
  it('becomes the team’s whose home that is, and is found there', async () => {
    const one = await first();
    const folderId = project.folders.get('Structure / Drawings')!;
    const body = { containerIds: [one.containerId], folderId };
    expect(await refusal(architect.api.call(moveContainers, { params: project.params, body }))).toMatchObject({
      status: 403,
    });
    await project.founder.call(moveContainers, { params: project.params, body });
    const { container } = await show(engineer.api, one.containerId);
    expect(container).toMatchObject({ folderId, teamId: project.teams.get('Structure') });
    expect(await refusal(show(architect.api, one.containerId))).toMatchObject({ status: 404 });
    expect((await verbsOf(one.containerId))[0]).toBe('moved');
  });

  it('conforms there too, or nothing is moved', async () => {
    const definition = {
      name: 'Site',
      separator: '_',
      fields: [{ name: 'Number', kind: 'number' as const, length: 4 }],
    };
    const site = await project.founder.call(addConvention, { params: project.params, body: { definition } });
    const folder = await project.founder.call(addFolder, {
      params: project.params,
      body: { name: 'Site', parentId: project.folders.get(DRAWINGS)! },
    });
    await project.founder.call(changeFolder, {
      params: { ...project.params, folderId: folder.id },
      body: { edition: folder.edition, conventionId: site.id },
    });
    const one = await first();
    const refused = await refusal(
      project.founder.call(moveContainers, {
        params: project.params,
        body: { containerIds: [one.containerId], folderId: folder.id },
      }),
    );
    expect(refused).toMatchObject({ code: 'name-does-not-conform' });
    expect((await show(architect.api, one.containerId)).container.folderId).toBe(project.folders.get(DRAWINGS));
  });
});

describe('a repaired code', () => {
  it('conforms, is free, and does not change what was sent', async () => {
    const [old, other] = [nextCode(), nextCode()];
    const one = await first(old);
    await first(other);
    await share(project, architect.api, one.containerId);
    const sent = await project.founder.call(sendTransmittal, {
      params: project.params,
      body: {
        title: 'Plans',
        reason: 'for information',
        message: '',
        versionIds: [one.versionId],
        personIds: [engineer.id],
        partyIds: [],
        recipientsSeeEachOther: true,
      },
    });
    expect(await refusal(recode(architect.api, one.containerId, nextCode()))).toMatchObject({ status: 403 });
    expect(await refusal(recode(project.founder, one.containerId, 'plan final'))).toMatchObject({
      code: 'name-does-not-conform',
    });
    expect(await refusal(recode(project.founder, one.containerId, other))).toMatchObject({ code: 'code-taken' });
    const wanted = nextCode();
    const { code } = await recode(project.founder, one.containerId, wanted);
    expect(code).toBe(wanted);
    const params = { ...project.params, transmittalId: sent.id };
    expect((await project.founder.call(showTransmittal, { params })).files).toMatchObject([{ code: old }]);
    expect((await deliverOnto(architect.api, wanted, 'next')).containerId).toBe(one.containerId);
  });
});

describe('the archive', () => {
  it('is opened again by whoever manages the register, with a reason', async () => {
    const one = await first();
    await share(project, architect.api, one.containerId);
    const move = (api: ApiPerson, action: 'archive' | 'bring back', reason?: string) =>
      api.call(moveStates, {
        params: project.params,
        body: { containerIds: [one.containerId], action, ...(reason && { reason }) },
      });
    await move(architect.api, 'archive');
    expect(await refusal(move(architect.api, 'bring back', 'It is needed'))).toMatchObject({ status: 403 });
    expect(await refusal(move(project.founder, 'bring back'))).toMatchObject({ code: 'reason-needed' });
    const [back] = await move(project.founder, 'bring back', 'It is needed');
    expect(back).toMatchObject({ state: 'shared' });
    expect((await verbsOf(one.containerId))[0]).toBe('brought back from the archive');
  });
});
