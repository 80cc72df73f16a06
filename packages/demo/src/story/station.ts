/** Ten weeks of Orrin Point, in the order of their days. */
import * as portfolio from '@kindred/contract/portfolio/portfolio';
import { sheetFiles } from './station-files.ts';
import { decideClashes, foundFederations } from './coordination.ts';
import { firstDeliveries, furtherModels, secondDeliveries, versionsBetween } from './deliveries.ts';
import { firstFurtherDrawings, secondFurtherDrawings } from './further-drawings.ts';
import { lastWeeks, shareSecondVersions } from './exchange.ts';
import { foundProject } from './founding.ts';
import { questions } from './questions.ts';
import { firstReviews, laterReviews } from './reviews.ts';
import type { Teller } from './teller.ts';

export async function tellStation(story: Teller, say: (line: string) => void): Promise<void> {
  await foundProject(story);
  say('project and people');
  await firstDeliveries(story);
  await firstFurtherDrawings(story);
  say('first deliveries');
  await foundFederations(story);
  await firstReviews(story);
  await versionsBetween(story);
  await secondDeliveries(story);
  await secondFurtherDrawings(story);
  await shareSecondVersions(story);
  await furtherModels(story);
  say('second deliveries');
  await questions(story);
  say('markups and issues');
  await laterReviews(story);
  await lastWeeks(story);
  await decideClashes(story);
  await intake(story);
  await secondProject(story);
  await visitOnce(story);
}

async function intake(story: Teller): Promise<void> {
  story.day(1, 8);
  const [plan] = await sheetFiles({ number: 2 }, 'P03', story.dayAfter(0));
  const names = ['ORP-HQS-ZZ-00-D-S-101', 'ORP-HQS-BH-ZZ-X-S-0201', 'base plates new FINAL'];
  const files = names.map((code, i) => ({
    code,
    title: ['Foundation plan', 'Frame elevations', ''][i]!,
    classification: 'D-PLN',
    extension: '.pdf',
    bytes: plan!.bytes,
  }));
  await story.send('vossling', 'Structure / Drawings', files, 'S0', 'P01');
  await story.prepared();
}

async function secondProject(story: Teller): Promise<void> {
  story.day(8);
  await story.as('tolvik').call(portfolio.createProject, {
    body: {
      name: 'Orrin Point breakwater repair',
      number: 'OPB',
      kind: 'Harbour',
      timeZone: 'Europe/Dublin',
      finishesOn: story.dayAfter(200),
    },
  });
}

/** Everybody was here lately. */
async function visitOnce(story: Teller): Promise<void> {
  for (const [i, person] of story.everybody().entries()) {
    story.day(i % 5, 10);
    await person.call(portfolio.showProject, { params: story.project });
  }
}
