/** What preparation keeps of sheets, and markups that leave with their drawing: for whoever gets the sheet. */
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import {
  confirmSheets,
  findWords,
  forgetTitleBlock,
  listSheets,
  listTaughtTitleBlocks,
  showVectors,
} from '@kindred/contract/drawing/drawing';
import {
  addMarkup,
  changeMarkup,
  listMarkups,
  publishMarkups,
  startMarkupExport,
} from '@kindred/contract/markup/markup';
import { listLongJobs } from '@kindred/contract/platform/jobs';
import { jump } from '@kindred/contract/things/things';
import { readAnnotations } from '@kindred/core/markup/annotations/read-pdf';
import { readXfdf } from '@kindred/core/markup/annotations/xfdf';
import { decodePage } from '@kindred/core/drawing/vectors/vectors-file';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import {
  deliverFile,
  prepared,
  refusal,
  share,
  testProject,
  testServer,
  type TestProject,
  type TestServer,
} from './harness.ts';

/** Each copy is made in a process of its own: a slow machine takes seconds to start one. */
vi.setConfig({ testTimeout: 400_000 });

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let engineer: ApiPerson;
let file: { containerId: string; versionId: string };

beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const words of ['Kit room', 'Plant room']) {
    const page = pdf.addPage([842, 595]);
    page.drawText(words, { x: 100, y: 300, font, size: 12 });
    page.drawLine({ start: { x: 50, y: 50 }, end: { x: 250, y: 50 } });
  }
  file = await deliverFile(project, author, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-D-A-0101.pdf', await pdf.save());
  await prepared(project, author, file.containerId);
});
afterAll(() => server.remove());

const vectors = (person: ApiPerson, page: number): Promise<Response> =>
  fetch(
    `${server.address}/api${showVectors.path.replace(':projectId', project.projectId).replace(':versionId', file.versionId).replace(':page', String(page))}`,
    { headers: person.headersForFiles() },
  );
const found = async (person: ApiPerson, q: string) =>
  (await person.call(findWords, { params: project.params, query: { q } })).items;

it('lines and words of a sheet are there for whoever gets it', async () => {
  const answer = await vectors(author, 2);
  const page = await decodePage(new Uint8Array(await answer.arrayBuffer()));
  expect([page.width, page.height]).toEqual([842, 595]);
  expect([...page.points]).toEqual([50, 545, 250, 545]);
  expect(page.texts.map(({ text }) => text)).toEqual(['Plant room']);
  expect((await vectors(author, 3)).status).toBe(404);
  expect((await vectors(engineer, 1)).status).toBe(404);
});

it('words are found with their sheet, by those who may see it', async () => {
  expect(await found(author, 'kit')).toMatchObject([{ page: 1, code: 'ORP-TVA-ZZ-00-D-A-0101', around: 'Kit room' }]);
  expect((await found(author, 'ROOM')).map(({ page }) => page).sort()).toEqual([1, 2]);
  expect(await found(author, 'room plant')).toHaveLength(1);
  expect(await found(author, '…')).toEqual([]);
  expect(await found(engineer, 'room')).toEqual([]);
  const hits = await author.call(jump, { params: project.params, query: { q: 'plant room' } });
  expect(hits.filter(({ type }) => type === 'sheet')).toHaveLength(1);
  await share(project, author, file.containerId);
  expect(await found(engineer, 'room')).toHaveLength(2);
  expect((await vectors(engineer, 1)).status).toBe(200);
});

it('a markup of any kind is kept as it was drawn, comes again under its id, and is measured', async () => {
  const params = { ...project.params, versionId: file.versionId };
  const id = crypto.randomUUID();
  const body = {
    id,
    page: 1,
    shape: {
      kind: 'area' as const,
      points: [
        [0, 0],
        [100, 0],
        [100, 100],
      ] as [number, number][],
    },
    text: '',
    status: 'note' as const,
    metresPerPoint: 0.1,
  };
  expect(await author.call(addMarkup, { params, body })).toMatchObject({
    id,
    shape: body.shape,
    metresPerPoint: 0.1,
    style: {},
  });
  expect(await refusal(author.call(addMarkup, { params, body }))).toMatchObject({ code: 'markup-there' });
  const style = { colour: '#112233', width: 3, filled: false, opacity: 0.5 };
  const changed = await author.call(changeMarkup, {
    params: { ...project.params, markupId: id },
    body: { edition: 1, style },
  });
  expect(changed).toMatchObject({ style, edition: 2 });
  expect(await engineer.call(listMarkups, { params })).toEqual([]);
});

it('published markups leave with the drawing, drafts stay', async () => {
  const params = { ...project.params, versionId: file.versionId };
  const shape = {
    kind: 'rectangle' as const,
    points: [
      [10, 20],
      [60, 80],
    ] as [[number, number], [number, number]],
  };
  const one = await author.call(addMarkup, { params, body: { page: 2, shape, text: 'Widen the door', status: 'act' } });
  const [area] = await author.call(listMarkups, { params });
  await author.call(publishMarkups, { params, body: { markupIds: [one.id, area!.id] } });
  await author.call(addMarkup, { params, body: { page: 2, shape, text: 'Only mine', status: 'ask' } });
  const made = async (as: 'pdf' | 'flattened pdf' | 'xfdf', page?: number): Promise<Uint8Array> => {
    const { id } = await engineer.call(startMarkupExport, { params, body: { as, ...(page && { page }) } });
    await vi.waitFor(
      async () => {
        const jobs = await engineer.call(listLongJobs, { params: project.params });
        expect(jobs.find((job) => job.id === id)).toMatchObject({ status: 'done', note: '' });
      },
      { timeout: 60_000, interval: 100 },
    );
    const answer = await fetch(`${server.address}/api/projects/${project.projectId}/jobs/${id}/file`, {
      headers: engineer.headersForFiles(),
    });
    return new Uint8Array(await answer.arrayBuffer());
  };
  const pages = await readAnnotations(await made('pdf'));
  expect(
    pages.map(({ annotations }) => annotations.map(({ contents, status, box }) => [contents, status, box])),
  ).toEqual([
    [[expect.stringContaining('50.00 m²'), 'note', expect.anything()]],
    [['Widen the door', 'act', [10, 515, 60, 575]]],
  ]);
  expect((await readAnnotations(await made('flattened pdf'))).flatMap(({ annotations }) => annotations)).toEqual([]);
  const { marks } = readXfdf(new TextDecoder().decode(await made('xfdf', 2)));
  expect(marks.map(({ id }) => id)).toEqual([one.id]);
});

it('a title block that was corrected once is read so from then on, until it is forgotten', async () => {
  /** No label tells what is what. */
  const block = async (number: string, title: string): Promise<Uint8Array> => {
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont(StandardFonts.Helvetica);
    const page = pdf.addPage([842, 595]);
    for (const [words, x, y, size] of [
      ['Ingenieure am Deich', 540, 90, 10],
      ['Werk 3', 540, 70, 10],
      ['gepr.', 720, 70, 6],
      [title, 540, 50, 10],
      [number, 540, 30, 12],
    ] as const)
      page.drawText(words, { x, y, font, size });
    return pdf.save();
  };
  const send = async (code: string, number: string, title: string) => {
    const bytes = await block(number, title);
    const { containerId, versionId } = await deliverFile(
      project,
      author,
      'Architecture / Drawings',
      `${code}.pdf`,
      bytes,
    );
    await prepared(project, author, containerId);
    const params = { ...project.params, versionId };
    return { params, sheets: await author.call(listSheets, { params }) };
  };
  const first = await send('ORP-TVA-ZZ-00-D-A-0711', 'W3/4711', 'Plattform');
  const corrected = { page: 1, number: 'W3/4711', title: 'Plattform', revision: '', status: '', scale: '', date: '' };
  await author.call(confirmSheets, { params: first.params, body: { sheets: [corrected] } });
  const taught = await author.call(listTaughtTitleBlocks, { params: project.params });
  expect(taught).toMatchObject([{ sheet: 'W3/4711 Plattform', taughtBy: 'Ann Author' }]);
  expect(taught[0]!.words).toContain('ingenieure am deich');
  expect((await send('ORP-TVA-ZZ-00-D-A-0712', 'W3/4712', 'Treppe Nord')).sheets).toMatchObject([
    { number: 'W3/4712', title: 'Treppe Nord' },
  ]);
  await author.call(forgetTitleBlock, { params: { ...project.params, layoutId: taught[0]!.id } });
  expect(await author.call(listTaughtTitleBlocks, { params: project.params })).toEqual([]);
});
