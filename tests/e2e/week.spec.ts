/** A coordinator's first week of exchange, in the real interface, in the demo project. */
import { expect, test, type Page } from '@playwright/test';
import { stationSheets } from '../../packages/demo/src/drawings/station-sheets.ts';
import { writeSheet } from '../../packages/demo/src/drawings/write-sheet.ts';
import { pass, signIn, textFile } from './steps.ts';

const RIGHT = 'ORP-HQS-BH-00-R-S-0501';
const SECOND = 'ORP-HQS-BH-00-R-S-0502';
const NEAR = 'ORP-HQS-BH-00-R-S-503';
const COMPOSED = 'ORP-HQS-BH-00-R-S-0504';
const LEFT = 'load notes tuesday';

let place = '';
const go = (page: Page, view: string) => page.goto(`${place}/${view}`);
const desk = (page: Page) => page.getByRole('region', { name: 'Upload desk' });
const arrival = (page: Page, fileName: string) => page.locator('.arrival', { hasText: fileName });
const row = (page: Page, code: string) => page.getByRole('row', { name: new RegExp(code) });
const versionsOf = (page: Page) => page.locator('.versions > li');

async function dropFiles(page: Page, ...files: ReturnType<typeof textFile>[]): Promise<void> {
  await page.locator('input[data-test=files]').setInputFiles(files);
  await expect(desk(page)).toContainText(`${files.length} arrived`);
}
async function chooseFolder(page: Page, path: string): Promise<void> {
  await desk(page)
    .locator('.el-select', { has: page.getByRole('combobox', { name: 'Folder' }) })
    .click();
  await page.locator('.el-select-dropdown:visible').getByRole('option', { name: path, exact: true }).click();
}
async function openContainer(page: Page, code: string): Promise<void> {
  await go(page, `register?q=${code}`);
  await row(page, code).getByRole('link').last().click();
  await expect(page.getByRole('heading', { name: 'Versions' })).toBeVisible();
}

test('a coordinator’s first week', async ({ browser }) => {
  const petra = await signIn(browser, 'Petra Vossling');
  await petra.getByRole('row', { name: /Orrin Point Lifeboat/ }).click();
  await expect(petra.getByTestId('register')).toBeVisible();
  place = new URL(petra.url()).pathname.replace(/\/register.*/, '');

  await test.step('five files dropped, three with wrong names: verdicts field by field', async () => {
    await dropFiles(
      petra,
      textFile(`${RIGHT}.txt`, 'beams, first'),
      textFile(`${SECOND}.txt`, 'columns'),
      textFile(`${NEAR}.txt`, 'welds'),
      textFile('bolts.txt', 'bolts'),
      textFile(`${LEFT}.txt`, 'notes'),
    );
    await chooseFolder(petra, 'Structure / Drawings');
    await expect(arrival(petra, NEAR)).toContainText('must be exactly 4 digits');
    await arrival(petra, NEAR).getByRole('button', { name: /^Use/ }).click();
    await expect(arrival(petra, NEAR).getByRole('textbox', { name: 'Code' })).toHaveValue('ORP-HQS-BH-00-R-S-0503');

    await arrival(petra, 'bolts.txt').getByRole('button', { name: 'Compose the name' }).click();
    const compose = petra.locator('.compose:visible');
    await expect(compose).toBeVisible();
    for (const [field, value] of [
      ['Project', 'ORP'],
      ['Originator', 'HQS'],
      ['Function', 'BH'],
      ['Space', '00'],
      ['Form', 'R'],
      ['Discipline', 'S'],
    ] as const) {
      const label = compose.locator('.part', { hasText: field });
      if (await label.locator('.el-select').count()) {
        await label.locator('.el-select').click();
        await compose
          .locator('.el-select-dropdown:visible')
          .getByRole('option', { name: new RegExp(`^${value} `) })
          .click();
      } else await label.getByRole('textbox').fill(value);
    }
    await compose.getByRole('textbox', { name: 'Number' }).fill('0504');
    await expect(compose.locator('.result')).toHaveText(COMPOSED);
    await compose.getByRole('button', { name: 'Use this name' }).click();
    await arrival(petra, RIGHT).getByRole('textbox', { name: 'Title' }).fill('Beam calculation');
    await arrival(petra, RIGHT).getByRole('textbox', { name: 'Description' }).fill('As designed');
    await desk(petra).getByRole('button', { name: 'Deliver 5 files, 1 to the intake' }).click();
    await expect(petra.getByText('4 files delivered to the register, 1 left at the intake')).toBeVisible();
  });

  const maren = await signIn(browser, 'Maren Tolvik');
  await test.step('the coordinator repairs what waits at the intake, several at once', async () => {
    await go(maren, 'intake');
    await maren.getByRole('button', { name: 'Take the nearest values' }).click();
    await maren.getByRole('textbox', { name: `New code for ${LEFT}` }).fill(SECOND);
    await maren.getByRole('button', { name: /^3 files to the register/ }).click();
    await expect(maren.getByText('2 files are in the register. 1 stay here')).toBeVisible();
    await expect(maren.getByText('is in the register already')).toBeVisible();
    await maren.getByRole('button', { name: 'Make it the next version' }).click();
    await expect(maren.getByText(`${SECOND} is in the register`)).toBeVisible();
    await openContainer(maren, SECOND);
    await expect(versionsOf(maren)).toHaveCount(2);
  });

  const jonas = await signIn(browser, 'Jonas Ferreby');
  await test.step('work in progress is nobody else’s business until its team shares it', async () => {
    await go(jonas, `register?q=${RIGHT}`);
    await expect(jonas.getByText('Nothing fits these filters')).toBeVisible();
    await go(petra, 'register?q=ORP-HQS-BH-00-R-S');
    for (const code of [RIGHT, SECOND]) await petra.getByRole('checkbox', { name: `Choose ${code}` }).click();
    await pass(petra, 'Share');
    await expect(row(petra, RIGHT)).toContainText('shared');
    // It comes to the other's open register by itself.
    await expect(row(jonas, RIGHT)).toContainText('shared');
  });

  await test.step('another team takes it', async () => {
    await openContainer(jonas, RIGHT);
    const download = jonas.waitForEvent('download');
    await jonas.getByRole('link', { name: 'Download version 1' }).click();
    expect((await download).suggestedFilename()).toBe(`${RIGHT}.txt`);
  });

  await test.step('values are changed in place, and changed back', async () => {
    await go(petra, `register?q=${RIGHT}`);
    await row(petra, RIGHT).locator('.code').click();
    await row(petra, RIGHT).locator('.cell.editable').first().click();
    await petra.getByRole('textbox', { name: `Rev of ${RIGHT}` }).fill('P07');
    await petra.keyboard.press('Enter');
    await expect(row(petra, RIGHT)).toContainText('P07');
    await petra.getByRole('button', { name: 'Undo' }).click();
    await expect(row(petra, RIGHT)).not.toContainText('P07');
    await expect(row(petra, RIGHT)).toContainText('P01');
  });

  await test.step('a newer version over a reserved one: both are kept until somebody decides', async () => {
    await openContainer(petra, RIGHT);
    await petra.getByRole('button', { name: 'Reserve', exact: true }).click();
    await expect(petra.getByText('reserved by you')).toBeVisible();
    const idris = await signIn(browser, 'Idris Callowby');
    await go(idris, 'register');
    await dropFiles(idris, textFile(`${RIGHT}.txt`, 'beams, by Idris'));
    await expect(desk(idris)).toContainText('Reserved by Petra Vossling');
    await desk(idris).getByRole('textbox', { name: 'Title' }).fill('Beam calculation, other loads');
    await desk(idris)
      .getByRole('button', { name: /^Deliver 1 file/ })
      .click();
    await expect(idris.getByText('for somebody to decide')).toBeVisible();
    await expect(petra.getByText('In conflict', { exact: true })).toBeVisible();
    await expect(versionsOf(petra)).toHaveCount(2);
    await expect(petra.locator('.page-head')).toContainText('Beam calculation');
    await petra.getByRole('button', { name: 'Go on with this one' }).click();
    await expect(petra.getByText('Version 2 goes on')).toBeVisible();
    await expect(petra.locator('h1')).toContainText('Beam calculation, other loads');
  });

  await test.step('who took the first version hears of the newer one, and the board says who is behind', async () => {
    await pass(petra, 'Share');
    await expect(petra.locator('.page-head')).toContainText('shared');
    await jonas
      .getByRole('button', { name: /notice|bell/i })
      .first()
      .click();
    await expect(jonas.getByText('version 2 is shared. You took version 1').first()).toBeVisible();
    await go(jonas, 'board');
    await jonas.getByRole('button', { name: 'Architecture is 1 version behind Structure' }).click();
    await expect(jonas.locator('.used')).toContainText('version 1 of 2');
  });

  await test.step('the older version is made current, and its metadata comes back with it', async () => {
    await petra.getByRole('button', { name: 'Make version 1 current again' }).click();
    await expect(versionsOf(petra)).toHaveCount(3);
    await expect(versionsOf(petra).first()).toContainText('Version 1 made current again');
    await expect(versionsOf(petra).first()).toContainText('As designed');
    await expect(petra.locator('h1')).toHaveText(/^\s*Beam calculation\s*$/);
    await petra.getByRole('button', { name: 'Compare two versions' }).click();
    const dialog = petra.getByRole('dialog');
    await expect(dialog.getByRole('row', { name: /^Title/ })).toContainText('Beam calculation, other loads');
    await petra.keyboard.press('Escape');
    // Others still see what was shared.
    await openContainer(jonas, RIGHT);
    await expect(versionsOf(jonas)).toHaveCount(2);
  });

  await test.step('an open sheet offers the version that arrives, and does not push the old one away', async () => {
    const plan = stationSheets({ number: 2 })[0]!;
    await go(maren, `register?q=${plan.number}`);
    await row(maren, plan.number).getByRole('link').first().click();
    await expect(maren.locator('canvas.detail')).toBeVisible({ timeout: 60_000 });
    const lil = await signIn(browser, 'Lil Asantewa');
    await go(lil, 'register');
    const pdf = await writeSheet({ ...plan, revision: 'P03', status: 'S3', date: '2026-11-01', drawnBy: 'L. A.' });
    await lil
      .locator('input[data-test=files]')
      .setInputFiles([{ name: `${plan.number}.pdf`, mimeType: 'application/pdf', buffer: Buffer.from(pdf) }]);
    await desk(lil).getByRole('button', { name: 'Deliver 1 file', exact: true }).click();
    await expect(maren.getByText('Version 3 is there; you see version 2.')).toBeVisible();
    await maren.getByRole('button', { name: 'Show it' }).click();
    await expect(maren).toHaveURL(/version=3/);
    await expect(maren.getByText('Version 3 is there')).toHaveCount(0);
  });

  await test.step('the register by groups, kept as a view', async () => {
    await go(maren, 'register?group=field:Form');
    // The others deliver too: with many drawings what stands below them is not drawn.
    const drawings = maren.getByRole('button', { name: /^D Drawing/ });
    await expect(drawings).toHaveAttribute('aria-expanded', 'true');
    await drawings.click();
    await expect(drawings).toHaveAttribute('aria-expanded', 'false');
    await expect(maren.getByRole('button', { name: /^R Report/ })).toBeVisible();
    await maren.getByRole('button', { name: /Views/ }).click();
    await maren.getByRole('button', { name: /Keep what is shown now/ }).click();
    await maren.getByRole('textbox', { name: 'Name of the view' }).fill('By form');
    await maren.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(maren.getByText('The view “By form” is kept.')).toBeVisible();
    await go(maren, 'register');
    await maren.getByRole('button', { name: /Views/ }).click();
    await maren.getByRole('button', { name: 'By form', exact: true }).click();
    await expect(maren).toHaveURL(/group=field/);
  });
});
