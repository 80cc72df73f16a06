/** The folder tree, its permissions, and the names that hold in it. */
import {
  addConvention,
  addNamingValue,
  changeConvention,
  changeSchemes,
  listConventionEditions,
  previewConvention,
  removeConvention,
  showNaming,
} from '@kindred/contract/naming/naming';
import { checkAccess, listPeople } from '@kindred/contract/people/people';
import { showProject } from '@kindred/contract/portfolio/portfolio';
import { jump } from '@kindred/contract/things/things';
import {
  addFolder,
  changeFolder,
  changeFolderPermissions,
  listFolderPermissions,
  listFolders,
  removeFolder,
  type FolderPermission,
} from '@kindred/contract/register/folders';
import { listContainers, repairNames, showContainer } from '@kindred/contract/register/register';
import type { Convention } from '@kindred/core/naming/convention';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let author: { api: ApiPerson; id: string };
let client: { api: ApiPerson; id: string };
const pdf = new TextEncoder().encode('%PDF-1.4 a sheet');
const folders = (api = project.founder) => api.call(listFolders, { params: project.params });
const add = (name: string, parentId: string | null) =>
  project.founder.call(addFolder, { params: project.params, body: { name, parentId } });
const folderNamed = async (path: string) => (await folders()).find((folder) => folder.path === path)!;
async function change(path: string, wanted: object) {
  const { id, edition } = await folderNamed(path);
  return project.founder.call(changeFolder, {
    params: { ...project.params, folderId: id },
    body: { edition, ...wanted },
  });
}
async function permit(path: string, permissions: FolderPermission[]) {
  const { id, edition } = await folderNamed(path);
  return project.founder.call(changeFolderPermissions, {
    params: { ...project.params, folderId: id },
    body: { edition, permissions },
  });
}

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  author = await project.join('Ann Author', 'Author', 'Architecture');
  client = await project.join('Cleo Client', 'Client');
});
afterAll(() => server.remove());

describe('the tree', () => {
  it('grows, is renamed and moved; paths and numbers follow', async () => {
    const tender = await add('Tender', project.folders.get('Project documents')!);
    await add('Prices', tender.id);
    await change('Project documents / Tender', { name: 'Tendering' });
    await change('Project documents / Tendering', { parentId: null });
    const paths = (await folders()).map(({ path }) => path);
    expect(paths).toContain('Tendering / Prices');
    expect(paths).not.toContain('Project documents / Tender');
  });

  it('refuses cycles, twins and what still holds something', async () => {
    const above = await folderNamed('Tendering');
    const below = await folderNamed('Tendering / Prices');
    expect(await refusal(change('Tendering', { parentId: below.id }))).toMatchObject({ code: 'folder-in-itself' });
    expect(await refusal(change('Tendering', { parentId: above.id }))).toMatchObject({ code: 'folder-in-itself' });
    expect(await refusal(add('PRICES', above.id))).toMatchObject({ code: 'folder-exists' });
    await add('Bids', above.id);
    expect(await refusal(change('Tendering / Bids', { name: 'prices' }))).toMatchObject({ code: 'folder-exists' });
    const remove = (folderId: string) =>
      project.founder.call(removeFolder, { params: { ...project.params, folderId } });
    expect(await refusal(remove(above.id))).toMatchObject({ code: 'folder-not-empty' });
    await remove((await folderNamed('Tendering / Bids')).id);
    expect((await folders()).map(({ path }) => path)).not.toContain('Tendering / Bids');
  });

  it('says when someone else was faster', async () => {
    const { id, edition } = await folderNamed('Tendering / Prices');
    const rename = (name: string) =>
      project.founder.call(changeFolder, { params: { ...project.params, folderId: id }, body: { edition, name } });
    const outcomes = await Promise.allSettled([rename('Prices A'), rename('Prices B')]);
    expect(outcomes.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await change((await folders()).find((folder) => folder.id === id)!.path, { name: 'Prices' });
  });

  it('stays whole when many folders are added and moved at the same moment', async () => {
    const { id } = await folderNamed('Tendering');
    await Promise.all(Array.from({ length: 12 }, (_, i) => add(`Lot ${i}`, i % 2 ? id : null)));
    const all = await folders();
    expect(all.filter(({ name }) => name.startsWith('Lot '))).toHaveLength(12);
    for (const folder of all.filter(({ parentId }) => parentId)) {
      const parent = all.find((one) => one.id === folder.parentId)!;
      expect(folder.path).toBe(`${parent.path} / ${folder.name}`);
    }
  });
});

describe('permissions', () => {
  it('hide a folder and everything in it, by every path', async () => {
    const drawing = await deliverFile(
      project,
      author.api,
      'Architecture / Drawings',
      'ORP-TVA-ZZ-00-D-A-0101.pdf',
      pdf,
    );
    await share(project, author.api, drawing.containerId);
    const sees = async (api: ApiPerson) => ({
      listed: (await api.call(listContainers, { params: project.params })).items.length,
      found: (await api.call(jump, { params: project.params, query: { q: '0101' } })).filter(
        ({ type }) => type === 'container',
      ).length,
      folder: (await folders(api)).some(({ path }) => path === 'Architecture / Drawings'),
    });
    expect(await sees(client.api)).toEqual({ listed: 1, found: 1, folder: true });
    await permit('Architecture', [{ subject: 'role', subjectId: project.roles.get('Client')!, level: 'hidden' }]);
    expect(await sees(client.api)).toEqual({ listed: 0, found: 0, folder: false });
    const show = client.api.call(showContainer, { params: { ...project.params, containerId: drawing.containerId } });
    expect(await refusal(show)).toMatchObject({ status: 404 });
    expect(await sees(author.api)).toEqual({ listed: 1, found: 1, folder: true });
  });

  it('of a nearer folder take the place of those above, and are shown as inherited or own', async () => {
    const subjectId = project.roles.get('Client')!;
    await permit('Architecture / Models', [{ subject: 'role', subjectId, level: 'see' }]);
    const list = async (path: string) =>
      (
        await project.founder.call(listFolderPermissions, {
          params: { ...project.params, folderId: (await folderNamed(path)).id },
        })
      ).permissions;
    expect(await list('Architecture / Drawings')).toMatchObject([
      { level: 'hidden', own: false, folderPath: 'Architecture' },
    ]);
    expect(await list('Architecture / Models')).toMatchObject([{ level: 'see', own: true }]);
    const seen = await folders(client.api);
    expect(seen.find(({ path }) => path === 'Architecture / Models')?.level).toBe('see');
    // The hidden folder above has to be there, or the one below would hang in the air.
    expect(seen.find(({ path }) => path === 'Architecture')?.level).toBe('hidden');
  });

  it('narrow what a role gives: who may deliver elsewhere only sees here', async () => {
    const { members } = await project.founder.call(listPeople, { params: project.params });
    const ann = members.find(({ person }) => person.id === author.id)!;
    await permit('Architecture / Models', [{ subject: 'person', subjectId: ann.id, level: 'see' }]);
    const deliver = () => deliverFile(project, author.api, 'Architecture / Models', 'ORP-TVA-ZZ-ZZ-M-A-0001.ifc', pdf);
    expect(await refusal(deliver())).toMatchObject({ status: 403, code: 'not-allowed' });
    const answer = await project.founder.call(checkAccess, {
      params: { ...project.params, memberId: ann.id },
      query: { kind: 'register', action: 'add', folderId: (await folderNamed('Architecture / Models')).id },
    });
    expect(answer).toMatchObject({ allowed: false });
    expect(answer.reasons.at(-1)!.text).toContain('sets “see” for Ann Author; this needs “deliver”');
    await permit('Architecture / Models', []);
    await deliver();
  });

  it('are for people, teams, companies and roles of this project alone', async () => {
    expect(
      await refusal(permit('Architecture', [{ subject: 'role', subjectId: crypto.randomUUID(), level: 'see' }])),
    ).toMatchObject({ code: 'unknown-subject' });
    const twice = { subject: 'role' as const, subjectId: project.roles.get('Client')!, level: 'see' as const };
    expect(await refusal(permit('Architecture', [twice, twice]))).toMatchObject({ code: 'permission-twice' });
  });
});

describe('conventions', () => {
  const naming = () => project.founder.call(showNaming, { params: project.params });
  const site: Convention = {
    name: 'Site records',
    separator: '_',
    fields: [
      { name: 'Record', kind: 'list', values: [{ code: 'PHO', meaning: 'Photograph' }] },
      { name: 'Number', kind: 'number', minLength: 2, maxLength: 3 },
    ],
  };

  it('hold in the folder that names them and below, others elsewhere', async () => {
    const { id } = await project.founder.call(addConvention, { params: project.params, body: { definition: site } });
    await change('Tendering', { conventionId: id });
    project.folders.set('Prices', (await folderNamed('Tendering / Prices')).id);
    expect(await deliverFile(project, project.founder, 'Prices', 'PHO_01.pdf', pdf)).toMatchObject({ atIntake: false });
    expect(await deliverFile(project, project.founder, 'Prices', 'ORP-TVA-ZZ-00-D-A-0909.pdf', pdf)).toMatchObject({
      atIntake: true,
    });
    expect(await deliverFile(project, project.founder, 'Project documents', 'PHO_02.pdf', pdf)).toMatchObject({
      atIntake: true,
    });
  });

  it('tell before a change which names it would stop, each in its own folders', async () => {
    const { conventions } = await naming();
    const own = conventions.find(({ definition }) => definition.name === 'Site records')!;
    const params = { ...project.params, conventionId: own.id };
    const stricter: Convention = { ...site, fields: [site.fields[0]!, { name: 'Number', kind: 'number', length: 3 }] };
    const effect = await project.founder.call(previewConvention, { params, body: { definition: stricter } });
    expect(effect).toMatchObject({ names: 2, stop: 1, start: 0, stopping: [{ code: 'PHO_01' }] });
    expect((await naming()).conventions).toEqual(conventions);
  });

  it('become a new edition when changed, and the old ones stay readable', async () => {
    const own = (await naming()).conventions.find(({ definition }) => definition.name === 'Site records')!;
    const params = { ...project.params, conventionId: own.id };
    await project.founder.call(addNamingValue, { params, body: { field: 'Record', code: 'SUR', meaning: 'Survey' } });
    await project.founder.call(changeConvention, {
      params,
      body: { edition: own.edition + 1, definition: { ...site, name: 'Records' }, reason: 'Shorter' },
    });
    const editions = await project.founder.call(listConventionEditions, { params });
    expect(editions.map(({ edition, reason }) => [edition, reason])).toEqual([
      [3, 'Shorter'],
      [2, 'SUR added to Record'],
      [1, ''],
    ]);
    expect(editions[1]!.definition.fields[0]).toMatchObject({ values: [{ code: 'PHO' }, { code: 'SUR' }] });
    const late = project.founder.call(changeConvention, { params, body: { edition: own.edition, definition: site } });
    expect(await refusal(late)).toMatchObject({ status: 409 });
  });

  it('are refused when unsound, twice of one name, or gone while in use', async () => {
    const unsound = {
      ...site,
      name: 'X',
      fields: [{ name: 'A', kind: 'list' as const, values: [{ code: 'A_B', meaning: '' }] }],
    };
    expect(
      await refusal(project.founder.call(addConvention, { params: project.params, body: { definition: unsound } })),
    ).toMatchObject({
      code: 'convention-unsound',
      detail: expect.stringContaining('holds the separator'),
    });
    expect(
      await refusal(
        project.founder.call(addConvention, {
          params: project.params,
          body: { definition: { ...site, name: 'records' } },
        }),
      ),
    ).toMatchObject({ code: 'convention-exists' });
    const { conventions } = await naming();
    const remove = (conventionId: string) =>
      project.founder.call(removeConvention, { params: { ...project.params, conventionId } });
    expect(await refusal(remove(conventions[0]!.id))).toMatchObject({ code: 'convention-default' });
    expect(await refusal(remove(conventions[1]!.id))).toMatchObject({ code: 'convention-used' });
    await change('Tendering', { conventionId: null });
    await remove(conventions[1]!.id);
  });

  it('let a file at the intake go as it is once they allow its value', async () => {
    const code = 'ORP-TVA-ZZ-00-D-X-0500';
    const { containerId } = await deliverFile(project, project.founder, 'Project documents', `${code}.pdf`, pdf);
    const repair = () =>
      project.founder.call(repairNames, { params: project.params, body: { repairs: [{ containerId, code }] } });
    expect((await repair())[0]!.problem).toContain('does not conform');
    const own = (await naming()).conventions.find(({ isDefault }) => isDefault)!;
    await project.founder.call(addNamingValue, {
      params: { ...project.params, conventionId: own.id },
      body: { field: 'Discipline', code: 'X', meaning: 'Acoustics' },
    });
    expect((await repair())[0]).toMatchObject({ code, problem: null });
  });

  it('judge the repair of a name by the folder where the file lies', async () => {
    const { items } = await project.founder.call(listContainers, { params: project.params, query: { intake: true } });
    const lost = items.find(({ code }) => code === 'PHO_02')!;
    const repair = (code: string) =>
      project.founder.call(repairNames, {
        params: project.params,
        body: { repairs: [{ containerId: lost.id, code }] },
      });
    expect((await repair('PHO_03'))[0]!.problem).toContain('does not conform');
    expect((await repair('ORP-TVA-ZZ-00-I-A-0001'))[0]!.problem).toBeNull();
  });
});

it('schemes are data: codes and revision series change, with an edition', async () => {
  const { schemesEdition } = await project.founder.call(showNaming, { params: project.params });
  const body = {
    edition: schemesEdition,
    statuses: [{ code: 'S0', meaning: 'Draft' }],
    revisions: {
      name: 'Letters',
      series: [{ prefix: '', kind: 'letters' as const, digits: 1, minor: false, meaning: '' }],
    },
  };
  const after = await project.founder.call(changeSchemes, { params: project.params, body });
  expect(after).toMatchObject({
    statuses: body.statuses,
    revisions: body.revisions,
    schemesEdition: schemesEdition + 1,
  });
  expect(await refusal(project.founder.call(changeSchemes, { params: project.params, body }))).toMatchObject({
    status: 409,
  });
  const twice = {
    edition: schemesEdition + 1,
    statuses: [
      { code: 'A', meaning: '' },
      { code: 'A', meaning: '' },
    ],
  };
  expect(await refusal(project.founder.call(changeSchemes, { params: project.params, body: twice }))).toMatchObject({
    code: 'code-twice',
  });
});

it('nothing of a project is told to who is not in it', async () => {
  const view = await client.api.call(showProject, { params: project.params });
  expect(view.me.grid.naming).toBeUndefined();
});
