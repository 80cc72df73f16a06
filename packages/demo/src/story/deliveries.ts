/** What the three disciplines deliver, twice. */
import { stationSheets } from '../drawings/station-sheets.ts';
import { furnitureFile } from '../building/furniture-file.ts';
import { electricalFile, MODELS, modelFile, sheetFiles, yardFile } from './station-files.ts';
import type { Teller } from './teller.ts';

export async function firstDeliveries(story: Teller): Promise<void> {
  story.day(61, 15);
  await story.send('ferreby', 'Architecture / Models', [modelFile(0, { number: 1 })], 'S1', 'P01');
  await story.send(
    'asantewa',
    'Architecture / Drawings',
    await sheetFiles({ number: 1 }, 'P01', story.dayAfter(0)),
    'S3',
    'P01',
  );
  story.day(60, 10);
  await story.send('vossling', 'Structure / Models', [modelFile(1, { number: 1 })], 'S1', 'P01');
  story.day(59, 16);
  await story.send('haddingley', 'Services / Models', [modelFile(2, { number: 1 })], 'S1', 'P01');
  story.day(58);
  for (const [i, { code }] of MODELS.entries()) await story.move(OWNERS[i]!, code, 'share');
  for (const { number } of stationSheets({ number: 1 })) await story.move('asantewa', number, 'share');
}

export async function secondDeliveries(story: Teller): Promise<void> {
  story.day(30, 16);
  await story.send('ferreby', 'Architecture / Models', [modelFile(0, { number: 2 })], 'S2', 'P02');
  await story.send(
    'asantewa',
    'Architecture / Drawings',
    await sheetFiles({ number: 2 }, 'P02', story.dayAfter(0)),
    'S3',
    'P02',
  );
  story.day(29, 12);
  await story.send('vossling', 'Structure / Models', [modelFile(1, { number: 2 })], 'S2', 'P02');
  story.day(27, 17);
  await story.send('haddingley', 'Services / Models', [modelFile(2, { number: 2 })], 'S2', 'P02');
}

const OWNERS = ['ferreby', 'vossling', 'haddingley'];
const FOLDERS = ['Architecture / Models', 'Structure / Models', 'Services / Models'];

/** What the teams tried between the two versions that others see. */
export async function versionsBetween(story: Teller): Promise<void> {
  for (const [i, owner] of OWNERS.entries()) {
    story.day(40 - i, 15);
    await story.send(owner, FOLDERS[i]!, [modelFile(i, { number: 1.5 })], 'S0', 'P01.1');
  }
}

/** Electrical, slipway and yard: begun later, each in three versions. Furniture comes from a general modeller. */
export async function furtherModels(story: Teller): Promise<void> {
  const days = [44, 28, 13];
  for (const [i, day] of days.entries()) {
    const edition = (i + 1) as 1 | 2 | 3;
    story.day(day, 14);
    await story.send('haddingley', FOLDERS[2]!, [electricalFile(edition)], 'S1', `P0${edition}`);
    await story.send('vossling', FOLDERS[1]!, [yardFile(edition)], 'S1', `P0${edition}`);
    story.day(day - 1, 9);
    await story.move('haddingley', electricalFile(edition).code, 'share');
    await story.move('vossling', yardFile(edition).code, 'share');
  }
  story.day(11, 10);
  const furniture = await furnitureFile();
  await story.send('ferreby', FOLDERS[0]!, [furniture], 'S1', 'P01');
  await story.move('ferreby', furniture.code, 'share');
}
