/** Markups go out, are answered in another program, and come back to where they belong. */
import { PDFDict, PDFDocument, PDFHexString, PDFName, PDFString, type PDFArray, type PDFRef } from '@cantoo/pdf-lib';
import { showMarkupImport, startMarkupImport, takeMarkups, type FoundMarkup } from '@kindred/contract/markup/import';
import { addMarkup, changeMarkup, listMarkups, showMarkup, type Markup } from '@kindred/contract/markup/markup';
import { addStamp, changeStamp, listStamps, removeStamp } from '@kindred/contract/markup/stamps';
import ExcelJS from '@protobi/exceljs';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';
import { cloud, drawing, ended, exported, publish, sheetsPdf } from './markup-table.ts';

/** Each file is read in a process of its own: a slow machine takes seconds to start one. */
vi.setConfig({ testTimeout: 400_000 });

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let engineer: ApiPerson;
let params: { projectId: string; versionId: string };
let ask: Markup;
let area: Markup;

beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
  const file = await drawing(project, author);
  await share(project, author, file.containerId);
  params = { ...project.params, versionId: file.versionId };
  ask = await publish(engineer, params, { status: 'ask' });
  const ring: [number, number][] = [
    [300, 300],
    [400, 300],
    [400, 400],
  ];
  area = await publish(engineer, params, {
    text: '',
    status: 'note',
    page: 2,
    shape: { kind: 'area', points: ring },
    metresPerPoint: 0.1,
  });
});
afterAll(() => server.remove());

const send = (person: ApiPerson, name: string, bytes: Uint8Array): Promise<string> =>
  person.upload(project.projectId, name, bytes, undefined, 'markup');

async function brought(person: ApiPerson, name: string, bytes: Uint8Array) {
  const uploadId = await send(person, name, bytes);
  const { id: jobId } = await person.call(startMarkupImport, { params, body: { uploadId } });
  await ended(person, project.projectId, jobId);
  const at = { ...project.params, jobId };
  return { at, ...(await person.call(showMarkupImport, { params: at })) };
}
const takeAll = (found: readonly FoundMarkup[], side: 'theirs' | 'ours' = 'theirs') => ({
  take: found.map(({ key }) => ({ key, side })),
});

/** Another program at work on a PDF. */
async function elsewhere(bytes: Uint8Array, work: (one: Elsewhere) => void): Promise<Uint8Array> {
  const pdf = await PDFDocument.load(bytes);
  const annots = (page: number): PDFArray => pdf.getPage(page - 1).node.Annots()!;
  const refOf = (page: number, id: string): PDFRef => {
    const list = annots(page);
    for (let i = 0; i < list.size(); i++)
      if ((list.lookup(i, PDFDict).lookup(PDFName.of('NM')) as PDFHexString | undefined)?.decodeText() === id)
        return list.get(i) as PDFRef;
    throw new Error(`no ${id}`);
  };
  const add = (page: number, entries: object): void =>
    annots(page).push(pdf.context.register(pdf.context.obj({ Type: 'Annot', ...entries } as never)));
  work({
    dict: (page, id) => pdf.context.lookup(refOf(page, id), PDFDict),
    refOf,
    add,
    answer: (page, id, nm, words, state) =>
      add(page, {
        ...{
          Subtype: 'Text',
          Rect: [0, 0, 20, 20],
          NM: PDFString.of(nm),
          T: PDFString.of('Tom Draughtsman'),
          M: PDFString.of('D:20261125120000Z'),
        },
        ...{ IRT: refOf(page, id), RT: PDFName.of('R'), ...(words && { Contents: PDFHexString.fromText(words) }) },
        ...(state && { State: PDFString.of(state), StateModel: PDFString.of('Review') }),
      }),
  });
  return pdf.save();
}
interface Elsewhere {
  dict(page: number, id: string): PDFDict;
  refOf(page: number, id: string): PDFRef;
  add(page: number, entries: object): void;
  answer(page: number, id: string, nm: string, words: string, state?: string): void;
}

describe('a PDF that comes back', () => {
  /** As it was taken along once. */
  let out: Uint8Array;

  it('as it went says nothing new', async () => {
    out = await exported(engineer, server.address, params, { as: 'pdf' });
    const { found, missing, left } = await brought(author, 'back.pdf', out);
    expect(found.map(({ found: what }) => what)).toEqual(['same', 'same']);
    expect([missing, left]).toEqual([0, 0]);
  });

  it('answered: status and reply are on the same markup, a new one beside it; twice changes nothing', async () => {
    const answered = await elsewhere(out, ({ answer, add }) => {
      answer(1, ask.id, 'r1', 'Widened to 1,010 – see detail 4');
      answer(1, ask.id, 'r2', '', 'Completed');
      add(2, {
        Subtype: 'Square',
        Rect: [10, 10, 110, 60],
        NM: PDFString.of('theirs-1'),
        T: PDFString.of('Tom Draughtsman'),
        Contents: PDFString.of('Also moved'),
        C: [1, 0, 0],
      });
    });
    const { at, found } = await brought(author, 'answered.pdf', answered);
    expect(found).toMatchObject([
      {
        found: 'answered',
        parts: ['status'],
        ours: { id: ask.id, status: 'ask' },
        theirs: { status: 'settled' },
        answers: [{ author: 'Tom Draughtsman', text: 'Widened to 1,010 – see detail 4' }],
      },
      { found: 'same' },
      {
        found: 'new',
        page: 2,
        author: 'Tom Draughtsman',
        theirs: { text: 'Also moved', shape: { kind: 'rectangle' } },
      },
    ]);
    expect(await refusal(engineer.call(showMarkupImport, { params: at }))).toMatchObject({ status: 404 });
    expect(await author.call(takeMarkups, { params: at, body: takeAll(found) })).toEqual({
      added: 1,
      changed: 1,
      answers: 1,
    });
    const after = await engineer.call(showMarkup, { params: { ...project.params, markupId: ask.id } });
    expect(after).toMatchObject({
      markup: { status: 'settled', text: 'Widen the door' },
      comments: [
        { text: 'Widened to 1,010 – see detail 4', writtenBy: 'Tom Draughtsman', author: { name: 'Ann Author' } },
      ],
    });
    expect(after.editions.at(-1)).toMatchObject({ status: 'settled', writtenBy: 'Tom Draughtsman' });
    const list = await engineer.call(listMarkups, { params });
    expect(list.at(-1)).toMatchObject({
      writtenBy: 'Tom Draughtsman',
      draft: false,
      text: 'Also moved',
      style: { colour: '#ff0000' },
    });

    const again = await brought(author, 'answered.pdf', answered);
    expect(new Set(again.found.map(({ found: what }) => what))).toEqual(new Set(['same']));
    expect(await author.call(takeMarkups, { params: again.at, body: takeAll(again.found) })).toEqual({
      added: 0,
      changed: 0,
      answers: 0,
    });
    expect(await engineer.call(listMarkups, { params })).toHaveLength(list.length);
  });

  it('changed on both sides: shown side by side, taken as chosen, by whoever may', async () => {
    const changed = await elsewhere(out, ({ dict }) =>
      dict(1, ask.id).set(PDFName.of('Contents'), PDFString.of('Not possible')),
    );
    const now = (await engineer.call(listMarkups, { params })).find(({ id }) => id === ask.id)!;
    await engineer.call(changeMarkup, {
      params: { ...project.params, markupId: ask.id },
      body: { edition: now.edition, text: 'Widen the door to 1.0 m' },
    });
    const theirs = (list: FoundMarkup[]) => list.find(({ ours }) => ours?.id === ask.id)!;
    // Ann may not change Eve's words.
    expect(theirs((await brought(author, 'changed.pdf', changed)).found)).toMatchObject({ found: 'same', parts: [] });
    const { at, found } = await brought(engineer, 'changed.pdf', changed);
    expect(theirs(found)).toMatchObject({
      found: 'conflict',
      conflicts: ['text'],
      theirs: { text: 'Not possible' },
      ours: { text: 'Widen the door to 1.0 m' },
    });
    expect(await engineer.call(takeMarkups, { params: at, body: takeAll([theirs(found)], 'ours') })).toMatchObject({
      changed: 0,
    });
    expect(await engineer.call(takeMarkups, { params: at, body: takeAll([theirs(found)]) })).toMatchObject({
      changed: 1,
    });
    const after = (await engineer.call(listMarkups, { params })).find(({ id }) => id === ask.id)!;
    expect(after).toMatchObject({ text: 'Not possible', number: ask.number });
  });

  it('measures stay what they are, and are measured anew where they were moved', async () => {
    const stretched = await elsewhere(out, ({ dict }) => {
      const ring = [300, 295, 500, 295, 500, 195];
      dict(2, area.id).set(PDFName.of('Vertices'), dict(2, area.id).context.obj(ring));
    });
    const { at, found } = await brought(engineer, 'stretched.pdf', stretched);
    const one = found.find(({ ours }) => ours?.id === area.id)!;
    expect(one).toMatchObject({ found: 'changed', parts: ['shape'], theirs: { text: '', shape: { kind: 'area' } } });
    await engineer.call(takeMarkups, { params: at, body: takeAll([one]) });
    const after = (await engineer.call(listMarkups, { params })).find(({ id }) => id === area.id)!;
    expect(after).toMatchObject({
      metresPerPoint: 0.1,
      shape: {
        kind: 'area',
        points: [
          [300, 300],
          [500, 300],
          [500, 400],
        ],
      },
    });
  });
});

it('XFDF comes back onto the same pages; entities and what is no markup are refused in words', async () => {
  const xfdf = new TextDecoder().decode(await exported(engineer, server.address, params, { as: 'xfdf' }));
  expect(
    (await brought(author, 'back.xfdf', new TextEncoder().encode(xfdf))).found.every(({ found }) => found === 'same'),
  ).toBe(true);
  const reply = `<text page="0" rect="0,0,1,1" name="x9" title="Zoe" inreplyto="${ask.id}" replyType="reply"><contents>From XFDF</contents></text>`;
  const beyond = '<square page="77" rect="0,0,10,10" name="far"/>';
  const { found, left } = await brought(
    author,
    'zoe.xfdf',
    new TextEncoder().encode(xfdf.replace('</annots>', `${reply}${beyond}</annots>`)),
  );
  expect(found.find(({ ours }) => ours?.id === ask.id)).toMatchObject({
    found: 'answered',
    answers: [{ author: 'Zoe', text: 'From XFDF' }],
  });
  expect(left).toBe(1);
  for (const [name, content] of [
    ['evil.xfdf', '<!DOCTYPE x [<!ENTITY a "b">]><xfdf xmlns="http://ns.adobe.com/xfdf/"><annots/></xfdf>'],
    ['text.pdf', '%PDF-1.7 nothing of the kind'],
  ] as const) {
    const uploadId = await send(author, name, new TextEncoder().encode(content));
    const { id } = await author.call(startMarkupImport, { params, body: { uploadId } });
    expect(await ended(author, project.projectId, id, 'failed')).toContain('Nothing was changed');
  }
  const waiting = await send(engineer, 'eve.pdf', await sheetsPdf());
  expect(await refusal(author.call(startMarkupImport, { params, body: { uploadId: waiting } }))).toMatchObject({
    code: 'upload-incomplete',
  });
});

describe('photos and stamps', () => {
  const photo = async () =>
    sharp({ create: { width: 400, height: 300, channels: 3, background: '#884422' } })
      .withExif({ IFD0: { Artist: 'Somebody' } })
      .jpeg()
      .toBuffer();
  const picture = (id: string, what = 'markups') =>
    fetch(`${server.address}/api/projects/${project.projectId}/${what}/${id}/picture`, {
      headers: engineer.headersForFiles(),
    });

  it('a photo has a place, is made anew, and leaves in the PDF', async () => {
    const uploadId = await send(engineer, 'site.jpg', await photo());
    const one = await publish(engineer, params, {
      text: 'As built',
      shape: { kind: 'photo', box: [500, 100, 120, 90] },
      uploadId,
    });
    expect(one.picture).toBe(true);
    const bytes = Buffer.from(await (await picture(one.id)).arrayBuffer());
    const made = await sharp(bytes).metadata();
    expect([made.format, made.width, made.exif]).toEqual(['jpeg', 400, undefined]);
    const out = await PDFDocument.load(await exported(engineer, server.address, params, { as: 'pdf', page: 1 }));
    expect(
      [...out.context.enumerateIndirectObjects()].filter(([, object]) => String(object).includes('/DCTDecode')),
    ).toHaveLength(1);
    const text = await send(engineer, 'no.jpg', new TextEncoder().encode('no picture'));
    expect(await refusal(engineer.call(addMarkup, { params, body: cloud({ uploadId: text }) }))).toMatchObject({
      code: 'no-picture',
    });
  });

  it('an SVG stamp is drawn: its scripts and links stay behind', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="80"><script>alert(1)</script><image href="file:///etc/passwd" width="9" height="9"/><rect width="200" height="80" fill="#006600"/></svg>';
    const { founder } = project;
    const uploadId = await send(founder, 'stamp.svg', new TextEncoder().encode(svg));
    const base = { name: 'Seen', text: '', colour: '#006600', width: 160, height: 64, roleIds: [] };
    const stamp = await founder.call(addStamp, { params: project.params, body: { ...base, uploadId } });
    const bytes = Buffer.from(await (await picture(stamp.id, 'stamps')).arrayBuffer());
    expect(await sharp(bytes).metadata()).toMatchObject({ format: 'png', width: 1600 });
    expect(bytes.includes('script')).toBe(false);
    expect(
      await refusal(founder.call(addStamp, { params: project.params, body: { ...base, name: 'SEEN', text: 'x' } })),
    ).toMatchObject({ code: 'name-taken' });
    expect(
      await refusal(founder.call(addStamp, { params: project.params, body: { ...base, name: 'Nothing' } })),
    ).toMatchObject({ code: 'empty-stamp' });
  });

  it('is placed by those whose roles are among its own', async () => {
    const { founder, roles } = project;
    const [seen] = await founder.call(listStamps, { params: project.params });
    const placed = { params, body: cloud({ shape: { kind: 'stamp', box: [0, 0, 160, 64] }, stampId: seen!.id }) };
    expect(await engineer.call(addMarkup, placed)).toMatchObject({ picture: true });
    const at = { ...project.params, stampId: seen!.id };
    await founder.call(changeStamp, {
      params: at,
      body: { edition: 1, roleIds: [roles.get('Reviewer') ?? [...roles.values()][0]!] },
    });
    expect((await engineer.call(listStamps, { params: project.params }))[0]).toMatchObject({ mine: false });
    expect(await refusal(engineer.call(addMarkup, placed))).toMatchObject({ status: 403 });
    await founder.call(removeStamp, { params: at });
    expect(await engineer.call(listStamps, { params: project.params })).toEqual([]);
  });
});

it('the list is a workbook with a picture of each place, and sums', async () => {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load((await exported(engineer, server.address, params, { as: 'xlsx' })) as never);
  const sheet = book.getWorksheet('Markups')!;
  const all = (await engineer.call(listMarkups, { params })).filter(({ draft }) => !draft);
  expect(sheet.rowCount).toBe(all.length + 1);
  expect(sheet.getImages()).toHaveLength(all.length);
  expect(sheet.getRow(2).getCell(11).value).toContain('Tom Draughtsman: Widened to 1,010');
  expect(book.getWorksheet('Measures together')!.getRow(2).values).toEqual([undefined, 'Area', '', 1, 100, 'm²']);
});
