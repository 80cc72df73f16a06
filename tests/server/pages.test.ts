/** Lists do not stop: each page begins where the one before ended, whatever the order. */
import { listSheetRegister } from '@kindred/contract/drawing/drawing';
import { listNotices, listOutbox } from '@kindred/contract/identity/identity';
import { editContainers } from '@kindred/contract/register/register';
import { addViewpoint, listViewpoints } from '@kindred/contract/scene/scene';
import { listHistory } from '@kindred/contract/things/things';
import { listTransmittals, sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { expect, it } from 'vitest';
import { refusal, share } from './harness.ts';
import { architect, engineer, first, project, server, threePeople } from './three-people.ts';

threePeople();

interface Asked {
  limit: number;
  after?: string;
}
type Paged<T> = Promise<{ items: T[]; next: string | null }>;

/** All rows, page by page; fails where one page has more than was asked for. */
async function walk<T>(read: (asked: Asked) => Paged<T>, limit: number): Promise<T[]> {
  const rows: T[] = [];
  for (let after: string | null | undefined; after !== null;) {
    const page: Awaited<Paged<T>> = await read({ limit, ...(after && { after }) });
    expect(page.items.length).toBeLessThanOrEqual(limit);
    rows.push(...page.items);
    after = page.next;
  }
  return rows;
}
it('transmittals, the newest first', async () => {
  const { versionId, containerId } = await first();
  await share(project, architect.api, containerId);
  for (let n = 1; n <= 5; n++)
    await project.founder.call(sendTransmittal, {
      params: project.params,
      body: {
        title: `Plans ${n}`,
        reason: 'for information',
        message: '',
        versionIds: [versionId],
        personIds: [architect.id],
        partyIds: [],
        recipientsSeeEachOther: true,
      },
    });
  const sent = await walk((query) => project.founder.call(listTransmittals, { params: project.params, query }), 2);
  expect(sent.map(({ number }) => number)).toEqual([5, 4, 3, 2, 1]);
});

it('notices and mail of those transmittals', async () => {
  const { unread } = await architect.api.call(listNotices, {});
  const told = await walk((query) => architect.api.call(listNotices, { query }), 2);
  expect(told.filter(({ text }) => text.includes('Plans')).length).toBe(5);
  expect(unread).toBe(told.filter(({ read }) => !read).length);
  const mails = await walk((query) => architect.api.call(listOutbox, { query }), 2);
  expect(new Set(mails.map(({ id }) => id)).size).toBe(mails.length);
  expect(mails.length).toBeGreaterThanOrEqual(5);
});

it('the history of a thing', async () => {
  const { containerId } = await first();
  for (const title of ['One', 'Two', 'Three', 'Four'])
    await architect.api.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId, title }] },
    });
  const query = { type: 'container', id: containerId };
  const happened = await walk(
    (asked) => architect.api.call(listHistory, { params: project.params, query: { ...query, ...asked } }),
    2,
  );
  expect(happened.map(({ verb }) => verb)).toEqual([...Array<string>(4).fill('described'), 'delivered']);
});

it('viewpoints', async () => {
  const { versionId } = await first();
  const picture = `data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==`;
  const state = {
    camera: { position: [1, 1, 1], target: [0, 0, 0], fieldOfView: 50 },
    sections: [],
    hidden: [],
    isolated: null,
    selection: [],
  } as never;
  for (const name of ['a', 'b', 'c', 'd'])
    await architect.api.call(addViewpoint, {
      params: project.params,
      body: { name, state, versionIds: [versionId], picture },
    });
  const saved = await walk((query) => architect.api.call(listViewpoints, { params: project.params, query }), 3);
  expect(saved.map(({ name }) => name)).toEqual(['d', 'c', 'b', 'a']);
});

it('the sheet register, by number, those without one at the end', async () => {
  const { versionId, containerId } = await first();
  const { pool } = server.platform;
  await pool.query("update versions set kind = 'drawing' where id = $1", [versionId]);
  await pool.query("update entries set kind = 'drawing' where container_id = $1", [containerId]);
  const numbers = ['A-2', '', 'A-1', 'A-1', '', 'A-10'];
  for (const [i, number] of numbers.entries())
    await pool.query(
      `insert into sheets (version_id, page, label, number, width, height) values ($1, $2, 'Sheet', $3, 10, 10)
       on conflict (version_id, page) do update set number = excluded.number`,
      [versionId, i + 1, number],
    );
  const read = (query: Asked) => architect.api.call(listSheetRegister, { params: project.params, query });
  for (const limit of [1, 2, 4, 100]) {
    const sheets = await walk(read, limit);
    expect(sheets.map(({ number, page }) => `${number} ${page}`)).toEqual([
      'A-1 3',
      'A-1 4',
      'A-10 6',
      'A-2 1',
      ' 2',
      ' 5',
    ]);
  }
  for (const after of ['x', btoa('["[1]","2"]'), btoa('["no json","2"]')])
    expect(await refusal(read({ limit: 1, after }))).toMatchObject({ code: 'bad-cursor' });
  expect(
    (await walk((query) => engineer.api.call(listSheetRegister, { params: project.params, query }), 2)).length,
  ).toBe(0);
});
