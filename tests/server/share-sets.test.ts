/** Sheets read from title blocks, and share sets: what others get to see of what is shared. */
import { addRequests, changeRequest } from '@kindred/contract/compare/compare';
import { addViewpoint, listViewpoints } from '@kindred/contract/scene/scene';
import { confirmSheets, listSheetRegister, listSheets } from '@kindred/contract/drawing/drawing';
import {
  addMarkup,
  changeMarkup,
  listMarkups,
  publishMarkups,
  startMarkupSetExport,
} from '@kindred/contract/markup/markup';
import { listHistory, listRelated } from '@kindred/contract/things/things';
import { deliver, listContainers, moveStates, showContainer } from '@kindred/contract/register/register';
import { addShareSet, changeShareSet, listShareSets, removeShareSet } from '@kindred/contract/register/share-sets';
import { sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, prepared, refusal, until } from './harness.ts';
import { DRAWINGS, text, project, architect, engineer, threePeople, nextCode, fileOf } from './three-people.ts';

threePeople();

/** A PNG of one pixel. */
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==';
async function drawing(sheets: { number: string; title: string }[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const { number, title } of sheets) {
    const page = pdf.addPage([1190, 842]);
    const write = (words: string, x: number, y: number, size: number) => page.drawText(words, { x, y, size, font });
    write('Drawing title', 900, 120, 7);
    write(title, 900, 104, 14);
    write('Drawing No.', 900, 84, 7);
    write(number, 900, 66, 14);
    write('Rev', 1080, 84, 7);
    write('P01', 1080, 66, 14);
    write('Scale', 1130, 84, 7);
    write('1:50', 1130, 66, 14);
  }
  return pdf.save();
}

describe('sheets and share sets', () => {
  it('are read from title blocks, corrected, and only the chosen ones go to others', async () => {
    const code = nextCode();
    const sheets = [
      { number: 'A-101', title: 'Ground floor plan' },
      { number: 'A-102', title: 'First floor plan' },
      { number: 'A-103', title: 'Roof plan' },
    ];
    const { containerId, versionId } = await deliverFile(
      project,
      architect.api,
      DRAWINGS,
      `${code}.pdf`,
      await drawing(sheets),
    );
    await prepared(project, architect.api, containerId);
    const params = { ...project.params, versionId };
    const found = await architect.api.call(listSheets, { params });
    expect(
      found.map(({ number, title, revision, scale, confirmed }) => [number, title, revision, scale, confirmed]),
    ).toEqual(sheets.map(({ number, title }) => [number, title, 'P01', '1:50', false]));
    const corrected = found.map(({ page, number, title, revision, status, scale, date }) => ({
      page,
      number,
      title: page === 3 ? 'Plan of the roofs' : title,
      revision,
      status,
      scale,
      date,
    }));
    await architect.api.call(confirmSheets, { params, body: { sheets: corrected } });
    expect(
      (await architect.api.call(listSheetRegister, { params: project.params, query: { q: 'roofs' } })).items[0],
    ).toMatchObject({
      number: 'A-103',
      confirmed: true,
    });

    const set = await architect.api.call(addShareSet, {
      params: project.params,
      body: {
        teamId: project.teams.get('Architecture')!,
        name: 'For structure',
        sheetNumbers: ['A-102'],
        viewpointIds: [],
      },
    });
    expect(await engineer.api.call(listShareSets, { params: project.params })).toEqual([]);
    await architect.api.call(moveStates, {
      params: project.params,
      body: { containerIds: [containerId], action: 'share', shareSetId: set.id },
    });
    expect((await engineer.api.call(listSheets, { params })).map(({ number }) => number)).toEqual(['A-102']);
    expect(
      (await engineer.api.call(listSheetRegister, { params: project.params, query: { q: 'floor plan' } })).items,
    ).toHaveLength(1);
    expect(
      (await architect.api.call(listSheetRegister, { params: project.params, query: { q: 'floor plan' } })).items,
    ).toHaveLength(2);
    // Nor by sending the whole of it to oneself.
    const body = {
      title: 'All of it',
      reason: 'for information' as const,
      versionIds: [versionId],
      personIds: [engineer.id],
      partyIds: [],
      recipientsSeeEachOther: true,
    };
    const sending = await refusal(engineer.api.call(sendTransmittal, { params: project.params, body }));
    expect(sending.detail).toContain('in part only');
    // Nor by what somebody wrote on a sheet beside it.
    const mark = await architect.api.call(addMarkup, {
      params,
      body: { page: 1, shape: { kind: 'note', points: [[100, 100]] }, text: 'Not for them', status: 'ask' },
    });
    await architect.api.call(publishMarkups, { params, body: { markupIds: [mark.id] } });
    const copies = { as: 'xfdf' as const, containerIds: [containerId] };
    expect(
      await refusal(engineer.api.call(startMarkupSetExport, { params: project.params, body: copies })),
    ).toMatchObject({ code: 'no-markups' });
    let response = await fileOf(engineer.api, versionId);
    await until(async () => (response = await fileOf(engineer.api, versionId)).status !== 409);
    const shared = Buffer.from(await response.arrayBuffer());
    const original = Buffer.from(await (await fileOf(architect.api, versionId)).arrayBuffer());
    expect((await PDFDocument.load(shared)).getPageCount()).toBe(3);
    expect(shared.equals(original)).toBe(false);
    expect(
      await refusal(architect.api.call(removeShareSet, { params: { ...project.params, shareSetId: set.id } })),
    ).toMatchObject({
      code: 'share-set-used',
    });

    // The next version says the same in its title blocks: nobody has to look again, except where it says something else.
    const next = await deliverFile(
      project,
      architect.api,
      DRAWINGS,
      `${code}.pdf`,
      await drawing([sheets[0]!, sheets[1]!, { number: 'A-104', title: 'New' }]),
    );
    await prepared(project, architect.api, containerId);
    const again = await architect.api.call(listSheets, { params: { ...project.params, versionId: next.versionId } });
    expect(again.map(({ confirmed }) => confirmed)).toEqual([true, true, false]);
  });
});

it('what lies on sheets that others do not get stays with the team, and a share set chosen anew holds at once', async () => {
  const code = nextCode();
  const numbers = ['B-101', 'B-102', 'B-103'];
  const bytes = await drawing(numbers.map((number) => ({ number, title: `Plan ${number}` })));
  const { containerId, versionId } = await deliverFile(project, architect.api, DRAWINGS, `${code}.pdf`, bytes);
  await prepared(project, architect.api, containerId);
  const teamId = project.teams.get('Architecture')!;
  const wanted = { name: 'One sheet', sheetNumbers: ['B-102'], viewpointIds: [] };
  const set = await architect.api.call(addShareSet, { params: project.params, body: { teamId, ...wanted } });
  const body = { containerIds: [containerId], action: 'share' as const, shareSetId: set.id };
  await architect.api.call(moveStates, { params: project.params, body });

  const params = { ...project.params, versionId };
  const draw = (person: ApiPerson, page: number, words: string) => {
    const shape = {
      kind: 'rectangle' as const,
      points: [
        [10, 10],
        [90, 60],
      ] as [[number, number], [number, number]],
    };
    return person.call(addMarkup, { params, body: { page, shape, text: words, status: 'note' } });
  };
  const inside = await draw(architect.api, 1, 'the vault');
  const outside = await draw(architect.api, 2, 'the door');
  await architect.api.call(publishMarkups, { params, body: { markupIds: [inside.id, outside.id] } });

  const seenBy = async (person: ApiPerson) => ({
    markups: (await person.call(listMarkups, { params })).map((markup) => markup.text),
    related: (
      await person.call(listRelated, { params: project.params, query: { type: 'container', id: containerId } })
    ).items.flatMap(({ type, title }) => (type === 'markup' ? [title] : [])),
    sheets: (await person.call(showContainer, { params: { ...project.params, containerId } })).container.sheets,
    listed: (await person.call(listContainers, { params: project.params, query: { q: code } })).items[0]!.sheets,
  });
  expect(await seenBy(engineer.api)).toEqual({ markups: ['the door'], related: ['the door'], sheets: 1, listed: 1 });
  expect(await seenBy(architect.api)).toMatchObject({ markups: ['the vault', 'the door'], sheets: 3, listed: 3 });
  const whole = { type: 'markup', id: inside.id };
  expect(await refusal(engineer.api.call(listRelated, { params: project.params, query: whole }))).toMatchObject({
    status: 404,
  });
  expect(await refusal(draw(engineer.api, 1, 'not mine'))).toMatchObject({ status: 404 });
  const settle = {
    params: { ...project.params, markupId: inside.id },
    body: { edition: 2, status: 'settled' as const },
  };
  expect(await refusal(engineer.api.call(changeMarkup, settle))).toMatchObject({ status: 404 });

  // Nor do they hear of what was asked of those sheets.
  const asked = await architect.api.call(addRequests, {
    params,
    body: { requests: [1, 2].map((page) => ({ text: 'Widen it', page })) },
  });
  for (const { id: requestId, page, edition } of asked)
    await architect.api.call(changeRequest, {
      params: { ...project.params, requestId },
      body: { edition, text: page === 1 ? 'Widen the vault' : 'Widen the door' },
    });
  const heardBy = async (person: ApiPerson): Promise<string> =>
    JSON.stringify(
      await person.call(listHistory, { params: project.params, query: { type: 'version', id: versionId } }),
    );
  expect(await heardBy(architect.api)).toMatch(/Widen the door[^]*Widen the vault|Widen the vault[^]*Widen the door/);
  expect(await heardBy(engineer.api)).toContain('Widen the door');
  expect(await heardBy(engineer.api)).not.toContain('vault');

  // Others get no copy that shows too much: the old one goes at the moment of the change, the new one follows.
  const copyOf = async (): Promise<Buffer> => {
    let response: Response;
    await until(async () => (response = await fileOf(engineer.api, versionId)).status !== 409);
    expect(response!.ok).toBe(true);
    return Buffer.from(await response!.arrayBuffer());
  };
  const before = await copyOf();
  const again = { ...wanted, sheetNumbers: ['B-101', 'B-103'], edition: set.edition };
  await architect.api.call(changeShareSet, { params: { ...project.params, shareSetId: set.id }, body: again });
  expect(await seenBy(engineer.api)).toEqual({ markups: ['the vault'], related: ['the vault'], sheets: 2, listed: 2 });
  expect((await copyOf()).equals(before)).toBe(false);
  // A number that is corrected takes its sheet out of the choice.
  const rows = await architect.api.call(listSheets, { params });
  const sheets = rows.map(({ page, number, title, revision, status, scale, date }) => ({
    page,
    number: number === 'B-101' ? 'B-111' : number,
    title,
    revision,
    status,
    scale,
    date,
  }));
  await architect.api.call(confirmSheets, { params, body: { sheets } });
  expect(await seenBy(engineer.api)).toEqual({ markups: [], related: [], sheets: 1, listed: 1 });
});

it('a share set chooses viewpoints too: the others stay with the team', async () => {
  const models = project.folders.get('Architecture / Models')!;
  const code = 'ORP-TVA-ZZ-ZZ-M-A-8001';
  const uploadId = await architect.api.upload(project.projectId, `${code}.txt`, text('a model, as far as this goes'));
  const { files } = await architect.api.call(deliver, {
    params: project.params,
    body: { folderId: models, files: [{ uploadId, code }] },
  });
  const [{ containerId, versionId }] = files as [(typeof files)[number]];
  const picture = `data:image/png;base64,${PIXEL}`;
  const camera = { position: [0, 0, 1], target: [0, 0, 0], fieldOfView: 60 } as never;
  const state = { camera, sections: [], hidden: [], isolated: null, selection: [] };
  const save = (name: string) =>
    architect.api.call(addViewpoint, {
      params: project.params,
      body: { name, state, versionIds: [versionId], picture },
    });
  const [shown] = [await save('For all'), await save('For us')];
  const set = await architect.api.call(addShareSet, {
    params: project.params,
    body: {
      teamId: project.teams.get('Architecture')!,
      name: 'One viewpoint',
      sheetNumbers: [],
      viewpointIds: [shown!.id],
    },
  });
  await architect.api.call(moveStates, {
    params: project.params,
    body: { containerIds: [containerId], action: 'share', shareSetId: set.id },
  });
  const names = async (person: ApiPerson) =>
    (await person.call(listViewpoints, { params: project.params })).items.map(({ name }) => name).sort();
  expect(await names(architect.api)).toEqual(['For all', 'For us']);
  expect(await names(engineer.api)).toEqual(['For all']);
});
