import * as comments from '@kindred/contract/issues/comments';
import { showIssueFigures } from '@kindred/contract/issues/figures';
import {
  changeIssue,
  changeIssues,
  groupIssues,
  listIssues,
  raiseIssue,
  showIssue,
  watchIssue,
} from '@kindred/contract/issues/issues';
import { startIssueReport } from '@kindred/contract/issues/report';
import { changeIssueSettings, showIssueSettings } from '@kindred/contract/issues/settings';
import { answerIssue, relateIssue, tieIssue, unrelateIssue, untieIssue } from '@kindred/contract/issues/ties';
import { listNotices, listOutbox, replyToMail, writeToProject } from '@kindred/contract/identity/identity';
import { changeProject } from '@kindred/contract/portfolio/portfolio';
import { addSavedView, listSavedViews, ringSavedView } from '@kindred/contract/register/views';
import { listHistory } from '@kindred/contract/things/things';
import type { Body } from '@kindred/contract/platform/operation';
import { ruleOf, STARTER_ISSUE_SETTINGS, type IssueSettings } from '@kindred/core/issues/settings';
import ExcelJS from '@protobi/exceljs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal, share } from './harness.ts';
import { made } from './markup-table.ts';
import {
  architect,
  colleague,
  DRAWINGS,
  engineer,
  nextCode,
  project,
  server,
  text,
  threePeople,
} from './three-people.ts';

vi.setConfig({ testTimeout: 400_000 });
threePeople();

type ToRaise = Partial<Body<typeof raiseIssue>>;
const raise = (person: ApiPerson, wanted: ToRaise = {}) =>
  person.call(raiseIssue, {
    params: project.params,
    body: { title: 'A duct in the beam', type: 'question', priority: 'normal', ...wanted },
  });
const at = (issue: { id: string }) => ({ ...project.params, issueId: issue.id });
const show = (person: ApiPerson, issue: { id: string }) => person.call(showIssue, { params: at(issue) });
const person = ({ id }: { id: string }) => ({ kind: 'person', id }) as const;
const settingsNow = () => project.founder.call(showIssueSettings, { params: project.params });
async function decide(change: (settings: IssueSettings) => void, renamed = {}) {
  const { settings, edition } = await settingsNow();
  change(settings);
  return project.founder.call(changeIssueSettings, { params: project.params, body: { settings, edition, renamed } });
}
const numbersOf = async (who: ApiPerson, query: object): Promise<string[]> =>
  (await who.call(listIssues, { params: project.params, query: { limit: 200, ...query } })).items.map(
    ({ title }) => title,
  );
const newsOf = async (who: ApiPerson): Promise<string[]> =>
  (await who.call(listNotices)).items.map(({ text: words }) => words);

describe('what a project decides about its issues', () => {
  it('starts with words that it may change; issues follow those that are renamed', async () => {
    expect((await settingsNow()).settings).toEqual(STARTER_ISSUE_SETTINGS);
    const issue = await raise(architect.api, { type: 'defect', priority: 'high' });
    const after = await decide(
      ({ types, priorities, labels }) => {
        types.find(({ name }) => name === 'defect')!.name = 'site defect';
        priorities.splice(2, 1, { name: 'urgent', blocks: true });
        labels.push('roof', 'fire');
      },
      { types: { defect: 'site defect' }, priorities: { high: 'urgent' } },
    );
    expect(after.used.types).toMatchObject({ 'site defect': 1 });
    expect((await show(architect.api, issue)).issue).toMatchObject({ type: 'site defect', priority: 'urgent' });
    expect(await refusal(raise(architect.api, { type: 'defect' }))).toMatchObject({ code: 'unknown-word' });
    expect(await refusal(raise(architect.api, { labels: ['cellar'] }))).toMatchObject({
      detail: expect.stringContaining('It has: roof, fire'),
    });
    expect((await raise(architect.api, { labels: ['roof'] })).labels).toEqual(['roof']);
  });

  it('is the administrator’s, one edition after the other, and never a trap', async () => {
    const { settings, edition } = await settingsNow();
    const body = { settings, edition };
    expect(await refusal(architect.api.call(changeIssueSettings, { params: project.params, body }))).toMatchObject({
      status: 403,
    });
    const stale = { settings, edition: edition - 1 };
    expect(
      await refusal(project.founder.call(changeIssueSettings, { params: project.params, body: stale })),
    ).toMatchObject({ status: 409 });
    expect(await refusal(decide(({ types }) => (types[0]!.steps.close.by = [])))).toMatchObject({
      code: 'nobody-may',
    });
  });

  it('fields that a type requires, and the days that an answer has', async () => {
    await project.founder.call(changeProject, {
      params: project.params,
      body: { edition: 1, holidays: ['2026-12-01'] },
    });
    await decide(({ types }) => {
      const request = types.find(({ name }) => name === 'request')!;
      request.requires = ['responsible', 'labels'];
      request.answerDays = 3;
    });
    expect(await refusal(raise(architect.api, { type: 'request' }))).toMatchObject({
      code: 'fields-required',
      detail: 'An issue of the type “request” needs who answers and a label. Nothing was saved.',
    });
    const issue = await raise(architect.api, { type: 'request', labels: ['fire'], responsible: person(engineer) });
    expect(issue.dueOn).toMatch(/^\d{4}-\d\d-\d\d$/);
    expect([0, 6]).not.toContain(new Date(issue.dueOn!).getUTCDay());
    expect(
      (await raise(architect.api, { type: 'request', labels: ['fire'], responsible: person(engineer), dueOn: null }))
        .dueOn,
    ).toBeNull();
  });

  it('“closed only by whoever raised it or a verifier”, with a reason and a proof', async () => {
    await decide(({ types }) => {
      const { close } = types.find(({ name }) => name === 'clash')!.steps;
      Object.assign(close, { by: ['raiser', 'verifier'], reason: true, proof: true });
    });
    const issue = await raise(architect.api, {
      type: 'clash',
      responsible: person(engineer),
      verifierId: colleague.id,
    });
    const close = (who: ApiPerson, reason = '') =>
      who.call(changeIssue, { params: at(issue), body: { edition: 1, action: 'close', reason } });
    // The founder may change all issues, and yet not close this one.
    expect(await refusal(close(project.founder))).toMatchObject({
      status: 403,
      detail: expect.stringContaining('whoever raised it or whoever verifies it'),
    });
    expect(await refusal(close(colleague.api))).toMatchObject({ code: 'reason-required' });
    expect(await refusal(close(colleague.api, 'Seen on site'))).toMatchObject({ code: 'proof-required' });
    expect(await show(colleague.api, issue)).toMatchObject({
      may: ['close'],
      wants: { reason: ['close'], proof: ['close'] },
    });
    const fixed = await deliverFile(project, architect.api, DRAWINGS, `${nextCode()}.pdf`, text('fixed'));
    await share(project, architect.api, fixed.containerId);
    await architect.api.call(comments.commentIssue, {
      params: at(issue),
      body: { text: 'Here', versionIds: [fixed.versionId] },
    });
    expect(await close(colleague.api, 'Seen on site')).toMatchObject({
      status: 'closed',
      closedAt: expect.any(String),
    });
  });
});

describe('who has to answer', () => {
  it('can be a team or a role: all of them hear of it, and it waits for each', async () => {
    const teamId = project.teams.get('Architecture')!;
    const issue = await raise(engineer.api, { title: 'For the architects', responsible: { kind: 'team', id: teamId } });
    expect(issue.responsible).toMatchObject({ kind: 'team', name: 'Architecture', person: null });
    for (const one of [architect, colleague])
      expect((await newsOf(one.api))[0]).toContain('Eve Engineer asks you: issue');
    expect(await numbersOf(colleague.api, { part: 'answer' })).toContain('For the architects');
    expect(await numbersOf(architect.api, { responsible: 'me', q: 'For the' })).toEqual(['For the architects']);
    expect(await numbersOf(engineer.api, { team: teamId, q: 'For the' })).toEqual(['For the architects']);
    const answer = { params: at(issue), body: { edition: 1, action: 'answer' } } as const;
    expect(await colleague.api.call(changeIssue, answer)).toMatchObject({
      status: 'answered',
      answeredAt: expect.any(String),
    });
    // Whoever raised it verifies it, where nobody else is named.
    expect(await numbersOf(engineer.api, { part: 'verify' })).toContain('For the architects');
    expect((await show(colleague.api, issue)).may).not.toContain('close');
    const { items } = await engineer.api.call(listHistory, {
      params: project.params,
      query: { type: 'issue', id: issue.id },
    });
    expect(items[0]).toMatchObject({ verb: 'answer', before: { status: 'open' }, after: { status: 'answered' } });
  });

  it('has to see what it is about', async () => {
    const hidden = await deliverFile(project, architect.api, DRAWINGS, `${nextCode()}.pdf`, text('private'));
    const place = { versionId: hidden.versionId, page: null, x: 0, y: 0 };
    expect(await refusal(raise(architect.api, { place, responsible: person(engineer) }))).toMatchObject({
      code: 'not-seen',
      detail: expect.stringContaining('Eve Engineer does not see'),
    });
    const own = await raise(architect.api, { title: 'Among us', place, responsible: person(colleague) });
    expect(await numbersOf(engineer.api, { q: 'Among us' })).toEqual([]);
    expect(await refusal(show(engineer.api, own))).toMatchObject({ status: 404 });
    expect(await numbersOf(colleague.api, { containerId: hidden.containerId })).toEqual(['Among us']);
    await architect.api.call(watchIssue, { params: at(own), body: { add: [engineer.id] } });
    await architect.api.call(comments.commentIssue, {
      params: at(own),
      body: { text: 'Quiet', mentions: [engineer.id] },
    });
    expect((await newsOf(engineer.api)).filter((words) => words.includes('Among us'))).toEqual([]);
  });
});

describe('what is said', () => {
  it('names people, is changed and withdrawn before everybody’s eyes', async () => {
    const issue = await raise(architect.api, { title: 'Talk', responsible: person(engineer) });
    const said = await engineer.api.call(comments.commentIssue, {
      params: at(issue),
      body: { text: '@Cleo Colleague, is it so?', mentions: [colleague.id] },
    });
    expect((await newsOf(colleague.api))[0]).toBe(`Eve Engineer names you at issue ${issue.number}, Talk`);
    expect((await newsOf(architect.api))[0]).toBe(`Eve Engineer commented on issue ${issue.number}, Talk`);
    const one = { ...at(issue), commentId: said.id };
    expect(
      await refusal(architect.api.call(comments.changeIssueComment, { params: one, body: { text: 'No' } })),
    ).toMatchObject({ status: 403 });
    await engineer.api.call(comments.changeIssueComment, { params: one, body: { text: 'It is so.' } });
    expect(await colleague.api.call(comments.listCommentEditions, { params: one })).toMatchObject([
      { text: '@Cleo Colleague, is it so?' },
    ]);
    expect((await show(colleague.api, issue)).comments).toMatchObject([
      { text: 'It is so.', editedAt: expect.any(String) },
    ]);
    await engineer.api.call(comments.withdrawIssueComment, { params: one });
    expect((await show(colleague.api, issue)).comments).toMatchObject([
      { text: '', withdrawnAt: expect.any(String), author: { name: 'Eve Engineer' } },
    ]);
    expect(await colleague.api.call(comments.listCommentEditions, { params: one })).toEqual([]);
    const history = await colleague.api.call(listHistory, {
      params: project.params,
      query: { type: 'issue', id: issue.id },
    });
    expect(JSON.stringify(history)).not.toContain('is it so');
    // Whoever speaks hears of what comes after.
    expect((await show(architect.api, issue)).watchers.map(({ name }) => name)).toContain('Eve Engineer');
  });

  it('thousands of comments come page by page, the newest first', async () => {
    const issue = await raise(architect.api, { title: 'Long talk' });
    for (let i = 0; i < 53; i++)
      await architect.api.call(comments.commentIssue, { params: at(issue), body: { text: `word ${i}` } });
    const shown = await show(architect.api, issue);
    expect(shown.comments.at(-1)).toMatchObject({ text: 'word 52' });
    expect(shown.comments).toHaveLength(50);
    const { items, next } = await architect.api.call(comments.listIssueComments, {
      params: at(issue),
      query: { after: shown.earlier! },
    });
    expect(items.map(({ text: words }) => words)).toEqual(['word 2', 'word 1', 'word 0']);
    expect(next).toBeNull();
  });
});

describe('what an issue is tied to', () => {
  it('other issues, from both ends, once', async () => {
    const [a, b] = [await raise(architect.api, { title: 'First' }), await raise(architect.api, { title: 'Second' })];
    const relation = await architect.api.call(relateIssue, { params: at(a), body: { kind: 'blocks', issueId: b.id } });
    expect((await show(engineer.api, b)).relations).toMatchObject([
      { kind: 'blocks', back: true, issue: { title: 'First' } },
    ]);
    expect(
      await refusal(architect.api.call(relateIssue, { params: at(b), body: { kind: 'blocks', issueId: a.id } })),
    ).toMatchObject({ code: 'related-already' });
    expect(
      await refusal(architect.api.call(relateIssue, { params: at(a), body: { kind: 'blocks', issueId: a.id } })),
    ).toMatchObject({ code: 'itself' });
    await architect.api.call(unrelateIssue, { params: { ...at(b), relationId: relation.id } });
    expect((await show(engineer.api, a)).relations).toEqual([]);
  });

  it('things of other kinds, of which each sees what they may see', async () => {
    const hidden = await deliverFile(project, architect.api, DRAWINGS, `${nextCode()}.pdf`, text('tied'));
    const issue = await raise(architect.api, { things: [{ type: 'container', id: hidden.containerId }] });
    expect((await show(architect.api, issue)).things).toMatchObject([{ type: 'container' }]);
    expect((await show(engineer.api, issue)).things).toEqual([]);
    const which = { type: 'container', id: hidden.containerId };
    expect(await refusal(engineer.api.call(tieIssue, { params: at(issue), body: which }))).toMatchObject({
      status: 404,
    });
    expect(await architect.api.call(untieIssue, { params: at(issue), body: which })).toEqual([]);
  });

  it('a version that answers it: who verifies is told, and it counts as answered', async () => {
    const fileName = `${nextCode()}.pdf`;
    const before = await deliverFile(project, engineer.api, 'Structure / Drawings', fileName, text('old'));
    await share(project, engineer.api, before.containerId);
    const issue = await raise(architect.api, {
      title: 'Move it',
      responsible: person(engineer),
      place: { versionId: before.versionId, page: 1, x: 5, y: 6, zoom: 2 },
    });
    const after = await deliverFile(project, engineer.api, 'Structure / Drawings', fileName, text('new'));
    await share(project, engineer.api, after.containerId);
    const answered = await engineer.api.call(answerIssue, {
      params: at(issue),
      body: { versionId: after.versionId, note: 'Moved by 30 mm' },
    });
    expect(answered).toMatchObject({ status: 'answered', answer: { versionNumber: 2, note: 'Moved by 30 mm' } });
    expect((await newsOf(architect.api))[0]).toContain('is answered');
    expect(await show(architect.api, issue)).toMatchObject({
      issue: { place: { x: 5, y: 6, zoom: 2 } },
      sheet: { versionNumber: 1, current: { versionId: after.versionId, number: 2 } },
      answers: [{ versionNumber: 2 }],
    });
    // Said again it changes nothing.
    await engineer.api.call(answerIssue, { params: at(issue), body: { versionId: after.versionId } });
    expect((await show(architect.api, issue)).answers).toHaveLength(1);
  });
});

describe('lists of issues', () => {
  it('are narrowed by any field, ordered by any, and counted by groups', async () => {
    const base = { q: 'Listed' };
    for (const [title, priority, dueOn] of [
      ['Listed a', 'low', '2026-01-05'],
      ['Listed c', 'urgent', null],
      ['Listed b', 'normal', '2999-01-05'],
    ] as const)
      await raise(colleague.api, { title, priority, dueOn, labels: priority === 'low' ? ['roof', 'fire'] : [] });
    const by = (query: object) => numbersOf(engineer.api, { ...base, ...query });
    expect(await by({ sort: 'title' })).toEqual(['Listed a', 'Listed b', 'Listed c']);
    expect(await by({ sort: 'priority', descending: true })).toEqual(['Listed c', 'Listed b', 'Listed a']);
    expect(await by({ sort: 'dueOn' })).toEqual(['Listed a', 'Listed b', 'Listed c']);
    expect(await by({ sort: 'dueOn', descending: true })).toEqual(['Listed b', 'Listed a', 'Listed c']);
    expect(await by({ overdue: true })).toEqual(['Listed a']);
    expect(await by({ label: 'fire' })).toEqual(['Listed a']);
    expect(await by({ label: '-', priority: 'urgent,low' })).toEqual(['Listed c']);
    expect(await by({ responsible: 'nobody', dueTo: '2026-12-31' })).toEqual(['Listed a']);
    expect(await by({ raisedBy: colleague.id, status: 'open', type: 'question' })).toHaveLength(3);
    expect(await by({ raisedBy: 'me' })).toEqual([]);
    expect(await by({ raisedFrom: '2999-01-01' })).toEqual([]);
    const pages: string[] = [];
    for (let after: string | null | undefined; after !== null;) {
      const { items, next } = await engineer.api.call(listIssues, {
        params: project.params,
        query: { ...base, sort: 'priority', limit: 1, ...(after && { after }) },
      });
      pages.push(...items.map(({ title }) => title));
      after = next;
    }
    expect(pages).toEqual(['Listed a', 'Listed b', 'Listed c']);
    expect(
      await refusal(
        engineer.api.call(listIssues, {
          params: project.params,
          query: { sort: 'priority', after: Buffer.from('["x","y"]').toString('base64url') },
        }),
      ),
    ).toMatchObject({ code: 'bad-cursor' });
    const groups = (query: object) =>
      engineer.api.call(groupIssues, { params: project.params, query: { ...base, ...query } as never });
    expect(await groups({ by: 'priority' })).toMatchObject([
      { value: 'urgent', count: 1 },
      { value: 'normal', count: 1 },
      { value: 'low', count: 1 },
    ]);
    expect(await groups({ by: 'label' })).toMatchObject([
      { value: 'roof', count: 1 },
      { value: 'fire', count: 1 },
      { value: '', count: 2 },
    ]);
    expect(await groups({ by: 'raisedBy' })).toMatchObject([{ label: 'Cleo Colleague', count: 3 }]);
    for (const one of ['status', 'type', 'responsible', 'team'] as const)
      expect((await groups({ by: one })).reduce((sum, { count }) => sum + count, 0)).toBe(3);
  });

  it('many are changed at once, each for itself, and put back as they were', async () => {
    const [a, b] = [await raise(architect.api, { title: 'Many a' }), await raise(engineer.api, { title: 'Many b' })];
    const changes = [a, b].map(({ id, edition }) => ({ issueId: id, edition, priority: 'urgent' }));
    const outcomes = await architect.api.call(changeIssues, { params: project.params, body: { changes } });
    expect(outcomes).toMatchObject([
      { issue: { priority: 'urgent', edition: 2 }, problem: '' },
      { issue: null, problem: expect.stringContaining('Only whoever raised this issue') },
    ]);
    const back = { issueId: a.id, edition: 2, priority: a.priority };
    const undone = await architect.api.call(changeIssues, { params: project.params, body: { changes: [back] } });
    expect(undone).toMatchObject([{ issue: { priority: 'normal' } }]);
  });

  it('figures add up, and lead to their lists', async () => {
    const figures = await engineer.api.call(showIssueFigures, { params: project.params, query: { q: 'Listed' } });
    expect(figures.teams).toEqual([{ teamId: null, name: '', open: 3, inHand: 0, answered: 0, overdue: 1 }]);
    expect(figures.ages[0]).toMatchObject({ days: 2, count: 3 });
    expect(figures.weeks).toHaveLength(12);
    expect(figures.weeks.at(-1)).toMatchObject({ raised: 3, closed: 0, open: 3 });
    const { raisedFrom, raisedTo } = figures.ages[0]!;
    expect(await numbersOf(engineer.api, { q: 'Listed', raisedFrom: raisedFrom!, raisedTo })).toHaveLength(3);
    const all = await engineer.api.call(showIssueFigures, { params: project.params, query: {} });
    expect(all.answers.length).toBeGreaterThan(0);
  });

  it('a saved view rings for what comes into it, and only then', async () => {
    const view = await project.founder.call(addSavedView, {
      params: project.params,
      body: {
        list: 'issues',
        name: 'Fire',
        forAll: true,
        definition: { filters: { label: 'fire', status: 'open' }, columns: [], groupBy: '' },
      },
    });
    const one = { ...project.params, viewId: view.id };
    await engineer.api.call(ringSavedView, { params: one, body: { on: true } });
    expect(
      await engineer.api.call(listSavedViews, { params: project.params, query: { list: 'issues' } }),
    ).toMatchObject([{ name: 'Fire', bell: true, mine: false }]);
    const rung = async () => (await newsOf(engineer.api)).filter((words) => words.startsWith('New in “Fire”')).length;
    const issue = await raise(architect.api, { title: 'Smoke', labels: ['fire'] });
    expect(await rung()).toBe(1);
    const change = (edition: number, fields: object) =>
      architect.api.call(changeIssue, { params: at(issue), body: { edition, ...fields } });
    await change(1, { title: 'More smoke' });
    expect(await rung()).toBe(1);
    await change(2, { labels: [] });
    await change(3, { labels: ['fire'] });
    expect(await rung()).toBe(2);
    await engineer.api.call(ringSavedView, { params: one, body: { on: false } });
    await raise(architect.api, { title: 'Silence', labels: ['fire'] });
    expect(await rung()).toBe(2);
  });
});

it('an issue of a type that the project has no more stays as it is, and follows the first type', async () => {
  const issue = await raise(architect.api, { type: 'site defect' });
  await decide(({ types }) =>
    types.splice(
      types.findIndex(({ name }) => name === 'site defect'),
      1,
    ),
  );
  const shown = await show(architect.api, issue);
  expect(shown.issue.type).toBe('site defect');
  expect(ruleOf((await settingsNow()).settings, 'site defect').name).toBe('question');
  expect(shown.may).toContain('answer');
  expect(await engineer.api.call(listOutbox)).toMatchObject({ items: expect.any(Array) });
});

describe('by mail', () => {
  const lettersOf = async (who: ApiPerson) => (await who.call(listOutbox)).items;

  it('a reply becomes a comment, without what is quoted, as whoever it was sent to', async () => {
    const issue = await raise(architect.api, { title: 'By post', responsible: person(engineer) });
    const [letter] = await lettersOf(engineer.api);
    expect(letter).toMatchObject({ subject: expect.stringContaining('By post'), replies: true });
    const reply = (who: ApiPerson, text: string) =>
      who.call(replyToMail, { params: { mailId: String(letter!.id) }, body: { text } });
    const { link } = await reply(
      engineer.api,
      'It is moved.\n\nOn 27 Nov 2026 Ada Architect wrote:\n> A duct in the beam',
    );
    expect(link).toBe(`/projects/${project.projectId}/issues/${issue.id}`);
    expect((await show(architect.api, issue)).comments).toMatchObject([
      { text: 'It is moved.', byMail: true, author: { name: 'Eve Engineer' } },
    ]);
    expect(await refusal(reply(engineer.api, '> nothing of my own'))).toMatchObject({ code: 'no-words' });
    // Somebody else’s letter is nobody else’s to reply to.
    expect(await refusal(reply(colleague.api, 'Me too'))).toMatchObject({ status: 404 });
  });

  it('a letter to the project becomes an issue', async () => {
    const { link } = await engineer.api.call(writeToProject, {
      params: project.params,
      body: { subject: 'Water in the pit', text: 'Since Monday.\n-- \nEve' },
    });
    const issue = { id: link.split('/').at(-1)! };
    expect((await show(architect.api, issue)).issue).toMatchObject({
      ...{
        title: 'Water in the pit',
        description: 'Since Monday.',
        type: 'question',
        author: { name: 'Eve Engineer' },
      },
    });
  });
});

describe('a report', () => {
  const reported = async (as: 'pdf' | 'xlsx', filters: object) => {
    const { id } = await architect.api.call(startIssueReport, { params: project.params, body: { as, ...filters } });
    return made(architect.api, server.address, project.projectId, id);
  };
  it('as PDF has cover and table, and a page for each issue', async () => {
    const bytes = await reported('pdf', { q: 'Listed', sort: 'title' });
    const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
    const pages = await Promise.all(
      Array.from({ length: pdf.numPages }, async (_, i) => {
        const { items } = await (await pdf.getPage(i + 1)).getTextContent();
        return items.map((item) => ('str' in item ? item.str : '')).join(' ');
      }),
    );
    expect(pages).toHaveLength(4);
    expect(pages[0]).toContain('3 issues');
    expect(pages.slice(1).map((text) => /Listed [abc]/.exec(text)![0])).toEqual(['Listed a', 'Listed b', 'Listed c']);
    expect(pages[1]).toContain('Cleo Colleague');
    await pdf.destroy();
  });
  it('as XLSX has the list, what was said and what happened', async () => {
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await reported('xlsx', { q: 'Talk' })) as never);
    expect(book.worksheets.map(({ name }) => name)).toEqual(['Issues', 'What was said', 'What happened']);
    expect(book.getWorksheet('Issues')!.getRow(2).getCell(2).value).toMatch(/talk/i);
    expect(book.getWorksheet('What was said')!.rowCount).toBeGreaterThan(10);
    // What was withdrawn is not said again.
    const said = book.getWorksheet('What was said')!.getSheetValues().flat().map(String);
    expect(said).toContain('(withdrawn)');
    expect(said.some((words) => words.includes('It is so.'))).toBe(false);
  });
  it('of nothing is not begun', async () => {
    const body = { as: 'pdf', q: 'no such words' } as const;
    expect(await refusal(architect.api.call(startIssueReport, { params: project.params, body }))).toMatchObject({
      code: 'no-issues',
    });
  });
});
