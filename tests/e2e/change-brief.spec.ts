/** “I asked for some changes; were they made, and was anything else changed?” From the requests on one revision to the report on the next. */
import ExcelJS from '@protobi/exceljs';
import { expect, test, type Download } from '@playwright/test';
import { signInAsDemo } from '@kindred/contract/identity/identity';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { addMarkup, publishMarkups } from '@kindred/contract/markup/markup';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, moveStates } from '@kindred/contract/register/register';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { planPdf, TWO_MM } from '../server/compared-plans.ts';
import { signIn } from './steps.ts';

const CODE = 'ORP-TVA-BH-00-D-A-0801';
const MORE = ['two', 'three'];

test('a reviewer holds the new revision against what was asked for', async ({ browser, baseURL }) => {
  const lil = new ApiPerson(baseURL!, '');
  await lil.call(signInAsDemo, { body: { email: 'lil.asantewa@tva.example' } });
  const maren = await signIn(browser, 'Maren Tolvik');
  await maren.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await expect(maren.getByTestId('register')).toBeVisible();
  const place = new URL(maren.url()).pathname.replace(/\/register.*/, '');
  const params = { projectId: place.split('/').at(-1)! };
  const folderId = (await lil.call(listFolders, { params })).find(({ path }) => path === 'Architecture / Drawings')!.id;
  const revision = async (name: string, bytes: Uint8Array) => {
    const uploadId = await lil.upload(params.projectId, `${CODE}.pdf`, bytes);
    const body = { folderId, files: [{ uploadId, code: CODE, title: 'Boat hall, set', revision: name, status: 'S3' }] };
    const { files } = await lil.call(deliver, { params, body });
    await lil.call(moveStates, { params, body: { containerIds: [files[0]!.containerId], action: 'share' } });
    return files[0]!;
  };
  const list = maren.getByRole('complementary', { name: 'Changes' });
  const { containerId, versionId } = await revision('P01', await planPdf({ more: MORE }));

  await test.step('something is asked for on the first revision, by markups and an issue', async () => {
    const on = { ...params, versionId };
    const ask = async (text: string, x: number, y: number, w: number, h: number) => {
      const shape = {
        kind: 'cloud' as const,
        points: [
          [x, y],
          [x + w, y + h],
        ] as [number, number][],
      };
      return (await lil.call(addMarkup, { params: on, body: { page: 1, shape, text, status: 'act' } })).id;
    };
    const markupIds = [await ask('Move the door', 195, 260, 40, 40), await ask('Turn the stair', 335, 110, 75, 50)];
    await lil.call(publishMarkups, { params: on, body: { markupIds } });
    const at = { versionId, page: 1, x: 630, y: 290 };
    await lil.call(raiseIssue, {
      params,
      body: { title: 'Call the store “Kit room”', type: 'request', priority: 'normal', place: at },
    });
  });

  await test.step('the next revision comes, and its comparison is there by itself', async () => {
    await revision('P02', await planPdf({ door: 30, wall: TWO_MM, room: 'Kit room', more: [MORE[0]!] }));
    await maren.goto(`${place}/sheets/${containerId}/changes`);
    await expect(list.getByRole('status')).toHaveText('3 changes');
    await list.getByRole('tab', { name: 'Sheets' }).click();
    await expect(list.getByRole('listitem')).toHaveText([/3 changes/, /Nothing changed/, /not there any more/]);
  });

  await test.step('the brief: two found, one missing, and a shift of 2 mm that nobody asked for', async () => {
    await list.getByRole('tab', { name: 'Brief' }).click();
    await list.getByRole('button', { name: 'Take over 2 markups and 1 issue' }).click();
    await expect(list).toContainText('2 asked for and found · 1 missing · 1 not asked for');
    await expect(list.getByRole('listitem').filter({ hasText: 'Turn the stair' })).toContainText('missing');
    await list.getByRole('textbox', { name: /Requests/ }).fill('1. Raise the rail\n2. Widen the gate');
    await list.getByRole('button', { name: 'Add 2 requests' }).click();
    await expect(list).toContainText('3 missing');
    const last = list.getByRole('listitem').filter({ hasText: 'Widen the gate' });
    await last.getByRole('button').first().click();
    await last.getByRole('button', { name: 'Take back' }).click();
    await expect(last).toBeHidden();
  });

  const wall = list.getByRole('listitem').filter({ hasText: 'Moved by 2.00 mm' });
  await test.step('a person ticks', async () => {
    await list.getByRole('tab', { name: 'Changes' }).click();
    await expect(wall).toContainText('not asked for?');
    await wall.getByRole('button').first().click();
    await expect(wall.getByRole('img', { name: 'Before the change' })).toBeVisible();
    await wall.getByRole('button', { name: 'Not asked for', exact: true }).click();
    await expect(wall).toContainText('ticked by Maren Tolvik');
    const door = list.getByRole('listitem').filter({ hasText: 'Moved by 10.58 mm' });
    await door.getByRole('button').first().click();
    await door.getByRole('button', { name: 'Asked for', exact: true }).click();
    await expect(door).toContainText('ticked by Maren Tolvik');
  });

  await test.step('an issue with both pictures', async () => {
    await wall.getByRole('button').first().click();
    await wall.getByRole('button', { name: 'Raise an issue from it' }).click();
    const dialog = maren.getByRole('dialog');
    await expect(dialog.getByRole('img', { name: 'Version 1' })).toBeVisible();
    await dialog.getByRole('textbox', { name: 'Title' }).fill('Who moved this wall by 2 mm?');
    await dialog.getByRole('button', { name: 'Raise issue' }).click();
    await expect(maren.getByRole('heading', { name: /Who moved this wall/, level: 1 })).toBeVisible();
    for (const name of ['Version 1', 'Version 2']) {
      const picture = maren.getByRole('img', { name });
      await expect(picture).toBeVisible();
      expect(await picture.evaluate((image: HTMLImageElement) => image.decode().then(() => image.naturalWidth))).toBe(
        960,
      );
    }
    await maren.goBack();
    await expect(wall.getByRole('link', { name: 'Its issue' })).toBeVisible();
  });

  await test.step('the report as PDF and as workbook', async () => {
    const exported = async (item: RegExp): Promise<string> => {
      await maren.getByRole('button', { name: 'Export' }).click();
      const arriving = maren.waitForEvent('download');
      await maren.getByRole('menuitem', { name: item }).click();
      const download: Download = await arriving;
      return download.path();
    };
    const words = execFileSync('pdftotext', [await exported(/PDF/), '-']).toString();
    expect(words).toContain('2 asked for and found · 2 missing · 1 not asked for');
    expect(words).toContain('Moved by 2.00 mm');
    expect(words).toContain('Not asked for (Maren Tolvik)');
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(fs.readFileSync(await exported(/XLSX/)) as never);
    expect(book.getWorksheet('Changes')!.getImages()).toHaveLength(6);
    expect(book.getWorksheet('Brief')!.getColumn(4).values).toContain('Missing');
  });

  await test.step('the open markup went along with the door that it goes around', async () => {
    await maren.goto(`${place}/sheets/${containerId}`);
    const markup = maren
      .getByRole('complementary', { name: 'Markups' })
      .getByRole('article')
      .filter({ hasText: 'Move the door' });
    await markup.getByRole('button', { name: /Move the door/ }).click();
    await expect(maren.getByText('moved along with what it points at')).toBeVisible();
  });
});

test('two files that are in no register are compared in the browser, wrong ones refused in words', async ({
  browser,
}) => {
  const maren = await signIn(browser, 'Maren Tolvik');
  await maren.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await maren.getByRole('link', { name: 'Examine' }).click();
  await maren.getByRole('link', { name: 'Compare files' }).click();
  const give = async (label: string, name: string, bytes: Uint8Array) =>
    maren.getByLabel(label).setInputFiles({ name, mimeType: 'application/pdf', buffer: Buffer.from(bytes) });
  const list = maren.getByRole('complementary', { name: 'Two files' });
  await give('Before', 'P01.pdf', await planPdf({}));
  await give('After', 'broken.pdf', new TextEncoder().encode('%PDF-1.7 and nothing else'));
  await expect(list.getByRole('status')).toContainText('One of the two could not be read');
  await give('After', 'P02.pdf', await planPdf({ door: 30, wall: TWO_MM, room: 'Kit room' }));
  await expect(list.getByRole('status')).toHaveText('3 changes');
  await list.getByRole('button', { name: /Moved by 2\.00 mm/ }).click();
  await expect(maren.locator('svg.overlay .frame.chosen')).toHaveCount(1);
});
