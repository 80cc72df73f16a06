/** Each cell of the roles grid opens what it says and nothing else: walked from the grid, so that a cell without effect fails. */
import { operations } from '@kindred/contract/api';
import type { AnyOperation } from '@kindred/contract/platform/operation';
import { changeIssue, raiseIssue } from '@kindred/contract/issues/issues';
import { addMarkup, changeMarkup, publishMarkups } from '@kindred/contract/markup/markup';
import { changeRoles, listPeople } from '@kindred/contract/people/people';
import { listTransmittals, sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { KINDS, RIGHTS, type Action, type Grid, type Kind } from '@kindred/core/people/rights';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import {
  addressOfNothing,
  deliverFile,
  share,
  testProject,
  testServer,
  type Delivered,
  type TestProject,
  type TestServer,
} from './harness.ts';

let server: TestServer;
let project: TestProject;
let drawing: Delivered;
const people = new Map<string, ApiPerson>();
const CELLS = KINDS.flatMap((kind) => RIGHTS[kind].map((action) => [kind, action] as const));
const nameOf = (kind: Kind, action: Action): string => `Only ${kind} ${action}`;
const inProject = operations.map(({ operation }) => operation).filter(({ path }) => path.includes(':projectId'));
const asked = ({ access }: AnyOperation) => (typeof access === 'object' ? access : null);

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  const add = CELLS.map(([kind, action]) => ({ name: nameOf(kind, action), grid: { [kind]: [action] } as Grid }));
  const roles = await project.founder.call(changeRoles, {
    params: project.params,
    body: { change: [], add, remove: [] },
  });
  for (const { name, id } of roles) project.roles.set(name, id);
  for (const [kind, action] of CELLS)
    people.set(nameOf(kind, action), (await project.join(nameOf(kind, action), nameOf(kind, action))).api);
  const { founder } = project;
  drawing = await deliverFile(
    project,
    founder,
    'Architecture / Drawings',
    'ORP-TVA-ZZ-00-D-A-0101.pdf',
    Buffer.from('%PDF-1.4'),
  );
  await share(project, founder, drawing.containerId);
});
afterAll(() => server.remove());

async function status(operation: AnyOperation, api: ApiPerson): Promise<number> {
  const response = await fetch(addressOfNothing(server, operation, project.projectId), {
    method: operation.method.toUpperCase(),
    headers: { ...api.headersForFiles(), 'content-type': 'application/json' },
    ...(operation.method !== 'get' && { body: '{}' }),
  });
  await response.arrayBuffer();
  return response.status;
}

/** Cells that open more of an operation than the contract can say: who has the cell may, who has the others of its kind may not. */
const WITHIN: Record<string, (api: ApiPerson) => Promise<unknown>> = {
  'issues change': async (api) => {
    const issue = await project.founder.call(raiseIssue, {
      params: project.params,
      body: { title: 'Gap', type: 'question', priority: 'normal' } as never,
    });
    const where = { params: { ...project.params, issueId: issue.id } };
    return api.call(changeIssue, { ...where, body: { edition: issue.edition, title: 'Gap at 4' } as never });
  },
  'markup change': async (api) => {
    const params = { ...project.params, versionId: drawing.versionId };
    const shape = {
      kind: 'arrow',
      points: [
        [1, 1],
        [5, 5],
      ],
    };
    const markup = await project.founder.call(addMarkup, {
      params,
      body: { page: 1, shape, text: 'Here', status: 'ask' } as never,
    });
    await project.founder.call(publishMarkups, { params, body: { markupIds: [markup.id] } });
    const where = { params: { ...project.params, markupId: markup.id } };
    return api.call(changeMarkup, { ...where, body: { edition: markup.edition, text: 'There' } as never });
  },
  'transmittal manage': async (api) => {
    const { members } = await project.founder.call(listPeople, { params: project.params });
    const to = members.find(({ person }) => person.name === 'Founder One')!.person.id;
    const body = {
      title: 'T',
      reason: 'for information',
      versionIds: [drawing.versionId],
      personIds: [to],
      partyIds: [],
      recipientsSeeEachOther: false,
    } as const;
    await project.founder.call(sendTransmittal, { params: project.params, body: body as never });
    const seen = await api.call(listTransmittals, { params: project.params });
    if (!seen.items.length) throw new Error('It sees none.');
  },
};

describe.each(CELLS)('%s, %s', (kind, action) => {
  it('opens the operations that ask for it', async () => {
    const api = people.get(nameOf(kind, action))!;
    for (const operation of inProject.filter((one) => asked(one)?.kind === kind && asked(one)?.action === action))
      expect([401, 403], operation.id).not.toContain(await status(operation, api));
  });
  it('opens no other', async () => {
    const api = people.get(nameOf(kind, action))!;
    for (const operation of inProject) {
      const right = asked(operation);
      if (right && (right.kind !== kind || right.action !== action))
        expect(await status(operation, api), operation.id).toBe(403);
    }
  });
  it('has an effect', () => {
    const named = inProject.some((one) => asked(one)?.kind === kind && asked(one)?.action === action);
    expect(named || `${kind} ${action}` in WITHIN).toBe(true);
  });
});

it('no operation asks for a right that no cell gives', () => {
  const strange = inProject.filter((one) => asked(one) && !RIGHTS[asked(one)!.kind].includes(asked(one)!.action));
  expect(strange.map(({ id }) => id)).toEqual([]);
});

it.each(Object.keys(WITHIN))('%s opens what others of its kind do not', async (cell) => {
  const [kind, action] = cell.split(' ') as [Kind, Action];
  const others = RIGHTS[kind].filter((one) => one !== action);
  const withRoles = async (name: string, grid: Grid): Promise<ApiPerson> => {
    const roles = await project.founder.call(changeRoles, {
      params: project.params,
      body: { change: [], add: [{ name, grid }], remove: [] },
    });
    project.roles.set(name, roles.find((role) => role.name === name)!.id);
    return (await project.join(name, name)).api;
  };
  const register: Grid = { register: ['see'] };
  const without = await withRoles(`Without ${cell}`, { ...register, [kind]: others });
  const whole = await withRoles(`With ${cell}`, { ...register, [kind]: [...others, action] });
  await expect(WITHIN[cell]!(without)).rejects.toThrow(/Only (?:its author|whoever raised)|It sees none/);
  await WITHIN[cell]!(whole);
});
