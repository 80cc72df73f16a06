/** A markup has an author, a history, answers, somebody responsible; open ones go along to the next version. */
import {
  addMarkup,
  changeMarkup,
  commentMarkup,
  deleteMarkup,
  listMarkups,
  showMarkup,
  type Markup,
} from '@kindred/contract/markup/markup';
import { listNotices } from '@kindred/contract/identity/identity';
import { showDesk } from '@kindred/contract/insight/insight';
import { changeProject, showProject } from '@kindred/contract/portfolio/portfolio';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';
import { cloud, drawing, publish, sheetsPdf } from './markup-table.ts';

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let authorId: string;
let engineer: ApiPerson;
let engineerId: string;
let file: { containerId: string; versionId: string };
let asked: Markup;

beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  ({ api: author, id: authorId } = await project.join('Ann Author', 'Author', 'Architecture'));
  ({ api: engineer, id: engineerId } = await project.join('Eve Engineer', 'Author', 'Structure'));
  file = await drawing(project, author);
  await share(project, author, file.containerId);
});
afterAll(() => server.remove());

const on = (versionId: string) => ({ ...project.params, versionId });
const at = (markup: Markup) => ({ ...project.params, markupId: markup.id });
const noticesOf = async (person: ApiPerson) =>
  (await person.call(listNotices, { query: {} })).items.map(({ text }) => text);

it('whoever delivered hears of what is published, whoever shall see to it of that', async () => {
  asked = await publish(engineer, on(file.versionId));
  expect(await noticesOf(author)).toContainEqual(expect.stringContaining('Eve Engineer published markup'));
  const due = { edition: asked.edition, assigneeId: authorId, dueOn: '2026-12-01' };
  asked = await engineer.call(changeMarkup, { params: at(asked), body: due });
  expect(asked).toMatchObject({ assignee: { id: authorId }, dueOn: '2026-12-01' });
  const desk = await author.call(showDesk, { params: project.params });
  expect(JSON.stringify(desk)).toContain('Widen the door');
  const stranger = { edition: asked.edition, assigneeId: crypto.randomUUID() };
  expect(await refusal(engineer.call(changeMarkup, { params: at(asked), body: stranger }))).toMatchObject({
    code: 'not-a-member',
  });
});

it('comments reach those concerned, once, and stand with the history', async () => {
  await author.call(commentMarkup, { params: at(asked), body: { text: 'To 1,010 mm?', mentions: [engineerId] } });
  const heard = (await noticesOf(engineer)).filter((text) => text.includes('Ann Author'));
  expect(heard).toEqual([expect.stringContaining('names you')]);
  const { comments, editions, markup } = await engineer.call(showMarkup, { params: at(asked) });
  expect(markup.comments).toBe(1);
  expect(comments).toMatchObject([
    { text: 'To 1,010 mm?', author: { id: authorId }, writtenBy: null, versionNumber: 1 },
  ]);
  expect(editions).toMatchObject([
    { edition: 1, status: 'act', assignee: null },
    { edition: 2, assignee: { id: authorId }, redrawn: false, by: { id: engineerId } },
  ]);
  expect(await refusal(author.call(commentMarkup, { params: at(asked), body: { text: '  ' } }))).toMatchObject({
    code: 'no-words',
  });
});

it('words of others stay theirs; their status is everybody’s', async () => {
  const words = { edition: asked.edition, text: 'No' };
  expect(await refusal(author.call(changeMarkup, { params: at(asked), body: words }))).toMatchObject({ status: 403 });
  asked = await author.call(changeMarkup, { params: at(asked), body: { edition: asked.edition, status: 'ask' } });
  expect(asked.status).toBe('ask');
});

it('callouts number themselves, within a sheet or within the set', async () => {
  const callout = {
    kind: 'callout' as const,
    target: [10, 10] as [number, number],
    box: [50, 50, 90, 30] as [number, number, number, number],
  };
  const draw = async (page: number): Promise<number | null> =>
    (await engineer.call(addMarkup, { params: on(file.versionId), body: cloud({ page, shape: callout }) })).tag;
  expect([await draw(1), await draw(1), await draw(2)]).toEqual([1, 2, 1]);
  expect(asked.tag).toBeNull();
  const { project: details } = await project.founder.call(showProject, { params: project.params });
  await project.founder.call(changeProject, {
    params: project.params,
    body: { edition: details.edition, calloutNumbering: 'set', calloutTag: 'disc' },
  });
  expect(await draw(2)).toBe(3);
  const drafts = await engineer.call(listMarkups, { params: on(file.versionId) });
  for (const { id, draft } of drafts)
    if (draft) await engineer.call(deleteMarkup, { params: { ...project.params, markupId: id } });
});

it('what is open goes along to the next version, with what was said; what is settled stays', async () => {
  const settled = await publish(engineer, on(file.versionId), { text: 'Done already', status: 'settled' });
  const second = await publish(engineer, on(file.versionId), { page: 2, text: 'On the second sheet', status: 'ask' });
  const next = await drawing(project, author, await sheetsPdf(1));
  const carried = await author.call(listMarkups, { params: on(next.versionId) });
  // The second sheet is gone: what lay on it has no place any more.
  expect(carried).toMatchObject([
    { number: asked.number, carriedFrom: 1, comments: 1, page: 1, status: 'ask', assignee: { id: authorId } },
  ]);
  const there = await author.call(listMarkups, { params: on(file.versionId) });
  expect(there.map(({ id, carriedTo }) => [id, carriedTo])).toEqual([
    [asked.id, 2],
    [settled.id, null],
    [second.id, null],
  ]);
  // Changed where it is now, not where it was.
  const old = { edition: asked.edition, status: 'settled' as const };
  expect(await refusal(author.call(changeMarkup, { params: at(asked), body: old }))).toMatchObject({
    code: 'carried-on',
  });

  // Others do not see the new version yet: nothing of it reaches them, and what they settle settles it there too.
  expect((await engineer.call(listMarkups, { params: on(file.versionId) }))[0]).toMatchObject({ carriedTo: null });
  await author.call(commentMarkup, { params: at(carried[0]!), body: { text: 'Only we talk here' } });
  const seen = await engineer.call(showMarkup, { params: at(asked) });
  expect(seen.comments.map(({ text }) => text)).toEqual(['To 1,010 mm?']);
  await engineer.call(changeMarkup, { params: at(asked), body: old });
  expect(await author.call(listMarkups, { params: on(next.versionId) })).toMatchObject([{ status: 'settled' }]);

  await share(project, author, file.containerId);
  const whole = await engineer.call(showMarkup, { params: at(carried[0]!) });
  expect(whole.comments.map(({ versionNumber }) => versionNumber)).toEqual([1, 2]);
  expect(whole.editions.map(({ versionNumber }) => versionNumber)).toEqual([1, 1, 1, 2, 1, 2]);
});
