/** People, roles and teams, and what goes wrong with them. */
import { acceptInvitation, listOutbox } from '@kindred/contract/identity/identity';
import { raiseIssue, showIssue } from '@kindred/contract/issues/issues';
import {
  addPeople,
  addTeam,
  changePerson,
  changeRoles,
  changeTeam,
  checkAccess,
  inviteAgain,
  listPeople,
  removePerson,
  suggestPeople,
} from '@kindred/contract/people/people';
import { listProjects, showProject } from '@kindred/contract/portfolio/portfolio';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { projectOf, refusal, testProject, testServer, type TestProject, type TestServer, linkIn } from './harness.ts';

let server: TestServer;
let project: TestProject;
const people = () => project.founder.call(listPeople, { params: project.params });
const memberNamed = async (name: string) => (await people()).members.find(({ person }) => person.name === name)!;

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
});
afterAll(() => server.remove());

describe('many people at once', () => {
  it('are added each for itself: what is wrong with one keeps nobody else out', async () => {
    const roleIds = [project.roles.get('Author')!];
    const { outcomes } = await project.founder.call(addPeople, {
      params: project.params,
      body: {
        people: [
          { name: 'One', email: 'one@many.example', roleIds, party: { name: 'Many Ltd', code: 'MNY' } },
          { name: 'Founder', email: 'founder@test.example', roleIds },
          { name: 'Two', email: 'TWO@many.example', roleIds, party: { name: 'Many Ltd', code: 'MNY' } },
          { name: 'Stray', email: 'stray@many.example', roleIds: [crypto.randomUUID()] },
          { name: 'One again', email: 'one@many.example', roleIds },
        ],
      },
    });
    expect(outcomes.map(({ added }) => added)).toEqual([true, false, true, false, false]);
    expect(outcomes[1]!.problem).toContain('already in this project');
    expect(outcomes[3]!.problem).toContain('not of this project');
    const { members, parties } = await people();
    expect(members.map(({ person }) => person.email)).toContain('two@many.example');
    expect(parties.filter(({ code }) => code === 'MNY')).toHaveLength(1);
    const { items: mails } = await project.founder.call(listOutbox);
    const invitations = mails.filter(({ to }) => to.endsWith('@many.example'));
    // That they went out is seen, not what they say and where they lead.
    expect(invitations.map(({ subject, text, link }) => [subject, text, link])).toEqual([
      [null, null, null],
      [null, null, null],
    ]);
  });
});

it('people of my other projects are offered, others are not', async () => {
  const other = await projectOf(server, project.founder, project.creatorId, 'TWO');
  const q = { params: other.params, query: { q: 'many.example' } };
  expect((await project.founder.call(suggestPeople, q)).map(({ name, party }) => [name, party?.code]).sort()).toEqual([
    ['One', 'MNY'],
    ['Two', 'MNY'],
  ]);
  const stranger = await other.join('Strange Coordinator', 'Coordinator');
  expect(await stranger.api.call(suggestPeople, q)).toEqual([]);
  expect(await stranger.api.call(suggestPeople, { params: other.params, query: { q: '%' } })).toEqual([]);
});

it('an invitation is sent again: the new link works, the earlier one has ended', async () => {
  const member = await memberNamed('One');
  const keyOf = async () => (await linkIn(server, 'one@many.example')).split('invitation=')[1]!;
  const first = await keyOf();
  const params = { ...project.params, memberId: member.id };
  await project.founder.call(inviteAgain, { params });
  const second = await keyOf();
  expect(second).not.toBe(first);
  const password = 'a long enough password';
  const fresh = new ApiPerson(server.address, '');
  expect(
    (await refusal(fresh.call(acceptInvitation, { body: { key: first, password } }))).status,
  ).toBeGreaterThanOrEqual(400);
  await fresh.call(acceptInvitation, { body: { key: second, password } });
  expect(await refusal(project.founder.call(inviteAgain, { params }))).toMatchObject({ code: 'not-invited' });
});

describe('leaving', () => {
  it('passes open work on, keeps history, closes the door, and can be undone by adding again', async () => {
    const leaver = await project.join('Lea Leaver', 'Author', 'Structure');
    const heir = await project.join('Hal Heir', 'Author', 'Structure');
    const issue = await project.founder.call(raiseIssue, {
      params: project.params,
      body: { title: 'Open', type: 'question', priority: 'normal', responsible: { kind: 'person', id: leaver.id } },
    });
    const member = await memberNamed('Lea Leaver');
    const successor = await memberNamed('Hal Heir');
    const team = (await people()).teams.find(({ name }) => name === 'Structure')!;
    await project.founder.call(changeTeam, {
      params: { ...project.params, teamId: team.id },
      body: { leadId: leaver.id },
    });
    const params = { ...project.params, memberId: member.id };
    expect(await project.founder.call(removePerson, { params, body: { successorId: successor.id } })).toEqual({
      issues: 1,
      markups: 0,
      reviews: 0,
    });
    const after = await project.founder.call(showIssue, { params: { ...project.params, issueId: issue.id } });
    expect(after.issue.responsible?.id).toBe(heir.id);
    expect((await memberNamed('Lea Leaver')).leftAt).not.toBeNull();
    expect((await people()).teams.find(({ id }) => id === team.id)!.leadId).toBeNull();
    expect(await refusal(leaver.api.call(showProject, { params: project.params }))).toMatchObject({ status: 404 });
    expect(await leaver.api.call(listProjects)).toEqual([]);
    expect(await refusal(project.founder.call(removePerson, { params, body: { successorId: null } }))).toMatchObject({
      code: 'has-left',
    });

    await project.founder.call(addPeople, {
      params: project.params,
      body: { people: [{ name: 'Lea Leaver', email: member.person.email, roleIds: [project.roles.get('Reviewer')!] }] },
    });
    const again = await memberNamed('Lea Leaver');
    expect(again).toMatchObject({ id: member.id, leftAt: null, roles: [{ name: 'Reviewer' }] });
    await leaver.api.call(showProject, { params: project.params });
  });

  it('is refused to the last administrator, alone and when two go at the same moment', async () => {
    const founder = await memberNamed('Founder One');
    const leave = (api: ApiPerson, memberId: string) =>
      api.call(removePerson, { params: { ...project.params, memberId }, body: { successorId: null } });
    expect(await refusal(leave(project.founder, founder.id))).toMatchObject({ code: 'last-administrator' });
    const second = await project.join('Second Administrator', 'Coordinator');
    const other = await memberNamed('Second Administrator');
    await project.founder.call(changePerson, {
      params: { ...project.params, memberId: other.id },
      body: { administrator: true },
    });
    const outcomes = await Promise.allSettled([leave(second.api, founder.id), leave(project.founder, other.id)]);
    expect(outcomes.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const administrators = (
      await (outcomes[0].status === 'fulfilled' ? second.api : project.founder).call(listPeople, {
        params: project.params,
      })
    ).members.filter(({ administrator, leftAt }) => administrator && !leftAt);
    expect(administrators).toHaveLength(1);
    // Whoever is left brings the founder back for the tests that follow.
    if (outcomes[0].status === 'fulfilled') {
      await second.api.call(addPeople, {
        params: project.params,
        body: {
          people: [
            {
              name: 'Founder One',
              email: 'founder@test.example',
              roleIds: [project.roles.get('Coordinator')!],
              administrator: true,
            },
          ],
        },
      });
    }
  });
});

describe('roles', () => {
  const rolesNow = async () => (await people()).roles;
  it('are changed, added and removed together; it holds at the next request', async () => {
    const author = await project.join('Roland Author', 'Author', 'Services');
    const roles = await rolesNow();
    const client = roles.find(({ name }) => name === 'Client')!;
    const own = roles.find(({ name }) => name === 'Author')!;
    const raise = {
      params: project.params,
      body: { title: 'May I?', type: 'question' as const, priority: 'low' as const },
    };
    await author.api.call(raiseIssue, raise);
    await project.founder.call(changeRoles, {
      params: project.params,
      body: {
        change: [{ id: own.id, edition: own.edition, name: 'Author', grid: { ...own.grid, issues: ['see'] } }],
        add: [{ name: 'Site', grid: { issues: ['add', 'see'] } }],
        remove: [{ id: client.id, edition: client.edition }],
      },
    });
    expect((await rolesNow()).map(({ name }) => name)).toEqual([
      'Author',
      'Coordinator',
      'Document controller',
      'Reviewer',
      'Site',
    ]);
    expect(await refusal(author.api.call(raiseIssue, raise))).toMatchObject({ status: 403 });
  });

  it('that two administrators edit at once: the second is told, and nothing of theirs is written', async () => {
    const roles = await rolesNow();
    const [first, second] = [roles[0]!, roles[1]!];
    const edit = (name: string) =>
      project.founder.call(changeRoles, {
        params: project.params,
        body: {
          change: [first, second].map(({ id, edition, grid }) => ({
            id,
            edition,
            grid,
            name: `${name} ${id.slice(0, 4)}`,
          })),
          add: [],
          remove: [],
        },
      });
    const outcomes = await Promise.allSettled([edit('Left'), edit('Right')]);
    expect(outcomes.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const names = (await rolesNow()).map(({ name }) => name).filter((name) => /^(?:Left|Right) /.test(name));
    expect(new Set(names.map((name) => name.split(' ')[0]))).toHaveLength(1);
    expect(names).toHaveLength(2);
  });

  it.each([
    [
      'held by someone cannot go',
      async () => {
        const held = (await rolesNow()).find(({ name }) => name === 'Reviewer')!;
        return { change: [], add: [], remove: [{ id: held.id, edition: held.edition }] };
      },
      'role-held',
    ],
    [
      'cannot have one name twice',
      () => Promise.resolve({ change: [], add: [{ name: 'Reviewer', grid: {} }], remove: [] }),
      'role-exists',
    ],
  ])('%s', async (_title, changes, code) => {
    const before = await rolesNow();
    expect(
      await refusal(project.founder.call(changeRoles, { params: project.params, body: await changes() })),
    ).toMatchObject({ code });
    expect(await rolesNow()).toEqual(before);
  });
});

it('teams get colour, lead and home; a stranger leads none', async () => {
  const team = await project.founder.call(addTeam, {
    params: project.params,
    body: { name: 'Rail', discipline: 'Track' },
  });
  const params = { ...project.params, teamId: team.id };
  const homeFolderId = project.folders.get('Project documents')!;
  expect(
    await project.founder.call(changeTeam, {
      params,
      body: { colour: '#14706A', leadId: project.creatorId, homeFolderId },
    }),
  ).toMatchObject({ colour: '#14706A', leadId: project.creatorId, homeFolderId });
  expect(
    await refusal(project.founder.call(changeTeam, { params, body: { leadId: crypto.randomUUID() } })),
  ).toMatchObject({ code: 'unknown-person' });
  expect(await refusal(project.founder.call(changeTeam, { params, body: { name: 'Structure' } }))).toMatchObject({
    code: 'team-exists',
  });
});

it('work areas are kept per person and told to them', async () => {
  const site = await project.join('Sita Site', 'Reviewer');
  const member = await memberNamed('Sita Site');
  await project.founder.call(changePerson, {
    params: { ...project.params, memberId: member.id },
    body: { workAreas: ['Examine', 'Resolve'] },
  });
  expect((await site.api.call(showProject, { params: project.params })).me.workAreas).toEqual(['Examine', 'Resolve']);
});

it('“why can she not” is answered with the rule that decides', async () => {
  const petra = await memberNamed('Roland Author');
  const ask = (query: object) =>
    project.founder.call(checkAccess, { params: { ...project.params, memberId: petra.id }, query: query as never });
  const folderId = project.folders.get('Structure / Models')!;
  const answer = await ask({ kind: 'register', action: 'add', folderId });
  expect(answer.allowed).toBe(false);
  expect(answer.reasons.at(-1)!.text).toContain('is the home of Structure; Roland Author is in Services');
  expect(
    (await ask({ kind: 'register', action: 'add', folderId: project.folders.get('Services / Models')! })).allowed,
  ).toBe(true);
});

it('500 people at once, with 100 twice, within one request', async () => {
  const roleIds = [project.roles.get('Reviewer')!];
  const list = Array.from({ length: 500 }, (_, i) => ({
    name: `P ${i}`,
    email: `p${i % 400}@crowd.example`,
    roleIds,
  }));
  const { outcomes } = await project.founder.call(addPeople, { params: project.params, body: { people: list } });
  expect(outcomes.filter(({ added }) => added)).toHaveLength(400);
  expect(outcomes.slice(400).every(({ problem }) => problem.includes('already'))).toBe(true);
});
