/** Versions that are somebody's alone, gates, the line of versions and what stands beside it. */
import { listNotices } from '@kindred/contract/identity/identity';
import { showDesk } from '@kindred/contract/insight/insight';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { jump, listRelated, listHistory } from '@kindred/contract/things/things';
import {
  changeGates,
  decideVersion,
  editContainers,
  groupContainers,
  listContainers,
  lookUpCodes,
  moveStates,
  reserveContainers,
  restoreVersion,
  showGates,
} from '@kindred/contract/register/register';
import { describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { prepared, refusal, share } from './harness.ts';
import {
  project,
  architect,
  colleague,
  engineer,
  threePeople,
  nextCode,
  show,
  deliverOnto,
  first,
  fileOf,
} from './three-people.ts';

threePeople();

describe('a newer version that is work in progress', () => {
  it('is for its team; all others go on seeing the shared one, by every path', async () => {
    const code = nextCode();
    const one = await first(code);
    expect(await refusal(show(engineer.api, one.containerId))).toMatchObject({ status: 404 });
    await share(project, architect.api, one.containerId);
    const two = await deliverOnto(architect.api, code, 'second');
    await architect.api.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, title: 'Secret pelican plan' }] },
    });

    expect((await show(architect.api, one.containerId)).container).toMatchObject({
      versionNumber: 2,
      state: 'work in progress',
    });
    const others = await show(engineer.api, one.containerId);
    expect(others.container).toMatchObject({ versionNumber: 1, state: 'shared', title: '' });
    expect(others.versions.map(({ number }) => number)).toEqual([1]);
    const { items } = await engineer.api.call(listContainers, { params: project.params, query: { q: code } });
    expect(items).toMatchObject([{ versionNumber: 1 }]);
    expect(
      (await engineer.api.call(listContainers, { params: project.params, query: { q: 'pelican' } })).items,
    ).toEqual([]);
    expect(await engineer.api.call(jump, { params: project.params, query: { q: 'pelican' } })).toEqual([]);
    const related = await engineer.api.call(listRelated, {
      params: project.params,
      query: { type: 'container', id: one.containerId },
    });
    expect(related.items.filter(({ type }) => type === 'version')).toHaveLength(1);
    const { items: history } = await engineer.api.call(listHistory, {
      params: project.params,
      query: { type: 'container', id: one.containerId },
    });
    expect(history.map(({ verb }) => verb)).toEqual(['shared']);
    expect((await fileOf(engineer.api, two.versionId)).status).toBe(404);
    expect((await fileOf(engineer.api, one.versionId)).status).toBe(200);
    const groups = await engineer.api.call(groupContainers, {
      params: project.params,
      query: { by: 'state', q: code },
    });
    expect(groups).toEqual([{ value: 'shared', label: '', count: 1 }]);
    expect(
      (await project.founder.call(listContainers, { params: project.params, query: { q: code } })).items,
    ).toMatchObject([{ versionNumber: 2 }]);

    await share(project, architect.api, one.containerId);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({
      versionNumber: 2,
      title: 'Secret pelican plan',
    });
    await architect.api.call(moveStates, {
      params: project.params,
      body: { containerIds: [one.containerId], action: 'withdraw', reason: 'Wrong grid' },
    });
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({ versionNumber: 1, state: 'shared' });
  });
});

describe('gates', () => {
  it('let all of a choice pass, or none, and say for each why not', async () => {
    const good = await first();
    const held = await first();
    await prepared(project, architect.api, held.containerId);
    await project.founder.call(raiseIssue, {
      params: project.params,
      body: {
        title: 'Stop',
        type: 'defect',
        priority: 'blocking',
        place: { versionId: held.versionId, page: 1, x: 1, y: 1 },
      },
    });
    const ids = [good.containerId, held.containerId];
    const move = (action: 'share' | 'publish') =>
      architect.api.call(moveStates, { params: project.params, body: { containerIds: ids, action } });
    await move('share');
    await prepared(project, architect.api, good.containerId);
    const refused = await refusal(move('publish'));
    expect(refused).toMatchObject({ code: 'gate-closed' });
    expect(refused.detail).toContain('blocking issue');
    expect((await show(architect.api, good.containerId)).container.state).toBe('shared');
  });

  it('are set by the project: the right that it takes, the statuses that fit', async () => {
    const { gates, edition } = await project.founder.call(showGates, { params: project.params });
    const strict = { ...gates, share: { ...gates.share, right: 'manage' as const, statuses: ['S1', 'S2'] } };
    await project.founder.call(changeGates, { params: project.params, body: { gates: strict, edition } });
    expect(
      await refusal(project.founder.call(changeGates, { params: project.params, body: { gates: strict, edition } })),
    ).toMatchObject({ status: 409 });
    const one = await first();
    expect(await refusal(share(project, architect.api, one.containerId))).toMatchObject({ status: 403 });
    const refused = await refusal(share(project, project.founder, one.containerId));
    expect(refused.detail).toContain('does not fit; what fits: S1, S2');
    await project.founder.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, status: 'S2' }] },
    });
    await share(project, project.founder, one.containerId);
    await project.founder.call(changeGates, { params: project.params, body: { gates, edition: edition + 1 } });
  });
});

describe('the line of versions', () => {
  it('goes on with an older one, metadata and all, and nothing is overwritten', async () => {
    const code = nextCode();
    const one = await first(code, 'the first words');
    const edit = (changes: { title?: string; revision?: string; description?: string }) =>
      architect.api.call(editContainers, {
        params: project.params,
        body: { edits: [{ containerId: one.containerId, ...changes }] },
      });
    await edit({ title: 'As designed', revision: 'P01', description: 'With the bay window' });
    await deliverOnto(architect.api, code, 'the second words');
    const { before } = await edit({ title: 'As changed', revision: 'P02' });
    expect(before).toEqual([{ containerId: one.containerId, title: 'As designed', revision: 'P01' }]);

    const params = { ...project.params, containerId: one.containerId };
    const restored = await architect.api.call(restoreVersion, { params, body: { number: 1 } });
    expect(restored).toMatchObject({
      versionNumber: 3,
      title: 'As designed',
      revision: 'P01',
      description: 'With the bay window',
    });
    const { versions } = await show(architect.api, one.containerId);
    expect(versions.map(({ number, restores, title }) => [number, restores, title])).toEqual([
      [3, 1, 'As designed'],
      [2, null, 'As changed'],
      [1, null, 'As designed'],
    ]);
    expect(versions[0]!.sha256).toBe(versions[2]!.sha256);
    expect(await refusal(architect.api.call(restoreVersion, { params, body: { number: 3 } }))).toMatchObject({
      code: 'current-already',
    });
    expect(await refusal(engineer.api.call(restoreVersion, { params, body: { number: 1 } }))).toMatchObject({
      status: 404,
    });
  });

  it('keeps both when somebody delivers over a version that is not the latest any more', async () => {
    const code = nextCode();
    const one = await first(code);
    await deliverOnto(colleague.api, code, 'by the colleague', 1);
    const late = await deliverOnto(architect.api, code, 'by the architect, late', 1);
    expect(late).toMatchObject({ versionNumber: 3, conflicting: true });
    const { container, versions } = await show(architect.api, one.containerId);
    expect(container).toMatchObject({ versionNumber: 2, conflicting: 1 });
    expect(versions.map(({ sequence }) => sequence)).toEqual(['conflicting', 'in sequence', 'in sequence']);
    expect((await colleague.api.call(listNotices)).items[0]!.text).toContain('conflicts with the current one');
    expect((await architect.api.call(showDesk)).filter(({ type }) => type === 'decision')).toHaveLength(1);

    // Others go on seeing what was shared, and hear nothing of the quarrel.
    await share(project, architect.api, one.containerId);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({ versionNumber: 2, conflicting: 0 });
    const decide = (number: number, decision: 'take' | 'set aside') =>
      architect.api.call(decideVersion, {
        params: { ...project.params, containerId: one.containerId },
        body: { number, decision },
      });
    expect(await refusal(decide(2, 'take'))).toMatchObject({ code: 'not-conflicting' });
    expect(await decide(3, 'take')).toMatchObject({ versionNumber: 3, conflicting: 0 });

    const later = await deliverOnto(colleague.api, code, 'late again', 2);
    await deliverOnto(architect.api, code, 'meanwhile', 3);
    expect(later).toMatchObject({ versionNumber: 4, conflicting: true });
    expect(await decide(4, 'take')).toMatchObject({ versionNumber: 6, conflicting: 0 });
    const taken = await show(architect.api, one.containerId);
    expect(taken.versions[0]).toMatchObject({ number: 6, restores: 4 });
    expect(taken.versions).toHaveLength(6);
  });

  it('is reserved by one person: a version by another stands beside it', async () => {
    const code = nextCode();
    const one = await first(code);
    const ids = [one.containerId];
    const reserve = (person: ApiPerson, wanted: boolean) =>
      person.call(reserveContainers, { params: project.params, body: { containerIds: ids, reserve: wanted } });
    await reserve(architect.api, true);
    expect((await show(colleague.api, one.containerId)).container.reservedBy).toBe('Ada Architect');
    expect(await colleague.api.call(lookUpCodes, { params: project.params, body: { codes: [code] } })).toMatchObject([
      { reservedBy: 'Ada Architect' },
    ]);
    expect(await refusal(reserve(colleague.api, true))).toMatchObject({ code: 'reserved' });
    expect(await refusal(reserve(colleague.api, false))).toMatchObject({ code: 'reserved' });
    expect(await deliverOnto(colleague.api, code, 'over a reservation')).toMatchObject({ conflicting: true });
    // A conflicting version has its number already.
    expect(await colleague.api.call(lookUpCodes, { params: project.params, body: { codes: [code] } })).toMatchObject([
      { versionNumber: 1, nextNumber: 3 },
    ]);
    expect(
      await refusal(
        colleague.api.call(restoreVersion, {
          params: { ...project.params, containerId: one.containerId },
          body: { number: 1 },
        }),
      ),
    ).toMatchObject({ code: 'reserved' });
    await architect.api.call(decideVersion, {
      params: { ...project.params, containerId: one.containerId },
      body: { number: 2, decision: 'set aside' },
    });
    expect(await deliverOnto(architect.api, code, 'by whoever reserved it')).toMatchObject({ conflicting: false });
    expect((await show(colleague.api, one.containerId)).container.reservedBy).toBeNull();
    await reserve(architect.api, true);
    await reserve(project.founder, false);
    expect((await architect.api.call(listNotices)).items[0]!.text).toContain('released your reservation');
  });
});
