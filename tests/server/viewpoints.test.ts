/** Viewpoints in folders, in the order of a meeting. */
import { listElementFilters, removeElementFilter, shareElementFilter } from '@kindred/contract/scene/element-filters';
import { raiseIssue } from '@kindred/contract/issues/issues';
import {
  addViewpoint,
  arrangeViewpoints,
  listViewpointFolders,
  listViewpoints,
  removeViewpoint,
  renameViewpoint,
} from '@kindred/contract/scene/scene';
import { beforeAll, expect, it } from 'vitest';
import { refusal } from './harness.ts';
import { architect, colleague, engineer, first, project, threePeople } from './three-people.ts';

threePeople();

const PICTURE = `data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==`;
const STATE = {
  camera: { position: [1, 1, 1], target: [0, 0, 0], fieldOfView: 50 },
  ...{ sections: [], hidden: [], isolated: null, selection: [] },
} as never;
const ids = new Map<string, string>();
beforeAll(async () => {
  const { versionId } = await first();
  for (const name of ['a', 'b', 'c', 'd', 'e']) {
    const body = { name, state: STATE, versionIds: [versionId], picture: PICTURE };
    const saved = await architect.api.call(addViewpoint, { params: project.params, body });
    ids.set(name, saved.id);
  }
});

const inFolder = async (folder: string): Promise<string> =>
  (await architect.api.call(listViewpoints, { params: project.params, query: { folder } })).items
    .map(({ name }) => name)
    .join('');
const arrange = (names: string, folder: string, before?: string) =>
  architect.api.call(arrangeViewpoints, {
    params: project.params,
    body: {
      folder,
      viewpointIds: [...names].map((name) => ids.get(name)!),
      ...(before && { before: ids.get(before)! }),
    },
  });

it('lie in no folder at first, and then in the order in which they are put there', async () => {
  expect(await architect.api.call(listViewpointFolders, { params: project.params })).toEqual([]);
  await arrange('dba', 'Monday');
  expect(await inFolder('Monday')).toBe('dba');
  await arrange('c', 'Monday', 'b');
  await arrange('a', 'Monday', 'd');
  expect(await inFolder('Monday')).toBe('adcb');
  expect(await architect.api.call(listViewpointFolders, { params: project.params })).toEqual([
    { name: 'Monday', viewpoints: 4 },
  ]);
});

it('are read on page by page in their order', async () => {
  const { items, next } = await architect.api.call(listViewpoints, {
    params: project.params,
    query: { folder: 'Monday', limit: 3 },
  });
  const rest = await architect.api.call(listViewpoints, {
    params: project.params,
    query: { folder: 'Monday', limit: 3, after: next! },
  });
  expect([...items, ...rest.items].map(({ name }) => name).join('')).toBe('adcb');
});

it('keep one order whoever arranges at the same moment', async () => {
  await Promise.all([
    arrange('a', 'Monday'),
    arrange('d', 'Monday'),
    arrange('e', 'Monday', 'c'),
    arrange('b', 'Monday'),
  ]);
  expect([...(await inFolder('Monday'))].sort().join('')).toBe('abcde');
  await arrange('abcde', 'Monday');
  expect(await inFolder('Monday')).toBe('abcde');
});

it('are not put before one that lies elsewhere, and not by whoever does not see them', async () => {
  await arrange('e', '');
  expect(await refusal(arrange('a', 'Monday', 'e'))).toMatchObject({ code: 'not-in-folder' });
  const body = { folder: 'Theirs', viewpointIds: [ids.get('a')!] };
  expect(await refusal(engineer.api.call(arrangeViewpoints, { params: project.params, body }))).toMatchObject({
    status: 404,
  });
  expect(await inFolder('Monday')).toBe('abcd');
  expect(await engineer.api.call(listViewpointFolders, { params: project.params })).toEqual([]);
});

it('are renamed by their team, and removed by their author alone, unless an issue leads there', async () => {
  const params = { ...project.params, viewpointId: ids.get('b')! };
  await colleague.api.call(renameViewpoint, { params, body: { name: 'B' } });
  expect(await inFolder('Monday')).toBe('aBcd');
  expect(await refusal(colleague.api.call(removeViewpoint, { params }))).toMatchObject({ status: 403 });
  await architect.api.call(removeViewpoint, { params });
  expect(await inFolder('Monday')).toBe('acd');
  await architect.api.call(raiseIssue, {
    params: project.params,
    body: { title: 'Look here', type: 'question', priority: 'normal', viewpointId: ids.get('c')! },
  });
  const kept = { ...project.params, viewpointId: ids.get('c')! };
  expect(await refusal(architect.api.call(removeViewpoint, { params: kept }))).toMatchObject({
    code: 'viewpoint-in-use',
  });
  expect(await inFolder('Monday')).toBe('acd');
});

it('filters are shared by name, replaced by their author, and removed by them or an administrator', async () => {
  const condition = { set: 'Pset_DoorCommon', name: 'FireRating', test: 'is' as const, value: 'EI 30' };
  const share = (person: typeof architect, value: string) =>
    person.api.call(shareElementFilter, {
      params: project.params,
      body: { name: 'Fire doors', filter: { match: 'all', conditions: [{ ...condition, value }] } },
    });
  await share(architect, 'EI 30');
  await share(architect, 'EI 60');
  await share(colleague, 'EI 90');
  const seen = await engineer.api.call(listElementFilters, { params: project.params });
  expect(seen.map(({ owner, mine, filter }) => [owner, mine, filter.conditions[0]!.value]).sort()).toEqual([
    ['Ada Architect', false, 'EI 60'],
    ['Cleo Colleague', false, 'EI 90'],
  ]);
  const params = { ...project.params, filterId: seen.find(({ owner }) => owner.startsWith('Ada'))!.id };
  expect(await refusal(engineer.api.call(removeElementFilter, { params }))).toMatchObject({ status: 403 });
  await architect.api.call(removeElementFilter, { params });
  const other = { ...project.params, filterId: seen.find(({ owner }) => owner.startsWith('Cleo'))!.id };
  await project.founder.call(removeElementFilter, { params: other });
  expect(await engineer.api.call(listElementFilters, { params: project.params })).toEqual([]);
});
