/** What is asked and answered: viewpoints, issues, markups. */
import * as drawing from '@kindred/contract/drawing/drawing';
import { commentIssue } from '@kindred/contract/issues/comments';
import * as issues from '@kindred/contract/issues/issues';
import * as issueSettings from '@kindred/contract/issues/settings';
import * as markup from '@kindred/contract/markup/markup';
import * as scene from '@kindred/contract/scene/scene';
import { Buffer } from 'node:buffer';
import { CREW } from '../building/layout.ts';
import { MODELS, elementId } from './station-files.ts';
import type { Teller } from './teller.ts';

export async function questions(story: Teller): Promise<void> {
  await story.prepared();
  story.day(26);
  const at = (
    position: [number, number, number],
    target: [number, number, number],
    selection: string[],
  ): scene.ViewpointState => ({
    camera: { position, target, fieldOfView: 50 },
    sections: [],
    hidden: [],
    isolated: null,
    selection,
  });
  const duct = await addViewpoint(
    story,
    'tolvik',
    'Upper main duct at beam 13',
    [2, 1],
    at([CREW.x + 16, -6, 15], [CREW.x + 12, 4.4, 11.2], [elementId(2, 'DU-1S-10'), elementId(1, 'CB-1-2')]),
  );
  const plate = await addViewpoint(
    story,
    'tolvik',
    'Column 4N without base plate',
    [1],
    at([22, 18.5, 6.4], [18, 14, 4.4], [elementId(1, 'COL-4N')]),
  );
  const wall = await addViewpoint(
    story,
    'tolvik',
    'Partition beside the kit room',
    [0],
    at([CREW.x + 14, -9, 14], [CREW.x + 8.6, 2, 5], [elementId(0, 'P-00-2A')]),
  );
  const raise = async (surname: string, body: (typeof issues.raiseIssue)['body']['static']) =>
    (await story.as(surname).call(issues.raiseIssue, { params: story.project, body })).id;
  const ductIssue = await raise('tolvik', {
    title: 'Main duct runs through the beams of the upper floor',
    description:
      'Since version 2 the supply duct lies 220 mm lower than the beams allow, on the whole length. Was it lowered for the ceiling?',
    type: 'clash',
    priority: 'blocking',
    responsible: { kind: 'person', id: story.personId('haddingley') },
    dueOn: story.dayAfter(10),
    viewpointId: duct,
  });
  const plateIssue = await raise('tolvik', {
    title: 'Base plate missing under column 4N',
    description: 'Bolts are gone too. It was there in version 1.',
    type: 'defect',
    priority: 'high',
    responsible: { kind: 'person', id: story.personId('vossling') },
    dueOn: story.dayAfter(32),
    viewpointId: plate,
  });
  await raise('callowby', {
    title: 'Who moved the partition by 30 mm?',
    description: 'Nothing in the change notes of P02 asks for it.',
    type: 'question',
    priority: 'normal',
    responsible: { kind: 'person', id: story.personId('ferreby') },
    dueOn: story.dayAfter(29),
    viewpointId: wall,
  });
  const plan = 'ORP-TVA-ZZ-00-D-A-0101';
  await raise('okafield', {
    title: 'Door to the drying room: which side do the hinges go?',
    type: 'question',
    priority: 'low',
    responsible: { kind: 'person', id: story.personId('asantewa') },
    viewpointId: null,
    place: { versionId: story.version(plan, 2), page: 1, x: 1487, y: 751 },
  });
  story.day(24, 13);
  const ductParams = { ...story.project, issueId: ductIssue };
  await story.as('haddingley').call(commentIssue, {
    params: ductParams,
    body: {
      text: 'The ceiling was lowered in the training room; I can go back to +11.00 if the lights move to the side.',
    },
  });
  await story.as('haddingley').call(issues.changeIssue, {
    params: ductParams,
    body: { edition: 1, action: 'take in hand', reason: 'Checking with the ceiling layout.' },
  });
  story.day(20);
  const plateParams = { ...story.project, issueId: plateIssue };
  await story.as('vossling').call(commentIssue, {
    params: plateParams,
    body: { text: 'Lost when the frame was copied. It comes back with version 3.' },
  });
  await story.as('vossling').call(issues.changeIssue, {
    params: plateParams,
    body: { edition: 1, action: 'answer', reason: 'Will be in version 3.' },
  });
  await drawMarkups(story, plan);
  await moreQuestions(story, plan);
}

/** What was asked and closed meanwhile, in the words that the project has decided on. */
async function moreQuestions(story: Teller, plan: string): Promise<void> {
  const { project } = story;
  story.day(18);
  const maren = story.as('tolvik');
  const { settings, edition } = await maren.call(issueSettings.showIssueSettings, { params: project });
  settings.labels = ['fire safety', 'openings', 'setting out', 'cost'];
  const defect = settings.types.find(({ name }) => name === 'defect')!;
  defect.steps.close = { by: ['raiser', 'verifier'], reason: false, proof: false };
  settings.types.find(({ name }) => name === 'request')!.answerDays = 5;
  await maren.call(issueSettings.changeIssueSettings, { params: project, body: { settings, edition } });
  const raise = async (surname: string, body: (typeof issues.raiseIssue)['body']['static']) =>
    (await story.as(surname).call(issues.raiseIssue, { params: project, body })).id;
  const step = async (surname: string, issueId: string, action: 'answer' | 'close', reason: string) => {
    const params = { ...project, issueId };
    const { edition: seen } = (await story.as(surname).call(issues.showIssue, { params })).issue;
    await story.as(surname).call(issues.changeIssue, { params, body: { edition: seen, action, reason } });
  };
  const place = { versionId: story.version(plan, 2), page: 1, x: 1180, y: 690, zoom: 1.4 };
  const opening = await raise('haddingley', {
    title: 'Opening for the extract duct in the wall of the drying room',
    description: '400 × 300, top edge at +3.10.',
    ...{ type: 'request', priority: 'normal', labels: ['openings'], place },
    responsible: { kind: 'person', id: story.personId('ferreby') },
  });
  const door = await raise('callowby', {
    title: 'Does the door of the store close by itself in a fire?',
    ...{ type: 'question', priority: 'high', labels: ['fire safety'] },
    responsible: { kind: 'person', id: story.personId('ferreby') },
  });
  story.day(13);
  await step('ferreby', opening, 'answer', 'Drawn in the plan, with a lintel.');
  await step('ferreby', door, 'answer', 'Yes, with a closer; it is in the schedule of doors.');
  story.day(11);
  await step('callowby', door, 'close', 'Seen in the schedule.');
  const setting = await raise('vossling', {
    title: 'Setting out of the slipway rails against grid 1',
    ...{ type: 'question', priority: 'normal', labels: ['setting out'] },
    responsible: { kind: 'person', id: story.personId('haddingley') },
  });
  story.day(9);
  await step('haddingley', setting, 'answer', 'Grid 1 holds; the rails start 1.20 m from it.');
  await step('vossling', setting, 'close', '');
}

async function addViewpoint(
  story: Teller,
  surname: string,
  name: string,
  models: number[],
  state: scene.ViewpointState,
): Promise<string> {
  const versionIds = models.map((i) => story.latest(MODELS[i]!.code));
  const picture = await fetch(
    `${story.address}/api/projects/${story.project.projectId}/versions/${versionIds[0]}/products/thumbnail`,
    { headers: story.as(surname).headersForFiles() },
  );
  const png = Buffer.from(await picture.arrayBuffer()).toString('base64');
  const saved = await story.as(surname).call(scene.addViewpoint, {
    params: story.project,
    body: { name, folder: 'Coordination 12', state, versionIds, picture: `data:image/png;base64,${png}` },
  });
  return saved.id;
}

async function drawMarkups(story: Teller, plan: string): Promise<void> {
  story.day(19, 10);
  const versionId = story.version(plan, 2);
  const params = { ...story.project, versionId };
  const [sheet] = await story.as('callowby').call(drawing.listSheets, { params });
  if (!sheet) throw new Error('The plan has no sheet.');
  const draw = async (surname: string, shape: markup.Markup['shape'], text: string, status: markup.Markup['status']) =>
    (await story.as(surname).call(markup.addMarkup, { params, body: { page: 1, shape, text, status } })).id;
  const ids = [
    await draw(
      'callowby',
      {
        kind: 'cloud',
        points: [
          [1636, 735],
          [1708, 880],
        ],
      },
      'Partition moved by 30 mm without a request: put it back or say why.',
      'act',
    ),
    await draw(
      'callowby',
      { kind: 'callout', target: [1925, 712], box: [1960, 960, 280, 70] },
      'Stair: confirm the way it turns',
      'ask',
    ),
  ];
  await story.as('callowby').call(markup.publishMarkups, { params, body: { markupIds: ids } });
  await draw(
    'tolvik',
    { kind: 'callout', target: [907, 705], box: [560, 400, 290, 70] },
    'Ask the client for the boat length',
    'note',
  );
}
