import { listNotices, listOutbox } from '@kindred/contract/identity/identity';
import { commentIssue } from '@kindred/contract/issues/comments';
import { changeIssue, listIssues, raiseIssue, showIssue } from '@kindred/contract/issues/issues';
import { addMarkup, changeMarkup, listMarkups, publishMarkups } from '@kindred/contract/markup/markup';
import { changePerson, listPeople } from '@kindred/contract/people/people';
import { changeProject, showProject } from '@kindred/contract/portfolio/portfolio';
import { listHistory } from '@kindred/contract/things/things';
import {
  commentReview,
  finishReview,
  listReviewRoutes,
  showReview,
  startReview,
} from '@kindred/contract/review/review';
import {
  acknowledgeTransmittal,
  listTransmittals,
  sendTransmittal,
  showTransmittal,
} from '@kindred/contract/transmittal/transmittal';
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import {
  deliverFile,
  refusal,
  share,
  testProject,
  testServer,
  type Delivered,
  type TestProject,
  type TestServer,
} from './harness.ts';
import { unzip } from './unzip.ts';

let server: TestServer;
let project: TestProject;
let author: { api: ApiPerson; id: string };
let reviewer: { api: ApiPerson; id: string };
let drawing: Delivered;
const pdf = new TextEncoder().encode('%PDF-1.4 a sheet');

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  author = await project.join('Ann Author', 'Author', 'Architecture');
  reviewer = await project.join('Rex Reviewer', 'Reviewer');
  drawing = await deliverFile(project, author.api, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-D-A-0101.pdf', pdf);
  await share(project, author.api, drawing.containerId);
});
afterAll(() => server.remove());

describe('issues', () => {
  it('reach the person who answers, by bell and mail, and keep their history', async () => {
    const issue = await author.api.call(raiseIssue, {
      params: project.params,
      body: {
        title: 'A duct in the beam',
        type: 'clash',
        priority: 'high',
        responsible: { kind: 'person', id: reviewer.id },
        place: { versionId: drawing.versionId, page: 1, x: 10, y: 20 },
      },
    });
    const { unread, items } = await reviewer.api.call(listNotices);
    expect(unread).toBe(1);
    expect(items[0]!.link).toBe(`/projects/${project.projectId}/issues/${issue.id}`);
    expect((await reviewer.api.call(listOutbox)).items[0]).toMatchObject({
      subject: expect.stringContaining('A duct in the beam'),
      link: items[0]!.link,
    });
    expect((await reviewer.api.call(showProject, { params: project.params })).waiting.issue).toBe(1);

    const params = { ...project.params, issueId: issue.id };
    await reviewer.api.call(commentIssue, { params, body: { text: 'I see it.' } });
    await reviewer.api.call(changeIssue, { params, body: { edition: 1, action: 'take in hand', reason: 'checking' } });
    expect(await refusal(author.api.call(changeIssue, { params, body: { edition: 1, title: 'Mine' } }))).toMatchObject({
      status: 409,
      code: 'conflict',
    });
    expect(
      await refusal(author.api.call(changeIssue, { params, body: { edition: 2, action: 'reopen' } })),
    ).toMatchObject({ code: 'no-such-step' });
    const shown = await author.api.call(showIssue, { params });
    expect(shown).toMatchObject({
      issue: { status: 'in hand', title: 'A duct in the beam', comments: 1 },
      comments: [{ text: 'I see it.' }],
    });
    const { items: history } = await author.api.call(listHistory, {
      params: project.params,
      query: { type: 'issue', id: issue.id },
    });
    expect(history.map(({ verb }) => verb)).toEqual(['take in hand', 'commented', 'raised']);
    expect(history[0]).toMatchObject({ before: { status: 'open' }, after: { status: 'in hand', reason: 'checking' } });
  });

  it('have numbers without gaps or twins when raised at the same moment', async () => {
    const raise = () =>
      author.api.call(raiseIssue, {
        params: project.params,
        body: { title: 'Many', type: 'question', priority: 'low' },
      });
    const numbers = (await Promise.all(Array.from({ length: 12 }, raise)))
      .map(({ number }) => number)
      .sort((a, b) => a - b);
    expect(numbers).toEqual(Array.from({ length: 12 }, (_, i) => numbers[0]! + i));
    const { items, next } = await author.api.call(listIssues, { params: project.params, query: { limit: 5 } });
    expect(items).toHaveLength(5);
    expect(
      (await author.api.call(listIssues, { params: project.params, query: { limit: 5, after: next! } })).items[0]!
        .number,
    ).toBe(items[4]!.number - 1);
  });

  it('are asked only of people in the project', async () => {
    const body = {
      title: 'x',
      type: 'question' as const,
      priority: 'low' as const,
      responsible: { kind: 'person' as const, id: crypto.randomUUID() },
    };
    expect(await refusal(author.api.call(raiseIssue, { params: project.params, body }))).toMatchObject({
      code: 'not-a-member',
    });
  });
});

describe('markups', () => {
  it('are private until published, and of two who change one at once the second is told', async () => {
    const params = { ...project.params, versionId: drawing.versionId };
    const mark = await author.api.call(addMarkup, {
      params,
      body: {
        page: 1,
        shape: {
          kind: 'cloud',
          points: [
            [0, 0],
            [50, 50],
          ],
        },
        text: 'Look',
        status: 'ask',
      },
    });
    expect(await reviewer.api.call(listMarkups, { params })).toEqual([]);
    expect(await refusal(reviewer.api.call(publishMarkups, { params, body: { markupIds: [mark.id] } }))).toMatchObject({
      code: 'not-a-draft',
    });
    await author.api.call(publishMarkups, { params, body: { markupIds: [mark.id] } });
    expect(await reviewer.api.call(listMarkups, { params })).toHaveLength(1);
    const one = { ...project.params, markupId: mark.id };
    const both = await Promise.allSettled([
      author.api.call(changeMarkup, { params: one, body: { edition: 1, status: 'act' } }),
      reviewer.api.call(changeMarkup, { params: one, body: { edition: 1, status: 'settled' } }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(
      await refusal(reviewer.api.call(changeMarkup, { params: one, body: { edition: 2, text: 'Not mine' } })),
    ).toMatchObject({ status: 403 });
  });
});

describe('reviews', () => {
  const start = async (steps: string[][]) => {
    const { routes } = await author.api.call(listReviewRoutes, { params: project.params });
    const routeId = routes.find((route) => route.steps.length === steps.length)!.id;
    return author.api.call(startReview, {
      params: project.params,
      body: { title: 'Plan', routeId, versionIds: [drawing.versionId], reviewers: steps },
    });
  };

  it('hold a code to its rules, and the answer goes back to the originator', async () => {
    const review = await start([[reviewer.id]]);
    const params = { ...project.params, reviewId: review.id };
    expect(review).toMatchObject({ status: 'under review', currentStep: 0 });
    expect(await refusal(author.api.call(finishReview, { params, body: { code: 'GO' } }))).toMatchObject({
      status: 403,
    });
    expect(await refusal(reviewer.api.call(finishReview, { params, body: { code: 'AGAIN' } }))).toMatchObject({
      code: 'return-code-rule',
      detail: expect.stringContaining('at least one comment'),
    });
    await reviewer.api.call(commentReview, { params, body: { versionId: drawing.versionId, text: 'Grid 4 is off.' } });
    expect(await refusal(reviewer.api.call(finishReview, { params, body: { code: 'GO' } }))).toMatchObject({
      code: 'return-code-rule',
    });
    expect(await reviewer.api.call(finishReview, { params, body: { code: 'AGAIN' } })).toMatchObject({
      status: 'finished',
      code: 'AGAIN',
    });
    expect(
      await refusal(reviewer.api.call(commentReview, { params, body: { versionId: drawing.versionId, text: 'late' } })),
    ).toMatchObject({ code: 'finished' });
    const [mail] = (await author.api.call(listOutbox)).items;
    expect(mail).toMatchObject({
      subject: expect.stringContaining('Answer AGAIN'),
      text: expect.stringContaining('Grid 4 is off.'),
    });
  });

  it('pass from step to step, each with its own days', async () => {
    const review = await start([[reviewer.id], [project.creatorId]]);
    const params = { ...project.params, reviewId: review.id };
    expect(review.reviewers.map(({ dueOn }) => dueOn !== null)).toEqual([true, false]);
    expect(await reviewer.api.call(finishReview, { params, body: { code: 'SEEN' } })).toMatchObject({
      status: 'under review',
      currentStep: 1,
    });
    expect(await project.founder.call(finishReview, { params, body: { code: 'GO' } })).toMatchObject({
      status: 'finished',
      code: 'GO',
    });
    expect((await author.api.call(showReview, { params })).review.reviewers.map(({ code }) => code)).toEqual([
      'SEEN',
      'GO',
    ]);
  });

  it('do not take what their reviewers could not see', async () => {
    const hidden = await deliverFile(project, author.api, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-D-A-0909.pdf', pdf);
    const { routes } = await author.api.call(listReviewRoutes, { params: project.params });
    const body = {
      title: 'x',
      routeId: routes.find(({ steps }) => steps.length === 1)!.id,
      versionIds: [hidden.versionId],
      reviewers: [[reviewer.id]],
    };
    expect(await refusal(author.api.call(startReview, { params: project.params, body }))).toMatchObject({
      code: 'not-shared',
    });
  });
});

describe('transmittals', () => {
  it('freeze versions, arrive, and prove who opened and downloaded what', async () => {
    const body = {
      title: 'For you',
      reason: 'for information' as const,
      versionIds: [drawing.versionId],
      personIds: [reviewer.id],
      partyIds: [],
      recipientsSeeEachOther: false,
    };
    const sent = await author.api.call(sendTransmittal, { params: project.params, body });
    const params = { ...project.params, transmittalId: sent.id };
    expect(sent.receipts[0]).toMatchObject({ openedAt: null, downloadedAt: null });
    await deliverFile(
      project,
      author.api,
      'Architecture / Drawings',
      'ORP-TVA-ZZ-00-D-A-0101.pdf',
      new TextEncoder().encode('%PDF newer'),
    );

    expect((await reviewer.api.call(listTransmittals, { params: project.params })).items[0]!.receipts).toHaveLength(1);
    // Not before it is shared: a newer version that is work in progress is nobody else's business.
    expect((await reviewer.api.call(listTransmittals, { params: project.params })).items[0]!.files[0]!.superseded).toBe(
      false,
    );
    await share(project, author.api, sent.files[0]!.containerId);
    const opened = await reviewer.api.call(showTransmittal, { params });
    expect(opened.files[0]).toMatchObject({ versionNumber: 1, superseded: true });
    const response = await fetch(`${server.address}/api/projects/${project.projectId}/transmittals/${sent.id}/zip`, {
      headers: reviewer.api.headersForFiles(),
    });
    const files = await unzip(Buffer.from(await response.arrayBuffer()));
    const hash = createHash('sha256').update(pdf).digest('hex');
    expect(files.get('ORP-TVA-ZZ-00-D-A-0101.pdf')).toEqual(Buffer.from(pdf));
    expect(files.get('SHA256SUMS')!.toString()).toBe(`${hash}  ORP-TVA-ZZ-00-D-A-0101.pdf\n`);
    expect(files.get('index.csv')!.toString()).toContain(hash);
    await reviewer.api.call(acknowledgeTransmittal, { params });
    const { receipts } = await author.api.call(showTransmittal, { params });
    expect(receipts[0]).toMatchObject({
      openedAt: expect.any(String),
      downloadedAt: expect.any(String),
      acknowledgedAt: expect.any(String),
    });
  });

  it('are not there for whoever neither sent nor received them', async () => {
    const stranger = await project.join('Stan Stranger', 'Client');
    expect((await stranger.api.call(listTransmittals, { params: project.params })).items).toEqual([]);
  });
});

describe('two people at the same moment', () => {
  it('one saves the project, the other is told and loses nothing', async () => {
    const save = (name: string) =>
      project.founder.call(changeProject, { params: project.params, body: { edition: 1, name } });
    const both = await Promise.allSettled([save('A'), save('B')]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('the last administrator cannot leave the project without one', async () => {
    const { members } = await project.founder.call(listPeople, { params: project.params });
    const mine = members.find(({ administrator }) => administrator)!;
    expect(
      await refusal(
        project.founder.call(changePerson, {
          params: { ...project.params, memberId: mine.id },
          body: { administrator: false },
        }),
      ),
    ).toMatchObject({ code: 'last-administrator' });
  });

  it('a project cannot end before it starts', async () => {
    expect(
      await refusal(
        project.founder.call(changeProject, {
          params: project.params,
          body: { edition: 2, startsOn: '2026-05-01', finishesOn: '2026-04-01' },
        }),
      ),
    ).toMatchObject({ code: 'dates' });
  });
});
