/** What teams deliver to each other and take of each other: who is up to date, who is behind, and two versions of one plan. */
import { confirmSheets, listSheets } from '@kindred/contract/drawing/drawing';
import { listPeople } from '@kindred/contract/people/people';
import { deliver, listContainers, reserveContainers } from '@kindred/contract/register/register';
import { addShareSet } from '@kindred/contract/register/share-sets';
import { addSavedView } from '@kindred/contract/register/views';
import { Buffer } from 'node:buffer';
import { PDFDocument } from '@cantoo/pdf-lib';
import { stationSheets } from '../drawings/station-sheets.ts';
import { writeSheet } from '../drawings/write-sheet.ts';
import type { Teller } from './teller.ts';

const MODELS = {
  architecture: 'ORP-TVA-ZZ-ZZ-M-A-0001',
  structure: 'ORP-HQS-ZZ-ZZ-M-S-0001',
  services: 'ORP-BWS-ZZ-ZZ-M-M-0001',
};
const PLANS = ['ORP-TVA-ZZ-00-D-A-0101', 'ORP-TVA-CB-01-D-A-0102'];
const PLAN_SET = 'ORP-TVA-ZZ-ZZ-D-A-0190';
const SCHEDULE = 'ORP-BWS-CB-00-L-M-0301';

/** Others went on with the first versions for a while; the second ones come when their teams let them go. */
export async function shareSecondVersions(story: Teller): Promise<void> {
  story.day(45, 14);
  await take(story, 'callowby', MODELS.architecture, 1);
  await take(story, 'marlowe-tait', MODELS.architecture, 1);
  await take(story, 'marlowe-tait', MODELS.structure, 1);
  await take(story, 'ferreby', MODELS.structure, 1);
  await take(story, 'ferreby', MODELS.services, 1);
  await take(story, 'callowby', PLANS[0]!, 1);
  story.day(26, 10);
  await story.move('ferreby', MODELS.architecture, 'share');
  await story.move('vossling', MODELS.structure, 'share');
  await story.move('haddingley', MODELS.services, 'share');
  for (const { number } of stationSheets({ number: 2 })) await story.move('asantewa', number, 'share');
  story.day(25, 11);
  await take(story, 'callowby', MODELS.architecture, 3);
  await take(story, 'ferreby', MODELS.structure, 3);
}

/** The last weeks: a set of sheets of which others see two, a list that is still private, a plan that was delivered twice. */
export async function lastWeeks(story: Teller): Promise<void> {
  await confirmPlans(story);
  story.day(12, 15);
  await story.send('asantewa', 'Architecture / Drawings', [await planSet(story)], 'S3', 'P01');
  await story.prepared();
  await sharePlanSet(story);
  story.day(6, 9);
  await story.send('haddingley', 'Services / Drawings', [ductSchedule()], 'S0', 'P01');
  await twiceDelivered(story);
  await savedViews(story);
}

async function confirmPlans(story: Teller): Promise<void> {
  await story.prepared();
  story.day(20, 10);
  const lil = story.as('asantewa');
  for (const { number } of stationSheets({ number: 2 })) {
    const params = { ...story.project, versionId: story.version(number, 2) };
    const found = await lil.call(listSheets, { params });
    const sheets = found.map(({ page, number: read, title, revision, status, scale, date }) => ({
      page,
      number: read,
      title,
      revision,
      status,
      scale,
      date,
    }));
    await lil.call(confirmSheets, { params, body: { sheets } });
  }
}

async function planSet(story: Teller) {
  const set = await PDFDocument.create();
  for (const [i, sheet] of stationSheets({ number: 2 }).entries()) {
    const number = `A-${190 + i + 1}`;
    const date = story.dayAfter(0);
    const bytes = await writeSheet({ ...sheet, number, revision: 'P01', status: 'S3', date, drawnBy: 'L. Asantewa' });
    const [page] = await set.copyPages(await PDFDocument.load(bytes), [0]);
    set.addPage(page);
  }
  return {
    code: PLAN_SET,
    title: 'Plan set for the services',
    classification: 'D-PLN',
    extension: '.pdf',
    bytes: await set.save(),
  };
}

async function sharePlanSet(story: Teller): Promise<void> {
  const lil = story.as('asantewa');
  const { teams } = await story.as('tolvik').call(listPeople, { params: story.project });
  const set = await lil.call(addShareSet, {
    params: story.project,
    body: {
      teamId: teams.find(({ name }) => name === 'Architecture')!.id,
      name: 'Plans for the services',
      sheetNumbers: ['A-191', 'A-192'],
      viewpointIds: [],
    },
  });
  await story.move('asantewa', PLAN_SET, 'share', set.id);
  await take(story, 'marlowe-tait', PLANS[0]!, 1);
}

function ductSchedule() {
  const rows = [
    'Tag,From,To,Size,Air m3/h',
    'D-01,Plant room,Mess,400x250,960',
    'D-02,Plant room,Training room,400x250,1020',
    'D-03,Plant room,Drying room,300x200,640',
  ];
  return {
    code: SCHEDULE,
    title: 'Duct schedule',
    classification: 'D-PLN',
    extension: '.csv',
    bytes: Buffer.from(`${rows.join('\r\n')}\r\n`),
  };
}

/** Lil has reserved the ground floor plan; Jonas, who did not look, delivers over it. */
async function twiceDelivered(story: Teller): Promise<void> {
  story.day(4, 9);
  const { items } = await story.as('asantewa').call(listContainers, { params: story.project, query: { q: PLANS[1]! } });
  await story.as('asantewa').call(reserveContainers, {
    params: story.project,
    body: { containerIds: [items[0]!.id], reserve: true },
  });
  story.day(3, 16);
  const jonas = story.as('ferreby');
  const sheet = stationSheets({ number: 2 }).find(({ number }) => number === PLANS[1])!;
  const bytes = await writeSheet({
    ...sheet,
    revision: 'P02.1',
    status: 'S3',
    date: story.dayAfter(0),
    drawnBy: 'J. Ferreby',
  });
  const uploadId = await jonas.upload(story.project.projectId, `${PLANS[1]}.pdf`, bytes);
  await jonas.call(deliver, {
    params: story.project,
    body: {
      folderId: items[0]!.folderId,
      files: [{ uploadId, code: PLANS[1]!, revision: 'P02.1', onto: 2, description: 'Door of the control room moved' }],
    },
  });
}

async function savedViews(story: Teller): Promise<void> {
  const columns = ['version', 'revision', 'status', 'state', 'team', 'delivered'];
  const maren = story.as('tolvik');
  await maren.call(addSavedView, {
    params: story.project,
    body: {
      list: 'register',
      name: 'Drawings by status',
      forAll: true,
      definition: { filters: { kind: 'drawing' }, columns, groupBy: 'status' },
    },
  });
  await maren.call(addSavedView, {
    params: story.project,
    body: {
      list: 'register',
      name: 'Still private',
      forAll: false,
      definition: { filters: { state: 'work in progress' }, columns: [...columns, 'reserved'], groupBy: 'teamId' },
    },
  });
}

/** Somebody downloads a version of another team, to work with. */
async function take(story: Teller, surname: string, code: string, version: number): Promise<void> {
  const { projectId } = story.project;
  const address = `${story.address}/api/projects/${projectId}/versions/${story.version(code, version)}/file`;
  const response = await fetch(address, { headers: story.as(surname).headersForFiles() });
  if (!response.ok) throw new Error(`${surname} cannot take version ${version} of ${code}: ${response.status}`);
  await response.arrayBuffer();
}
