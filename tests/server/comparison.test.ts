/** What changed on a drawing: compared by itself when a new version is ready, held against what was asked for, reported. */
import { NO_CHANGES } from '@kindred/core/compare/change-counts';
import ExcelJS from '@protobi/exceljs';
import {
  addRequests,
  askComparison,
  cancelComparison,
  changeRequest,
  collectRequests,
  judgeChange,
  listComparisons,
  listSheetChanges,
  removeRequest,
  showBrief,
  showComparison,
  startComparisonExport,
  type Comparison,
} from '@kindred/contract/compare/compare';
import { raiseIssue, showIssue } from '@kindred/contract/issues/issues';
import { listMarkups } from '@kindred/contract/markup/markup';
import { showContainer } from '@kindred/contract/register/register';
import { listHistory, listRelated } from '@kindred/contract/things/things';
import { sql } from 'drizzle-orm';
import { expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { planPdf, TWO_MM } from './compared-plans.ts';
import { deliverFile, prepared, refusal, share } from './harness.ts';
import { CODE, drawing, made, publish } from './markup-table.ts';
import { architect, colleague, engineer, project, server, threePeople } from './three-people.ts';

vi.setConfig({ testTimeout: 400_000, hookTimeout: 400_000 });
threePeople();

const DRAWINGS = 'Architecture / Drawings';
const comparisonsOf = async (person: ApiPerson, containerId: string): Promise<Comparison[]> =>
  (await person.call(listComparisons, { params: project.params, query: { containerId } })).items;
const compared = (person: ApiPerson, containerId: string, count = 1): Promise<Comparison[]> =>
  vi.waitFor(
    async () => {
      const all = await comparisonsOf(person, containerId);
      expect(all.map(({ status }) => status)).toEqual(Array.from({ length: count }, () => 'ready'));
      return all;
    },
    { timeout: 300_000, interval: 200 },
  );
const versionsOf = async (containerId: string) =>
  (await architect.api.call(showContainer, { params: { ...project.params, containerId } })).versions;
let codes = 0;
const nextFile = (): string => CODE.replace('0101', `0${700 + ++codes}`);

/** The plan, with two markups and an issue that ask for something, then its next issue. */
async function story() {
  const file = nextFile();
  const first = await drawing(project, architect.api, await planPdf({}), file);
  const params = { ...project.params, versionId: first.versionId };
  const box = (x: number, y: number, w: number, h: number) => ({
    shape: { kind: 'cloud' as const, points: [[x, y] as [number, number], [x + w, y + h] as [number, number]] },
  });
  const door = await publish(architect.api, params, { ...box(195, 260, 40, 40), text: 'Move the door' });
  const stair = await publish(architect.api, params, { ...box(335, 110, 75, 50), text: 'Turn the stair' });
  const issue = await architect.api.call(raiseIssue, {
    params: project.params,
    body: {
      ...{ title: 'Call the store “Kit room”', type: 'request', priority: 'normal' },
      place: { versionId: first.versionId, page: 1, x: 630, y: 290 },
    },
  });
  await deliverFile(
    project,
    architect.api,
    DRAWINGS,
    file,
    await planPdf({ door: 30, wall: TWO_MM, room: 'Kit room' }),
  );
  await prepared(project, architect.api, first.containerId);
  const [comparison] = await compared(architect.api, first.containerId);
  return {
    ...first,
    door,
    stair,
    issue,
    comparison: comparison!,
    params: { ...project.params, comparisonId: comparison!.id },
  };
}

it('compares by itself, holds the brief against it, and tells what is missing and what nobody asked for', async () => {
  const { containerId, versionId, comparison, params, stair, door } = await story();
  expect(comparison).toMatchObject({
    counts: { added: 0, removed: 0, moved: 2, text: 1 },
    sheets: 1,
    done: 1,
    brief: null,
  });
  const found = await architect.api.call(listSheetChanges, { params: { ...params, position: '1' } });
  const moved = found.changes.filter(({ kind }) => kind === 'moved').map(({ shift }) => shift![0]);
  expect(Math.min(...moved)).toBeCloseTo(TWO_MM, 1);
  expect(Math.max(...moved)).toBeCloseTo(30, 1);

  expect((await architect.api.call(showBrief, { params })).toCollect).toEqual({ markups: 2, issues: 1 });
  await architect.api.call(collectRequests, { params: { ...project.params, versionId } });
  const again = architect.api.call(collectRequests, { params: { ...project.params, versionId } });
  expect(await refusal(again)).toMatchObject({ code: 'nothing-open' });
  const brief = await architect.api.call(showBrief, { params });
  expect(brief.counts).toEqual({ found: 2, missing: 1, notAsked: 1, toTick: 3 });
  const missing = brief.requests.find(({ changes }) => !changes.length)!;
  expect(missing).toMatchObject({ text: 'Turn the stair', markupId: stair.id });
  const wall = brief.changes.find(({ asked }) => !asked)!;
  expect(found.changes.find(({ number }) => number === wall.number)!.shift![0]).toBeCloseTo(TWO_MM, 1);

  // A person ticks, and takes it back.
  const body = { position: wall.position, number: wall.number };
  const ticked = await colleague.api.call(judgeChange, {
    params,
    body: { ...body, asked: true, requestIds: [missing.id] },
  });
  expect(ticked.counts).toEqual({ found: 3, missing: 0, notAsked: 0, toTick: 2 });
  expect(ticked.changes.find(({ number }) => number === wall.number)).toMatchObject({ by: { name: 'Cleo Colleague' } });
  const back = await colleague.api.call(judgeChange, { params, body: { ...body, asked: null } });
  expect(back.counts).toEqual(brief.counts);
  expect(
    await refusal(colleague.api.call(judgeChange, { params, body: { ...body, number: 99, asked: true } })),
  ).toMatchObject({ status: 404 });

  // The list and the picture of the whole say the same.
  const [listed] = await comparisonsOf(architect.api, containerId);
  expect(listed!.brief).toEqual(brief.counts);
  const { sheets } = await architect.api.call(showComparison, { params });
  expect(sheets[0]).toMatchObject({
    outcome: 'compared',
    beforePage: 1,
    afterPage: 1,
    brief: { missing: 1, notAsked: 1 },
  });

  // Markups went along with what they point at.
  const [newest] = await versionsOf(containerId);
  const carried = await architect.api.call(listMarkups, { params: { ...project.params, versionId: newest!.id } });
  const of = (markup: { number: number }) => carried.find(({ number }) => number === markup.number)!;
  expect([of(door).fate, of(stair).fate]).toEqual(['moved', 'same']);
  expect(of(door).shape).toMatchObject({
    points: [
      [expect.closeTo(225, 0), 260],
      [expect.closeTo(265, 0), 300],
    ],
  });

  const history = await architect.api.call(listHistory, {
    params: project.params,
    query: { type: 'version', id: newest!.id },
  });
  expect(JSON.stringify(history)).toContain('sheets compared');
  const related = await architect.api.call(listRelated, {
    params: project.params,
    query: { type: 'version', id: newest!.id },
  });
  expect(related.items.map(({ type }) => type)).toContain('comparison');
});

it('the report is a PDF with the sheet, its changes and the brief, or a workbook with pictures', async () => {
  const { params, versionId } = await story();
  await architect.api.call(collectRequests, { params: { ...project.params, versionId } });
  const report = async (as: 'pdf' | 'xlsx') => {
    const { id } = await architect.api.call(startComparisonExport, { params, body: { as } });
    return made(architect.api, server.address, project.params.projectId, id);
  };
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const pdf = await getDocument({ data: new Uint8Array(await report('pdf')) }).promise;
  const words: string[] = [];
  for (let page = 1; page <= pdf.numPages; page++)
    words.push(
      (await (await pdf.getPage(page)).getTextContent()).items.map((item) => ('str' in item ? item.str : '')).join(' '),
    );
  const all = words.join('\n');
  expect(all).toContain('2 asked for and found · 1 missing · 1 not asked for');
  expect(all).toContain('Turn the stair');
  expect(all).toContain('Moved by 2.00 mm');
  expect(all).toContain('Sheet one of the boat hall');
  expect(all).toMatch(/→ \d/);

  const book = new ExcelJS.Workbook();
  await book.xlsx.load((await report('xlsx')) as never);
  const list = book.getWorksheet('Changes')!;
  expect([...(list.getColumn(3).values as Iterable<unknown>)].slice(2)).toEqual(
    expect.arrayContaining(['Moved by 2.00 mm', '“Store” → “Kit room”']),
  );
  expect(list.getImages()).toHaveLength(6);
  expect(book.getWorksheet('Brief')!.getColumn(4).values).toContain('Missing');
});

it('others get nothing of it until they get both versions', async () => {
  const { containerId, params, versionId, comparison } = await story();
  expect(await comparisonsOf(engineer.api, containerId)).toEqual([]);
  for (const operation of [showComparison, showBrief, cancelComparison] as const)
    expect(await refusal(engineer.api.call(operation, { params }))).toMatchObject({ status: 404 });
  const ask = { beforeId: comparison.before.id, afterId: comparison.after.id };
  expect(await refusal(engineer.api.call(askComparison, { params: project.params, body: ask }))).toMatchObject({
    status: 404,
  });
  const add = { requests: [{ text: 'Mine' }] };
  expect(
    await refusal(engineer.api.call(addRequests, { params: { ...project.params, versionId }, body: add })),
  ).toMatchObject({ status: 404 });
  await share(project, architect.api, containerId);
  // The newest one is shared; the one before it is work in progress still.
  expect(await comparisonsOf(engineer.api, containerId)).toEqual([]);
});

it('sheets that came and went; asked for by hand between any two versions; wrong ones refused in words', async () => {
  const file = nextFile();
  const first = await drawing(project, architect.api, await planPdf({ more: ['two', 'three'] }), file);
  await deliverFile(project, architect.api, DRAWINGS, file, await planPdf({ more: ['two'] }));
  await prepared(project, architect.api, first.containerId);
  await deliverFile(project, architect.api, DRAWINGS, file, await planPdf({ door: 5, more: ['two', 'three'] }));
  await prepared(project, architect.api, first.containerId);
  await compared(architect.api, first.containerId, 2);
  const [third, second] = await versionsOf(first.containerId);
  const [later, earlier] = await comparisonsOf(architect.api, first.containerId);
  expect([earlier!.removedSheets, later!.addedSheets]).toEqual([1, 1]);
  expect(earlier!.counts).toEqual(NO_CHANGES);

  const body = { beforeId: first.versionId, afterId: third!.id };
  const asked = await architect.api.call(askComparison, { params: project.params, body });
  const again = await architect.api.call(askComparison, { params: project.params, body });
  expect(again.comparison.id).toBe(asked.comparison.id);
  const all = await compared(architect.api, first.containerId, 3);
  expect(all[0]).toMatchObject({ counts: { moved: 1 }, addedSheets: 0, removedSheets: 0, sheets: 3 });

  const same = architect.api.call(askComparison, {
    params: project.params,
    body: { beforeId: second!.id, afterId: second!.id },
  });
  expect(await refusal(same)).toMatchObject({ code: 'one-version' });
  const text = await deliverFile(
    project,
    architect.api,
    DRAWINGS,
    nextFile().replace('.pdf', '.txt'),
    new TextEncoder().encode('no drawing'),
  );
  const wrong = architect.api.call(askComparison, {
    params: project.params,
    body: { beforeId: text.versionId, afterId: third!.id },
  });
  expect(await refusal(wrong)).toMatchObject({ code: 'not-comparable' });
  const ended = architect.api.call(cancelComparison, { params: { ...project.params, comparisonId: all[0]!.id } });
  expect(await refusal(ended)).toMatchObject({ code: 'comparison-ended' });
});

it('what was stopped goes on where it was', async () => {
  const { containerId, comparison, params } = await story();
  await server.platform.db.execute(sql`update comparisons set status = 'cancelled' where id = ${comparison.id}`);
  await server.platform.db.execute(
    sql`update compared_sheets set outcome = 'waiting', changes = '[]' where comparison_id = ${comparison.id}`,
  );
  const body = { beforeId: comparison.before.id, afterId: comparison.after.id };
  const { comparison: resumed } = await architect.api.call(askComparison, { params: project.params, body });
  expect(resumed.id).toBe(comparison.id);
  await compared(architect.api, containerId);
  expect((await architect.api.call(listSheetChanges, { params: { ...params, position: '1' } })).changes).toHaveLength(
    3,
  );
});

it('requests are typed, changed by whoever asked, and taken back', async () => {
  const { versionId } = await story();
  const params = { ...project.params, versionId };
  const body = {
    requests: [
      { text: 'Raise the gantry rail' },
      { text: 'Here', page: 1, place: [10, 10, 20, 20] as [number, number, number, number] },
    ],
  };
  const [first, second] = await colleague.api.call(addRequests, { params, body });
  expect(second).toMatchObject({ text: 'Here', page: 1, place: [10, 10, 20, 20], by: { name: 'Cleo Colleague' } });
  const at = { ...project.params, requestId: first!.id };
  const change = { edition: 1, text: 'Lower the gantry rail', page: 1 };
  expect(await colleague.api.call(changeRequest, { params: at, body: change })).toMatchObject({
    text: 'Lower the gantry rail',
    page: 1,
    edition: 2,
  });
  expect(await refusal(colleague.api.call(changeRequest, { params: at, body: change }))).toMatchObject({ status: 409 });
  await colleague.api.call(removeRequest, { params: at });
  expect(await refusal(colleague.api.call(removeRequest, { params: at }))).toMatchObject({ status: 404 });
});

it('an issue keeps pictures of before and after', async () => {
  const { comparison } = await story();
  const { default: sharp } = await import('sharp');
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#fff' } })
    .png()
    .toBuffer();
  const send = (name: string) => architect.api.upload(project.params.projectId, name, picture, undefined, 'issue');
  const pictures = [
    { uploadId: await send('before.png'), caption: 'Version 1' },
    { uploadId: await send('after.png'), caption: 'Version 2' },
  ];
  const issue = await architect.api.call(raiseIssue, {
    params: project.params,
    body: {
      title: 'Why?',
      type: 'question',
      priority: 'normal',
      pictures,
      place: { versionId: comparison.after.id, page: 1, x: 1, y: 1 },
    },
  });
  const params = { ...project.params, issueId: issue.id };
  const shown = await architect.api.call(showIssue, { params });
  expect(shown.pictures.map(({ caption }) => caption)).toEqual(['Version 1', 'Version 2']);
  const address = (person: ApiPerson) =>
    fetch(`${server.address}/api/projects/${project.params.projectId}/issues/${issue.id}/pictures/2`, {
      headers: person.headersForFiles(),
    });
  const sent = await address(architect.api);
  expect([sent.status, sent.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  expect((await address(engineer.api)).status).toBe(404);
  const wrong = await architect.api.upload(
    project.params.projectId,
    'no.png',
    new TextEncoder().encode('no picture'),
    undefined,
    'issue',
  );
  const refused = architect.api.call(raiseIssue, {
    params: project.params,
    body: {
      title: 'With a wrong picture',
      type: 'question',
      priority: 'normal',
      pictures: [{ uploadId: wrong, caption: '' }],
    },
  });
  expect(await refusal(refused)).toMatchObject({ code: 'no-picture' });
});
