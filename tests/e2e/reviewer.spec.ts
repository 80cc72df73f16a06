/** A reviewer's day at the drawing table: read, measure, mark, send out, get answers back, see the next revision. */
import { PDFDict, PDFDocument, PDFHexString, PDFName, PDFString, type PDFRef } from '@cantoo/pdf-lib';
import { expect, test, type Download, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { stationSheets } from '../../packages/demo/src/drawings/station-sheets.ts';
import { writeSheet } from '../../packages/demo/src/drawings/write-sheet.ts';
import { pass, signIn } from './steps.ts';

const CODE = 'ORP-TVA-ZZ-ZZ-D-A-0301';
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-reviewer-'));
test.afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const list = (page: Page) => page.getByRole('complementary', { name: 'Markups' });
const marks = (page: Page, n: number) => page.locator(`[data-marks="${n}"]`);
async function openSheet(page: Page): Promise<void> {
  await page.goto(new URL(page.url()).pathname.replace(/(projects\/[^/]+).*/, '$1/sheets'));
  await page.locator('.entry', { hasText: CODE }).click();
  await expect(page.locator('canvas.detail')).toBeVisible();
}
async function tool(page: Page, group: 'Look' | 'Mark' | 'Measure', name: string): Promise<void> {
  await page.getByRole('button', { name: group, exact: true }).click();
  await page
    .getByRole('toolbar', { name: `Tools to ${group.toLowerCase()}` })
    .getByRole('button', { name, exact: true })
    .click();
}
async function drag(
  page: Page,
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
): Promise<void> {
  await page.mouse.move(x0, y0);
  await page.mouse.down();
  await page.mouse.move(x1, y1, { steps: 5 });
  await page.mouse.up();
}
async function write(page: Page, words: string, status: string): Promise<void> {
  await page.getByRole('textbox', { name: 'What it says' }).fill(words);
  await page.getByRole('radio', { name: status }).check({ force: true });
  await page.getByRole('button', { name: 'Save as draft' }).click();
  await expect(list(page)).toContainText(words);
}
async function saved(download: Download): Promise<string> {
  const file = path.join(folder, download.suggestedFilename());
  await download.saveAs(file);
  return file;
}

/** The draughtsman's PDF program: answers one mark, settles another, adds one of his own. */
async function answeredElsewhere(file: string): Promise<string> {
  const pdf = await PDFDocument.load(fs.readFileSync(file));
  const page = pdf.getPage(0);
  const annots = page.node.Annots()!;
  const refWith = (words: string): PDFRef => {
    for (let i = 0; i < annots.size(); i++) {
      const dict = annots.lookup(i, PDFDict);
      const contents = dict.lookup(PDFName.of('Contents'));
      if (contents instanceof PDFHexString && contents.decodeText().includes(words)) return annots.get(i) as PDFRef;
    }
    throw new Error(`${words} is not in the PDF.`);
  };
  const add = (entries: object): void =>
    annots.push(pdf.context.register(pdf.context.obj({ Type: 'Annot', ...entries } as never)));
  const reply = {
    Subtype: 'Text',
    Rect: [0, 0, 20, 20],
    T: PDFString.of('Bernt Ohlsson'),
    M: PDFString.of('D:20261120101500Z'),
    RT: 'R',
  };
  add({
    ...reply,
    NM: PDFString.of('b-1'),
    IRT: refWith('Gutter'),
    Contents: PDFHexString.fromText('Ja – moved to grid 3'),
  });
  add({
    ...reply,
    NM: PDFString.of('b-2'),
    IRT: refWith('Gutter'),
    State: PDFString.of('Completed'),
    StateModel: PDFString.of('Review'),
  });
  add({
    Subtype: 'Circle',
    Rect: [300, 300, 380, 360],
    NM: PDFString.of('b-3'),
    T: PDFString.of('Bernt Ohlsson'),
    C: [0.42, 0.25, 0.41],
    Contents: PDFHexString.fromText('Lamp here?'),
  });
  const answered = path.join(folder, 'answered.pdf');
  fs.writeFileSync(answered, await pdf.save());
  return answered;
}

test('a reviewer’s day', async ({ browser }) => {
  const ruben = await signIn(browser, 'Ruben Okafield');
  const problems: string[] = [];
  ruben.on('pageerror', (error) => problems.push(error.message));
  let marked = '';

  await test.step('the revision is opened, a word is found on it', async () => {
    await ruben.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
    await expect(ruben).toHaveURL(/projects/);
    await openSheet(ruben);
    await ruben.keyboard.press('Control+f');
    await ruben.getByRole('textbox', { name: 'Find words on the sheet' }).fill('elevation');
    await expect(ruben.getByRole('status').filter({ hasText: 'on this sheet' })).toContainText(/1 of \d+ place/);
    await ruben.keyboard.press('Escape');
    await ruben.getByRole('button', { name: 'Look', exact: true }).click();
    await ruben.getByRole('button', { name: 'Whole sheet (0)' }).click();
  });

  await test.step('a length is measured, by the title block’s scale and by a length that is known', async () => {
    await tool(ruben, 'Measure', 'Length');
    await ruben.keyboard.down('Alt');
    await drag(ruben, [400, 300], [600, 300]);
    await ruben.keyboard.up('Alt');
    await expect(list(ruben)).toContainText(/\d\.\d\d m/);
    await tool(ruben, 'Measure', 'Calibrate');
    await ruben.keyboard.down('Alt');
    await drag(ruben, [400, 320], [600, 320]);
    await ruben.keyboard.up('Alt');
    await ruben.getByRole('dialog').getByRole('textbox').fill('20');
    await ruben.getByRole('button', { name: 'Calibrate', exact: true }).last().click();
    await expect(ruben.getByRole('button', { name: 'Length', exact: true })).toHaveAttribute('aria-pressed', 'true');
    await expect(ruben.locator('.el-overlay:visible')).toHaveCount(0);
    await ruben.keyboard.down('Alt');
    await drag(ruben, [400, 340], [500, 340]);
    await ruben.keyboard.up('Alt');
    await expect(list(ruben).getByText(/^(?:9\.9\d|10\.0\d) m$/)).toBeVisible();
  });

  await test.step('marked: a callout, a cloud with a broad pen, a stamp, a photo', async () => {
    await tool(ruben, 'Mark', 'Callout');
    await drag(ruben, [420, 420], [520, 480]);
    await write(ruben, 'Gutter falls the wrong way?', 'ask');
    await tool(ruben, 'Mark', 'Cloud');
    await ruben.getByRole('button', { name: 'broad line', exact: true }).click();
    await drag(ruben, [640, 260], [740, 330]);
    await write(ruben, 'Lower the sill', 'act');
    await tool(ruben, 'Mark', 'Stamp');
    await drag(ruben, [300, 560], [430, 610]);
    await write(ruben, 'SEEN', 'note');
    const photo = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#2266aa' } })
      .jpeg()
      .toBuffer();
    const chooser = ruben.waitForEvent('filechooser');
    await tool(ruben, 'Mark', 'Photo');
    await (await chooser).setFiles({ name: 'site.jpg', mimeType: 'image/jpeg', buffer: photo });
    await expect(ruben.getByRole('status', { name: 'Photo' })).toContainText('Click where');
    await ruben.mouse.click(560, 180);
    await write(ruben, 'As it is today', 'note');
    await expect(marks(ruben, 6)).toBeVisible();
  });

  await test.step('what is done is undone and done again; drafts are published together', async () => {
    await ruben.getByRole('button', { name: 'Undo' }).click();
    await expect(marks(ruben, 5)).toBeVisible();
    await ruben.getByRole('button', { name: 'Redo' }).click();
    await expect(marks(ruben, 6)).toBeVisible();
    await list(ruben).getByRole('button', { name: 'Publish 6 drafts' }).click();
    await expect(ruben.getByText('6 markups published')).toBeVisible();
  });

  await test.step('taken along as a PDF that other programs read: each mark where it belongs', async () => {
    const download = ruben.waitForEvent('download');
    await list(ruben).getByRole('button', { name: 'Take them along' }).click();
    await ruben.getByRole('menuitem', { name: /as annotations/ }).click();
    marked = await saved(await download);
    execFileSync('qpdf', ['--check', marked], { stdio: 'ignore' });
    execFileSync('pdftoppm', ['-r', '40', '-png', '-singlefile', marked, path.join(folder, 'page')]);
    const { data, info } = await sharp(path.join(folder, 'page.png'))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const near = ([r, g, b]: readonly number[]): [number, number][] => {
      const found: [number, number][] = [];
      for (let i = 0; i < info.width * info.height; i++)
        if (Math.abs(data[3 * i]! - r!) + Math.abs(data[3 * i + 1]! - g!) + Math.abs(data[3 * i + 2]! - b!) < 60)
          found.push([(i % info.width) / info.width, Math.floor(i / info.width) / info.height]);
      return found;
    };
    const photo = near([0x22, 0x66, 0xaa]);
    expect(photo.length).toBeGreaterThan(50);
    // On the table the photo stands above the middle of the sheet, the cloud (rust, “act”) right of it.
    const middle = (points: [number, number][], axis: 0 | 1): number =>
      points.reduce((sum, point) => sum + point[axis], 0) / points.length;
    const cloud = near([0xb4, 0x50, 0x2d]);
    expect(cloud.length).toBeGreaterThan(20);
    expect(middle(cloud, 0)).toBeGreaterThan(middle(photo, 0));
    expect(middle(cloud, 1)).toBeGreaterThan(middle(photo, 1));
  });

  await test.step('answered in another program and brought in: status and reply are on the same markup', async () => {
    await list(ruben).getByRole('button', { name: 'Bring in' }).click();
    const dialog = ruben.getByRole('dialog', { name: 'Bring in markups' });
    await dialog.getByLabel('A PDF or XFDF file with markups').setInputFiles(await answeredElsewhere(marked));
    await expect(dialog).toContainText('answered');
    await expect(dialog).toContainText('Ja – moved to grid 3');
    await expect(dialog).toContainText('Lamp here?');
    await dialog.getByRole('button', { name: 'Take 2 markups' }).click();
    await expect(ruben.getByText('Brought in: 1 new, 1 changed, 1 answer')).toBeVisible();
    const gutter = list(ruben).getByRole('article').filter({ hasText: 'Gutter' });
    await expect(gutter).toContainText('settled');
    await gutter.locator('.words').click();
    await expect(gutter).toContainText('Ja – moved to grid 3');
    await expect(gutter).toContainText('Bernt Ohlsson (in another program; brought in by Ruben Okafield)');
    await expect(marks(ruben, 7)).toBeVisible();

    await list(ruben).getByRole('button', { name: 'Bring in' }).click();
    await dialog.getByLabel('A PDF or XFDF file with markups').setInputFiles(path.join(folder, 'answered.pdf'));
    await expect(dialog).toContainText('says nothing that is not here already');
    await dialog.getByRole('button', { name: 'Close', exact: true }).last().click();
  });

  await test.step('somebody sees to it, and is told; an issue is raised from a markup', async () => {
    const sill = list(ruben).getByRole('article').filter({ hasText: 'Lower the sill' });
    await sill.locator('.words').click();
    await sill.getByRole('combobox', { name: 'Responsible' }).click();
    await ruben
      .locator('.el-select-dropdown:visible')
      .getByRole('option', { name: /Jonas Ferreby/ })
      .click();
    await sill.getByRole('textbox', { name: 'Comment' }).fill('By how much?');
    await sill.getByRole('button', { name: 'Comment', exact: true }).click();
    await expect(sill).toContainText('Ruben Okafield');
    await sill.getByRole('button', { name: 'Raise an issue from it' }).click();
    await ruben.getByRole('dialog').getByRole('button', { name: 'Raise issue' }).click();
    await expect(ruben).toHaveURL(/\/issues\//);
    await expect(ruben.getByRole('link', { name: /Markup \d+ “Lower the sill”/ })).toBeVisible();
  });

  await test.step('the next revision carries what is open', async () => {
    const jonas = await signIn(
      browser,
      'Jonas Ferreby',
      new URL(ruben.url()).pathname.replace(/\/issues.*/, '/register'),
    );
    const sheet = stationSheets({ number: 2 }).find(({ number }) => number === CODE)!;
    const pdf = await writeSheet({ ...sheet, revision: 'P03', status: 'S3', date: '2026-11-26', drawnBy: 'L. A.' });
    await jonas
      .locator('input[data-test=files]')
      .setInputFiles({ name: `${CODE}.pdf`, mimeType: 'application/pdf', buffer: Buffer.from(pdf) });
    await jonas
      .getByRole('region', { name: 'Upload desk' })
      .getByRole('button', { name: /^Deliver 1 file/ })
      .click();
    await expect(jonas.getByText('1 file delivered')).toBeVisible();
    await openSheet(jonas);
    await expect(list(jonas)).toContainText('carried');
    await expect(list(jonas).getByRole('article')).toHaveCount(1);
    await expect(list(jonas)).toContainText('Lower the sill');
    await jonas.getByRole('link', { name: 'Versions' }).click();
    await pass(jonas, 'Share');
    await openSheet(ruben);
    await expect(marks(ruben, 1)).toBeVisible();
    const sill = list(ruben).getByRole('article').filter({ hasText: 'Lower the sill' });
    await sill.locator('.words').click();
    await expect(sill).toContainText('carried from version 2');
    await expect(sill).toContainText('By how much?');
  });
  expect(problems).toEqual([]);
});
