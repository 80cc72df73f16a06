/** Nobody raises rights above their own, and nobody their own; what is hidden is hidden for whoever manages, too. */
import { acceptInvitation, signIn } from '@kindred/contract/identity/identity';
import {
  addPerson,
  changePerson,
  changeRoles,
  changeTeam,
  inviteAgain,
  listPeople,
  removePerson,
} from '@kindred/contract/people/people';
import {
  addFolder,
  changeFolder,
  changeFolderPermissions,
  listFolderPermissions,
  listFolders,
  removeFolder,
} from '@kindred/contract/register/folders';
import { addShareSet } from '@kindred/contract/register/share-sets';
import { showProject } from '@kindred/contract/portfolio/portfolio';
import type { Grid } from '@kindred/core/people/rights';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { linkIn, projectOf, refusal, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let other: TestProject;
let coordinator: { api: ApiPerson; id: string };
let controller: { api: ApiPerson; id: string };
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  other = await projectOf(server, project.founder, project.creatorId, 'OTH');
  coordinator = await project.join('Cora Coordinator', 'Coordinator', 'Architecture');
  controller = await project.join('Dora Controller', 'Document controller', 'Structure');
  await project.join('Ann Author', 'Author', 'Architecture');
  await project.join('Sam Structure', 'Author', 'Structure');
});
afterAll(() => server.remove());

interface Changes {
  roleIds?: string[];
  teamId?: string | null;
  administrator?: boolean;
  workAreas?: null;
}
const memberId = async (name: string): Promise<string> =>
  (await project.founder.call(listPeople, { params: project.params })).members.find(
    ({ person }) => person.name === name,
  )!.id;
const change = async (api: ApiPerson, name: string, body: Changes) =>
  api.call(changePerson, { params: { ...project.params, memberId: await memberId(name) }, body });
const add = (api: ApiPerson, name: string, role: string, team: string | null = null) =>
  api.call(addPerson, {
    params: project.params,
    body: {
      name,
      email: `${name.toLowerCase()}@giving.example`,
      roleIds: [project.roles.get(role)!],
      teamId: team && project.teams.get(team)!,
    },
  });

describe('people', () => {
  it('change neither their own roles nor their own team; which stages they work in they do', async () => {
    const own = { roleIds: [project.roles.get('Author')!] };
    expect((await refusal(change(coordinator.api, 'Cora Coordinator', own))).status).toBe(403);
    expect((await refusal(change(coordinator.api, 'Cora Coordinator', { teamId: null }))).status).toBe(403);
    await change(coordinator.api, 'Cora Coordinator', { workAreas: null });
  });
  it('give no role above their own', async () => {
    await add(coordinator.api, 'Below', 'Author', 'Architecture');
    expect((await refusal(add(controller.api, 'Above', 'Coordinator'))).status).toBe(403);
    const up = { roleIds: [project.roles.get('Coordinator')!] };
    expect((await refusal(change(controller.api, 'Sam Structure', up))).status).toBe(403);
  });
  it('change nobody above them, no administrator, nobody of another team', async () => {
    const author = { roleIds: [project.roles.get('Author')!] };
    expect((await refusal(change(coordinator.api, 'Founder One', author))).status).toBe(403);
    expect((await refusal(change(coordinator.api, 'Sam Structure', author))).status).toBe(403);
    expect((await refusal(add(coordinator.api, 'Elsewhere', 'Author', 'Structure'))).status).toBe(403);
    const leaving = {
      params: { ...project.params, memberId: await memberId('Sam Structure') },
      body: { successorId: null },
    };
    expect((await refusal(coordinator.api.call(removePerson, leaving))).status).toBe(403);
    await change(coordinator.api, 'Ann Author', { roleIds: [project.roles.get('Reviewer')!] });
  });
  it('who manages people changes no role of their own, and makes none above', async () => {
    const grid: Grid = { project: ['see'], people: ['see', 'add', 'change', 'manage'], register: ['see'] };
    const roles = await project.founder.call(changeRoles, {
      params: project.params,
      body: { change: [], add: [{ name: 'People manager', grid }], remove: [] },
    });
    project.roles.set('People manager', roles.find(({ name }) => name === 'People manager')!.id);
    const manager = await project.join('Pia Manager', 'People manager');
    const { roles: now } = await manager.api.call(listPeople, { params: project.params });
    const own = now.find(({ name }) => name === 'People manager')!;
    const save = (body: {
      change: { id: string; edition: number; name: string; grid: Grid }[];
      add: { name: string; grid: Grid }[];
    }) => manager.api.call(changeRoles, { params: project.params, body: { ...body, remove: [] } });
    const raised = {
      id: own.id,
      edition: own.edition,
      name: own.name,
      grid: { ...grid, register: ['see', 'manage'] as never },
    };
    expect((await refusal(save({ change: [raised], add: [] }))).status).toBe(403);
    expect((await refusal(save({ change: [], add: [{ name: 'Lord', grid: { issues: ['change'] } }] }))).status).toBe(
      403,
    );
    const author = now.find(({ name }) => name === 'Author')!;
    expect((await refusal(save({ change: [{ ...author, name: 'Writer' }], add: [] }))).status).toBe(403);
    await save({ change: [], add: [{ name: 'Onlooker', grid: { project: ['see'] } }] });
  });
});

describe('a folder that is hidden', () => {
  it('is hidden for whoever manages the register: neither read, nor changed, nor given back', async () => {
    const { params } = project;
    const { id: folderId } = await project.founder.call(addFolder, {
      params,
      body: { parentId: null, name: 'Claims' },
    });
    const where = { ...params, folderId };
    const { edition } = await project.founder.call(listFolderPermissions, { params: where });
    await project.founder.call(changeFolderPermissions, {
      params: where,
      body: {
        edition,
        permissions: [{ subject: 'role', subjectId: project.roles.get('Coordinator')!, level: 'hidden' }],
      },
    });
    const { api } = coordinator;
    expect((await api.call(listFolders, { params })).map(({ id }) => id)).not.toContain(folderId);
    const tries = [
      api.call(listFolderPermissions, { params: where }),
      api.call(changeFolderPermissions, { params: where, body: { edition: edition + 1, permissions: [] } }),
      api.call(changeFolder, { params: where, body: { edition: edition + 1, name: 'Mine' } }),
      api.call(addFolder, { params, body: { parentId: folderId, name: 'Below' } }),
      api.call(removeFolder, { params: where }),
    ];
    for (const { status } of await Promise.all(tries.map(refusal))) expect(status).toBe(404);
  });
  it('that one only sees is not managed', async () => {
    const { params } = project;
    const { id: folderId } = await project.founder.call(addFolder, { params, body: { parentId: null, name: 'Seen' } });
    const where = { ...params, folderId };
    await project.founder.call(changeFolderPermissions, {
      params: where,
      body: {
        edition: 1,
        permissions: [{ subject: 'role', subjectId: project.roles.get('Coordinator')!, level: 'see' }],
      },
    });
    const raised = coordinator.api.call(changeFolderPermissions, {
      params: where,
      body: { edition: 2, permissions: [] },
    });
    expect((await refusal(raised)).status).toBe(403);
  });
});

it('ids of another project are not there', async () => {
  const { params } = project;
  const [theirTeam] = [...other.teams.values()];
  const [theirFolder] = [...other.folders.values()];
  const [ownFolder] = await project.founder.call(listFolders, { params });
  const { founder } = project;
  const tries = [
    founder.call(addShareSet, { params, body: { name: 'S', teamId: theirTeam!, sheetNumbers: [], viewpointIds: [] } }),
    founder.call(addFolder, { params, body: { parentId: null, name: 'F', teamId: theirTeam! } }),
    founder.call(addFolder, { params, body: { parentId: theirFolder!, name: 'F' } }),
    founder.call(changeFolder, {
      params: { ...params, folderId: ownFolder!.id },
      body: { edition: ownFolder!.edition, teamId: theirTeam! },
    }),
    founder.call(changeTeam, {
      params: { ...params, teamId: [...project.teams.values()][0]! },
      body: { homeFolderId: theirFolder! },
    }),
    change(founder, 'Ann Author', { teamId: theirTeam! }),
  ];
  for (const { status } of await Promise.all(tries.map(refusal))) expect(status).toBe(404);
});

it('an invitation from one project does not end another’s, and an address tells nobody whose it is', async () => {
  const invite = (at: TestProject, name: string) =>
    at.founder.call(addPerson, {
      params: at.params,
      body: { name, email: 'both@giving.example', roleIds: [at.roles.get('Author')!] },
    });
  await invite(project, 'Bo Both');
  const first = (await linkIn(server, 'both@giving.example')).split('invitation=')[1]!;
  await invite(other, 'Bo Both');
  const person = new ApiPerson(server.address, '');
  await person.call(acceptInvitation, { body: { key: first, password: 'a long enough password' } });
  const again = new ApiPerson(server.address, '');
  await again.call(signIn, { body: { email: 'both@giving.example', password: 'a long enough password' } });
});

it('an address tells nobody whose it is: who has an account is shown by the name that they were added with until they come', async () => {
  const olga = await other.join('Olga Other', 'Author');
  const third = await projectOf(server, coordinator.api, coordinator.id, 'TRD');
  const body = { name: 'Whoever This Is', email: 'olga.other.oth@test.example', roleIds: [third.roles.get('Author')!] };
  const member = await third.founder.call(addPerson, { params: third.params, body });
  expect([member.person.name, member.person.initials, member.invited]).toEqual(['Whoever This Is', 'WI', true]);
  const where = { params: { ...third.params, memberId: member.id } };
  await third.founder.call(inviteAgain, where);
  await olga.api.call(showProject, { params: third.params });
  const { members } = await third.founder.call(listPeople, { params: third.params });
  expect(members.map(({ person }) => person.name)).toContain('Olga Other');
});
