/** The rest of the drawings: delivered, marked, carried to the next revision. */
import { collectRequests } from '@kindred/contract/compare/compare';
import * as markup from '@kindred/contract/markup/markup';
import { linkPlan } from '@kindred/contract/plan/plan-links';
import * as stamps from '@kindred/contract/markup/stamps';
import { toPlan } from '@kindred/core/plan/plan-map';
import { CREW, type Edition } from '../building/layout.ts';
import { STOREYS } from '../building/parts.ts';
import { furtherSheets, type FurtherSheet } from '../drawings/further-sheets.ts';
import { writeScan } from '../drawings/scan.ts';
import { planMapOf, writeSheet } from '../drawings/write-sheet.ts';
import type { FileToSend, Teller } from './teller.ts';

const AUTHORS: Record<FurtherSheet['team'], [surname: string, drawnBy: string]> = {
  Architecture: ['asantewa', 'L. Asantewa'],
  Structure: ['vossling', 'P. Vossling'],
  Services: ['haddingley', 'N. Haddingley'],
};
const TEAMS = Object.keys(AUTHORS) as FurtherSheet['team'][];
const SURVEY = 'ORP-TVA-ZZ-ZZ-D-A-0901';
const MODEL = 'ORP-TVA-ZZ-ZZ-M-A-0001';
const GROUND_FLOOR = 'ORP-TVA-CB-00-D-A-0111';
const UPPER_FLOOR = 'ORP-TVA-CB-01-D-A-0112';

async function deliverAll(story: Teller, edition: Edition, revision: string): Promise<void> {
  for (const team of TEAMS) {
    const [surname, drawnBy] = AUTHORS[team];
    const sheets = furtherSheets(edition).filter((sheet) => sheet.team === team);
    const files = await Promise.all(
      sheets.map(async ({ classification, ...sheet }): Promise<FileToSend> => ({
        ...{ code: sheet.number, title: sheet.title, classification, extension: '.pdf' },
        bytes: await writeSheet({ ...sheet, revision, status: 'S3', date: story.dayAfter(0), drawnBy }),
      })),
    );
    if (team === 'Architecture' && edition.number === 1)
      files.push({
        code: SURVEY,
        title: 'Survey of the old station, scan',
        classification: 'D-PLN',
        extension: '.pdf',
        bytes: await writeScan(),
      });
    await story.send(surname, `${team} / Drawings`, files, 'S3', revision);
    for (const { code } of files) await story.move(surname, code, 'share');
  }
}

export async function firstFurtherDrawings(story: Teller): Promise<void> {
  story.day(57, 15);
  await deliverAll(story, { number: 1 }, 'P01');
  await addStamps(story);
  await story.prepared();
  story.day(50, 10);
  await markUpperFloor(story);
  await markGroundFloor(story);
}

export async function secondFurtherDrawings(story: Teller): Promise<void> {
  story.day(27, 18);
  await deliverAll(story, { number: 2 }, 'P02');
  await linkPlans(story);
  await story.prepared();
  story.day(26, 11);
  await story.as('tolvik').call(collectRequests, {
    params: { ...story.project, versionId: story.version(GROUND_FLOOR, 1) },
  });
}

/** The plans of the crew building lie in the architects' model. */
async function linkPlans(story: Teller): Promise<void> {
  const [ground, upper, roof] = STOREYS;
  for (const [code, storey, above] of [
    [GROUND_FLOOR, ground!, upper!],
    [UPPER_FLOOR, upper!, roof!],
  ] as const) {
    const sheet = furtherSheets({ number: 2 }).find(({ number }) => number === code)!;
    await story.as('tolvik').call(linkPlan, {
      params: story.project,
      body: {
        ...{ containerId: story.container(code), page: 1, modelId: story.container(MODEL), storey: storey.name },
        ...{ elevation: storey.elevation, top: above.elevation, map: planMapOf(sheet), error: 0, pairs: [] },
      },
    });
  }
}

async function addStamps(story: Teller): Promise<void> {
  const add = (name: string, text: string, colour: string) =>
    story.as('tolvik').call(stamps.addStamp, {
      params: story.project,
      body: { name, text, colour, width: 190, height: 62, roleIds: [] },
    });
  await add('Checked', 'CHECKED\n{name}\n{date}', '#14706A');
  await add('Received', 'RECEIVED {date}\n{code} {revision}', '#3F6188');
  await add('Decision', '{decision}\n{name}, {date}', '#6B3F69');
}

/** Two questions to the architects: one is settled, the other goes along to P02. */
async function markUpperFloor(story: Teller): Promise<void> {
  const params = { ...story.project, versionId: story.version(UPPER_FLOOR, 1) };
  const idris = story.as('callowby');
  const draw = async (shape: markup.Markup['shape'], text: string, status: markup.Markup['status']) =>
    (await idris.call(markup.addMarkup, { params, body: { page: 1, shape, text, status } })).id;
  const ids = [
    await draw(
      {
        kind: 'cloud',
        points: [
          [800, 680],
          [890, 770],
        ],
      },
      'Column in the middle of the control room: can it go?',
      'ask',
    ),
    await draw(
      { kind: 'callout', target: [602, 790], box: [420, 1050, 250, 64] },
      'Which way does the door to the mess open?',
      'ask',
    ),
  ];
  const [open, settled] = await idris.call(markup.publishMarkups, { params, body: { markupIds: ids } });
  const at = (one: markup.Markup) => ({ ...story.project, markupId: one.id });
  const lil = story.as('asantewa');
  await idris.call(markup.changeMarkup, {
    params: at(open!),
    body: { edition: open!.edition, assigneeId: story.personId('asantewa'), dueOn: story.dayAfter(45) },
  });
  story.day(49, 9);
  await lil.call(markup.commentMarkup, {
    params: at(open!),
    body: { text: 'It carries the roof beam. I ask Petra for another way.' },
  });
  await lil.call(markup.commentMarkup, { params: at(settled!), body: { text: 'Inwards, as in the door schedule.' } });
  await lil.call(markup.changeMarkup, { params: at(settled!), body: { edition: settled!.edition, status: 'settled' } });
}

/** Three requests of which the next revision answers two. */
async function markGroundFloor(story: Teller): Promise<void> {
  const params = { ...story.project, versionId: story.version(GROUND_FLOOR, 1) };
  const idris = story.as('callowby');
  const map = planMapOf(furtherSheets({ number: 1 }).find(({ number }) => number === GROUND_FLOOR)!);
  const around = (x: number, y: number, width: number, height: number): markup.Markup['shape'] => ({
    kind: 'cloud',
    points: [toPlan(map, [CREW.x + x, y + height]), toPlan(map, [CREW.x + x + width, y])],
  });
  const requests = [
    ['The batteries stand here too: call it “Plant and batteries”', around(20.6, 7.2, 2.9, 1)],
    ['Write into the notes: “Stair turned round since P01.”', around(13.2, 6, 2.2, 3.4)],
    ['Floor drain: show where it lies, and its falls', around(1, 1.4, 2.6, 1.6)],
  ] as const;
  const ids: string[] = [];
  for (const [text, shape] of requests)
    ids.push((await idris.call(markup.addMarkup, { params, body: { page: 1, shape, text, status: 'act' } })).id);
  await idris.call(markup.publishMarkups, { params, body: { markupIds: ids } });
}
