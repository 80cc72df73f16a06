/** The exchange as everybody sees it: board, matrix, mail, audit trail; and the clean-up after it. */
import { listNotices, listOutbox } from '@kindred/contract/identity/identity';
import { listAuditTrail, showDesk } from '@kindred/contract/insight/insight';
import { changeMailChoices, showMailChoices } from '@kindred/contract/identity/identity';
import { listDeliveryWeeks } from '@kindred/contract/register/exchange';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { restoreVersion } from '@kindred/contract/register/register';
import { listDeliveries, listUsed, showExchangeMatrix } from '@kindred/contract/register/exchange';
import { sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { describe, expect, it } from 'vitest';
import { sendDailyMail } from '../../packages/server/src/identity/mail-choices.ts';
import { cleanUp } from '../../packages/server/src/register/clean-up.ts';
import { refusal, share } from './harness.ts';
import {
  text,
  server,
  project,
  architect,
  engineer,
  threePeople,
  nextCode,
  show,
  deliverOnto,
  first,
  fileOf,
} from './three-people.ts';

threePeople();

describe('the exchange', () => {
  it('shows deliveries without what is private, and how far behind each team is', async () => {
    const code = nextCode();
    const one = await first(code);
    await share(project, architect.api, one.containerId);
    await fileOf(engineer.api, one.versionId);
    for (const words of ['two', 'three']) {
      await deliverOnto(architect.api, code, words);
      await share(project, architect.api, one.containerId);
    }
    await deliverOnto(architect.api, code, 'four, private');
    const teams = { provider: project.teams.get('Architecture')!, user: project.teams.get('Structure')! };
    const matrix = await engineer.api.call(showExchangeMatrix, { params: project.params });
    expect(matrix.find(({ provider, user }) => provider === teams.provider && user === teams.user)).toMatchObject({
      most: 2,
    });
    const used = await engineer.api.call(listUsed, { params: { ...project.params, ...teams } });
    expect(used.find((row) => row.code === code)).toMatchObject({ taken: 1, newest: 3, behind: 2, how: 'downloaded' });
    expect((await engineer.api.call(listNotices)).items[0]!.text).toContain('You took version 1');

    await project.founder.call(sendTransmittal, {
      params: project.params,
      body: {
        title: 'The newest',
        reason: 'for information',
        versionIds: [(await show(engineer.api, one.containerId)).container.versionId],
        personIds: [engineer.id],
        partyIds: [],
        recipientsSeeEachOther: true,
      },
    });
    const sent = await engineer.api.call(listUsed, { params: { ...project.params, ...teams } });
    expect(sent.find((row) => row.code === code)).toMatchObject({ taken: 3, behind: 0, how: 'received' });

    const span = { from: '2000-01-01T00:00:00Z', to: '2100-01-01T00:00:00Z' };
    const count = (rows: { files: number }[]) => rows.reduce((sum, { files }) => sum + files, 0);
    const mine = await architect.api.call(listDeliveries, { params: project.params, query: span });
    const theirs = await engineer.api.call(listDeliveries, { params: project.params, query: span });
    expect(mine.some((delivery) => delivery.private > 0)).toBe(true);
    expect(theirs.every((delivery) => delivery.private === 0)).toBe(true);
    expect(count(theirs)).toBeLessThan(count(mine));
    await deliverOnto(architect.api, 'not a name of the convention', 'five');
    const weeks = await architect.api.call(listDeliveryWeeks, { params: project.params });
    expect(count(weeks)).toBeGreaterThanOrEqual(count(mine));
    expect(weeks[0]!.misnamed).toBeGreaterThan(0);
  });
});

describe('what people are told', () => {
  it('comes by mail at once, once a day or not at all, as each chooses', async () => {
    const choices = await engineer.api.call(showMailChoices);
    expect(choices.delivery).toBe('daily');
    await engineer.api.call(changeMailChoices, { body: { ...choices, issue: 'never', review: 'daily' } });
    const raise = () =>
      project.founder.call(raiseIssue, {
        params: project.params,
        body: {
          title: 'Look here',
          type: 'question',
          priority: 'normal',
          responsible: { kind: 'person', id: engineer.id },
        },
      });
    const before = (await engineer.api.call(listOutbox)).items.length;
    await raise();
    expect((await engineer.api.call(listOutbox)).items.length).toBe(before);
    expect((await engineer.api.call(listNotices)).items[0]!.text).toContain('Look here');
    await engineer.api.call(changeMailChoices, { body: { ...choices, issue: 'daily' } });
    await raise();
    await raise();
    expect(await sendDailyMail(server.platform.outbox, server.platform.db)).toBeGreaterThan(0);
    const { items: mails } = await engineer.api.call(listOutbox);
    expect(mails).toHaveLength(before + 1);
    expect(mails[0]!.text!.match(/Look here/g)).toHaveLength(2);
    expect(await sendDailyMail(server.platform.outbox, server.platform.db)).toBe(0);
    expect(
      (await engineer.api.call(showDesk)).filter(({ pile, type }) => pile === 'waiting for me' && type === 'issue'),
    ).toHaveLength(3);
  });

  it('is written down: the audit trail, for administrators', async () => {
    expect(await refusal(architect.api.call(listAuditTrail, { params: project.params }))).toMatchObject({
      status: 403,
    });
    const code = nextCode();
    const one = await first(code);
    await deliverOnto(architect.api, code, 'second');
    const again = { params: { ...project.params, containerId: one.containerId }, body: { number: 1 } };
    await architect.api.call(restoreVersion, again);
    const { items } = await project.founder.call(listAuditTrail, {
      params: project.params,
      query: { personId: architect.id, subjectType: 'container', q: 'made current again' },
    });
    expect(items[0]).toMatchObject({
      verb: 'made current again',
      subjectId: one.containerId,
      after: { version: 3, restores: 1 },
    });
    const all = await project.founder.call(listAuditTrail, { params: project.params, query: { limit: 200 } });
    expect(all.next).toBeNull();
    const response = await fetch(`${server.address}/api/projects/${project.projectId}/audit-trail-export`, {
      headers: project.founder.headersForFiles(),
    });
    const csv = await response.text();
    // Preparation goes on meanwhile, and is written down too.
    expect(csv.trimEnd().split('\r\n').length).toBeGreaterThan(all.items.length);
    expect(csv).toContain('version 1 made current again');
  });
});

it('the clean-up removes what nothing names, and nothing else', async () => {
  const one = await first(nextCode(), 'kept for good');
  await architect.api.upload(project.projectId, 'left.txt', text('never delivered'));
  expect(await cleanUp(server.platform)).toMatchObject({ uploads: 0, blobs: 0 });
  const removed = await cleanUp(server.platform, -1);
  expect(removed.uploads).toBeGreaterThan(0);
  expect(removed.blobs).toBeGreaterThan(0);
  expect(await (await fileOf(architect.api, one.versionId)).text()).toBe('kept for good');
});
