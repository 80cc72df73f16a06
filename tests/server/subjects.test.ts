/** Things of all kinds inherit who may see them from what they lie on: by every path that lists things of all kinds. */
import { listMarkups, addMarkup, publishMarkups } from '@kindred/contract/markup/markup';
import { listIssues, raiseIssue } from '@kindred/contract/issues/issues';
import { listAuditTrail, showDesk } from '@kindred/contract/insight/insight';
import { startReview, listReviewRoutes } from '@kindred/contract/review/review';
import { sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { jump, listHistory, listRelated } from '@kindred/contract/things/things';
import { showProject } from '@kindred/contract/portfolio/portfolio';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let architect: { api: ApiPerson; id: string };
let engineer: { api: ApiPerson; id: string };
/** Type → id of a thing of that type that lies on one version. */
const things = new Map<string, string>();
let containerId = '';
let versionId = '';

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  architect = await project.join('Ann Architect', 'Author', 'Architecture');
  engineer = await project.join('Ed Engineer', 'Author', 'Structure');
  const { params } = project;
  const bytes = new TextEncoder().encode('%PDF-1.4 the secret plan');
  const drawing = await deliverFile(
    project,
    architect.api,
    'Architecture / Drawings',
    'ORP-TVA-ZZ-00-D-A-0101.pdf',
    bytes,
  );
  ({ containerId, versionId } = drawing);
  things.set('container', containerId).set('version', versionId);
  const place = { versionId, page: 1, x: 10, y: 10 };
  const issue = await architect.api.call(raiseIssue, {
    params,
    body: {
      title: 'Secret question',
      type: 'question',
      priority: 'normal',
      responsible: { kind: 'person', id: architect.id },
      place,
    },
  });
  things.set('issue', issue.id);
  const markup = await architect.api.call(addMarkup, {
    params: { ...params, versionId },
    body: {
      page: 1,
      shape: {
        kind: 'rectangle',
        points: [
          [0, 0],
          [5, 5],
        ],
      },
      text: 'Secret cloud',
      status: 'act',
    },
  });
  await architect.api.call(publishMarkups, { params: { ...params, versionId }, body: { markupIds: [markup.id] } });
  things.set('markup', markup.id);
});
afterAll(() => server.remove());

const related = (api: ApiPerson, type: string, id: string) =>
  api.call(listRelated, { params: project.params, query: { type, id } });
const history = (api: ApiPerson, type: string, id: string) =>
  api.call(listHistory, { params: project.params, query: { type, id } });
const found = async (api: ApiPerson, q: string) =>
  (await api.call(jump, { params: project.params, query: { q } })).map(({ type }) => type);

describe('what lies on work in progress', () => {
  it('is seen by its team, by every path', async () => {
    for (const [type, id] of things) {
      expect((await related(architect.api, type, id)).title, type).not.toBe('');
      expect((await history(architect.api, type, id)).items, type).toBeInstanceOf(Array);
    }
    const { items } = await related(architect.api, 'container', containerId);
    expect(items.map(({ type }) => type).sort()).toEqual(['issue', 'markup', 'version']);
    expect(items.find(({ type }) => type === 'version')!.title).toBe('Version 1');
    expect(await found(architect.api, 'Secret')).toEqual(['issue']);
    expect((await architect.api.call(showProject, { params: project.params })).waiting).toMatchObject({ issue: 1 });
  });

  it('does not exist for others, by any path', async () => {
    for (const [type, id] of things) {
      expect(await refusal(related(engineer.api, type, id)), type).toMatchObject({ status: 404 });
      expect(await refusal(history(engineer.api, type, id)), type).toMatchObject({ status: 404 });
    }
    expect(await found(engineer.api, 'Secret')).toEqual([]);
    expect(await found(engineer.api, 'ORP-TVA-ZZ-00-D-A-0101')).toEqual([]);
    expect((await engineer.api.call(listIssues, { params: project.params, query: {} })).items).toEqual([]);
    expect(await refusal(engineer.api.call(listMarkups, { params: { ...project.params, versionId } }))).toMatchObject({
      status: 404,
    });
    expect(await engineer.api.call(showDesk)).toEqual([]);
  });
});

describe('what is shared', () => {
  it('is related in both directions, whatever lies on it', async () => {
    await share(project, architect.api, containerId);
    const { params } = project;
    const { routes } = await project.founder.call(listReviewRoutes, { params });
    const review = await project.founder.call(startReview, {
      params,
      body: {
        title: 'Look at it',
        routeId: routes[0]!.id,
        versionIds: [versionId],
        reviewers: routes[0]!.steps.map(() => [architect.id]),
      },
    });
    const transmittal = await project.founder.call(sendTransmittal, {
      params,
      body: {
        title: 'Take it',
        reason: 'for information',
        versionIds: [versionId],
        personIds: [engineer.id],
        partyIds: [],
        recipientsSeeEachOther: true,
      },
    });
    things.set('review', review.id).set('transmittal', transmittal.id);
    const { items } = await related(project.founder, 'container', containerId);
    expect(items.map(({ type }) => type).sort()).toEqual(['issue', 'markup', 'review', 'transmittal', 'version']);
    for (const [type, id] of things) {
      if (type === 'container' || type === 'version') continue;
      const around = (await related(project.founder, type, id)).items;
      expect(
        around.map((one) => one.type),
        type,
      ).toContain('version');
      expect(around.find((one) => one.type === 'version')!.link).toContain(`/containers/${containerId}?version=1`);
      expect(
        around.some((one) => one.type === type && one.id === id),
        type,
      ).toBe(false);
    }
  });

  it('waits for whoever has to do something, and comes on their desk with its address', async () => {
    const desk = await architect.api.call(showDesk);
    const waiting = desk.filter(({ pile }) => pile === 'waiting for me');
    expect(waiting.map(({ type }) => type).sort()).toEqual(['issue', 'review']);
    for (const { link } of waiting)
      expect(link).toMatch(new RegExp(`^/projects/${project.projectId}/(issues|reviews)/`));
    const { waiting: counts } = await architect.api.call(showProject, { params: project.params });
    expect(counts).toEqual({ issue: 1, review: 1 });
  });

  it('is named in the audit trail, and found there by its name', async () => {
    const trail = (q: string) =>
      project.founder.call(listAuditTrail, { params: project.params, query: { q, limit: 50 } });
    const named = (await trail('Secret question')).items;
    expect(named.map(({ subjectType, subject }) => [subjectType, subject])).toContainEqual([
      'issue',
      '1 Secret question',
    ]);
    expect((await trail('no such thing anywhere')).items).toEqual([]);
  });

  it('a kind of thing that nobody knows is not there', async () => {
    expect(await refusal(related(project.founder, 'unicorn', containerId))).toMatchObject({ status: 404 });
  });
});
