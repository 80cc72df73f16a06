/** Projects: their details, and templates that begin others. */
import { showNaming } from '@kindred/contract/naming/naming';
import { changeRoles, listPeople } from '@kindred/contract/people/people';
import { changeProject, createProject, showProject } from '@kindred/contract/portfolio/portfolio';
import { listTemplates, removeTemplate, saveTemplate, TEMPLATE_PARTS } from '@kindred/contract/portfolio/templates';
import {
  addFolder,
  changeFolderPermissions,
  listFolderPermissions,
  listFolders,
} from '@kindred/contract/register/folders';
import { listReviewRoutes } from '@kindred/contract/review/review';
import { checkName } from '@kindred/core/naming/convention';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  deliverFile,
  projectOf,
  refusal,
  testProject,
  testServer,
  type TestProject,
  type TestServer,
} from './harness.ts';

let server: TestServer;
let project: TestProject;
beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
});
afterAll(() => server.remove());

describe('details', () => {
  const change = async (details: object) => {
    const { project: now } = await project.founder.call(showProject, { params: project.params });
    return project.founder.call(changeProject, { params: project.params, body: { edition: now.edition, ...details } });
  };
  it('hold place, time, value and survey position, and can be emptied again', async () => {
    const details = {
      latitude: -43.95,
      longitude: -176.56,
      timeZone: 'Pacific/Chatham',
      value: 1_250_000.5,
      currency: 'NZD',
      units: 'feet and inches' as const,
      inchFraction: 32,
      easting: 348_600.125,
      northing: 5_912_400,
      height: -4.2,
      trueNorth: -23.5,
    };
    expect(await change(details)).toMatchObject(details);
    expect(await change({ latitude: null, longitude: null, value: null })).toMatchObject({
      latitude: null,
      value: null,
    });
  });
  it.each([
    ['dates that end before they start', { startsOn: '2027-02-01', finishesOn: '2027-01-31' }, 'dates'],
    ['half a place', { latitude: 10 }, 'coordinates'],
    ['an invented time zone', { timeZone: 'Mars/Olympus' }, 'time-zone'],
    ['an invented currency', { currency: 'QQQ' }, 'currency'],
    ['a latitude beyond the pole', { latitude: 91, longitude: 0 }, 'invalid-request'],
    ['an odd fraction of an inch', { inchFraction: 3 }, 'invalid-request'],
  ])('refuse %s', async (_title, details, code) => {
    expect(await refusal(change(details))).toMatchObject({ code });
  });
  it.each(['Pacific/Kiritimati', 'Pacific/Niue', 'Etc/GMT+12', 'America/Argentina/Ushuaia'])(
    'know the zone %s',
    async (timeZone) => {
      expect(await change({ timeZone })).toMatchObject({ timeZone });
    },
  );
});

describe('templates', () => {
  it('of our own begin two kinds of project that can be used at once', async () => {
    for (const { id } of (await project.founder.call(listTemplates)).filter(({ starter }) => starter)) {
      const made = await project.founder.call(createProject, {
        body: { name: 'From a starter', number: 'STA', kind: 'Other', templateId: id },
      });
      const { conventions } = await project.founder.call(showNaming, { params: { projectId: made.id } });
      const { fields } = conventions[0]!.definition;
      const name = fields
        .map((field) => (field.kind === 'list' ? field.values[0]!.code : field.kind === 'number' ? '0001' : 'ABC'))
        .join('-');
      expect(name).toMatch(/^STA-/);
      expect(checkName(conventions[0]!.definition, name).ok).toBe(true);
    }
  });

  it('carry what a project has, to a project that has it then', async () => {
    const tender = await project.founder.call(addFolder, {
      params: project.params,
      body: { name: 'Tender', parentId: project.folders.get('Project documents')! },
    });
    await project.founder.call(changeFolderPermissions, {
      params: { ...project.params, folderId: tender.id },
      body: {
        edition: tender.edition,
        permissions: [{ subject: 'role', subjectId: project.roles.get('Client')!, level: 'hidden' }],
      },
    });
    await project.founder.call(changeRoles, {
      params: project.params,
      body: { change: [], remove: [], add: [{ name: 'Site', grid: { issues: ['see', 'add'] } }] },
    });
    const template = await project.founder.call(saveTemplate, {
      params: project.params,
      body: { name: 'As ours', parts: [...TEMPLATE_PARTS] },
    });
    expect(template.carries).toContain('6 roles');
    const made = await project.founder.call(createProject, {
      body: { name: 'Next', number: 'NXT', kind: 'Other', templateId: template.id },
    });
    const params = { projectId: made.id };
    const people = await project.founder.call(listPeople, { params });
    expect(people.roles.map(({ name }) => name)).toContain('Site');
    const folder = (await project.founder.call(listFolders, { params })).find(
      ({ path }) => path === 'Project documents / Tender',
    )!;
    const { permissions } = await project.founder.call(listFolderPermissions, {
      params: { ...params, folderId: folder.id },
    });
    expect(permissions).toMatchObject([{ subject: 'role', name: 'Client', level: 'hidden', own: true }]);
    const { conventions } = await project.founder.call(showNaming, { params });
    expect(conventions[0]!.definition.fields[0]).toMatchObject({ values: [{ code: 'NXT' }] });
    const { routes, codes } = await project.founder.call(listReviewRoutes, { params });
    expect([routes.length, codes.length]).toEqual([2, 4]);
    expect(people.teams.find(({ name }) => name === 'Structure')!.homeFolderId).not.toBeNull();
  });

  it('that carry one part alone still make a project that takes deliveries', async () => {
    for (const part of TEMPLATE_PARTS) {
      const { id } = await project.founder.call(saveTemplate, {
        params: project.params,
        body: { name: `Only ${part}`, parts: [part] },
      });
      const made = await project.founder.call(createProject, {
        body: { name: part, number: 'ONE', kind: 'Other', templateId: id },
      });
      const folders = await project.founder.call(listFolders, { params: { projectId: made.id } });
      const there: TestProject = {
        ...project,
        projectId: made.id,
        params: { projectId: made.id },
        folders: new Map(folders.map(({ path, id }) => [path, id])),
      };
      const bytes = new TextEncoder().encode('%PDF-1.4 a sheet');
      expect(await deliverFile(there, project.founder, folders[0]!.path, 'anything.pdf', bytes)).toMatchObject({
        versionNumber: 1,
      });
    }
  });

  it('are their owner’s until offered to all, and nobody else removes them', async () => {
    const other = await projectOf(server, project.founder, project.creatorId, 'OTH');
    const guest = await other.join('Gus Guest', 'Author');
    const save = (name: string, forAll: boolean) =>
      project.founder.call(saveTemplate, { params: project.params, body: { name, parts: ['roles'], forAll } });
    const [mine, shared] = [await save('Mine', false), await save('For all', true)];
    const names = (await guest.api.call(listTemplates)).map(({ name }) => name);
    expect(names).toContain('For all');
    expect(names).not.toContain('Mine');
    const begin = guest.api.call(createProject, { body: { name: 'X', kind: 'Other', templateId: mine.id } });
    expect(await refusal(begin)).toMatchObject({ status: 404 });
    expect(await refusal(guest.api.call(removeTemplate, { params: { templateId: shared.id } }))).toMatchObject({
      status: 404,
    });
    await project.founder.call(removeTemplate, { params: { templateId: shared.id } });
    expect((await guest.api.call(listTemplates)).map(({ name }) => name)).not.toContain('For all');
  });
});
