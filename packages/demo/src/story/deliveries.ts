/** What the three disciplines deliver, twice. */
import { stationSheets } from '../drawings/station-sheets.ts';
import { MODELS, modelFile, sheetFiles } from './station-files.ts';
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
  for (const [i, { code }] of MODELS.entries())
    await story.move(['ferreby', 'vossling', 'haddingley'][i]!, code, 'share');
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
