/** The whole path of a coordinator, in the real interface: from an empty project to a transmittal that arrives. */
import { expect, test } from '@playwright/test';
import { architecture } from '../../packages/demo/src/building/architecture.ts';
import { structure } from '../../packages/demo/src/building/structure.ts';
import { stationSheets } from '../../packages/demo/src/drawings/station-sheets.ts';
import { writeSheet } from '../../packages/demo/src/drawings/write-sheet.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { choose, pass, signIn } from './steps.ts';

const files = async () => {
  const sheet = stationSheets({ number: 1 })[0]!;
  const pdf = await writeSheet({ ...sheet, revision: 'P01', status: 'S3', date: '2026-01-05', drawnBy: 'L. A.' });
  const model = (title: string, text: string, code: string) => ({
    name: `${code}.ifc`,
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(text),
    title,
  });
  return {
    drawing: { name: 'BRK-TVA-ZZ-00-D-A-0101.pdf', mimeType: 'application/pdf', buffer: Buffer.from(pdf) },
    architecture: model(
      'A',
      writeModel(architecture({ number: 1 }), { title: 'A', organisation: 'TVA', schema: 'IFC4' }),
      'BRK-TVA-ZZ-ZZ-M-A-0001',
    ),
    structure: model(
      'S',
      writeModel(structure({ number: 1 }), { title: 'S', organisation: 'HQS', schema: 'IFC4' }),
      'BRK-HQS-ZZ-ZZ-M-S-0001',
    ),
    wrong: { name: 'final plan (2).pdf', mimeType: 'application/pdf', buffer: Buffer.from('this is not a PDF') },
  };
};

test('from a new project to a transmittal that arrives', async ({ browser }) => {
  const page = await signIn(browser, 'Maren Tolvik');
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  const given = await files();

  await test.step('set up: project and person', async () => {
    await page.getByRole('button', { name: 'New project' }).click();
    await page
      .getByRole('dialog')
      .locator('.field', { hasText: 'Name' })
      .first()
      .getByRole('textbox')
      .fill('Breakwater shelter');
    await page.getByRole('dialog').locator('.field', { hasText: 'Kind' }).locator('.el-select').click();
    await page.locator('.el-select-dropdown:visible').getByRole('option', { name: 'Harbour' }).click();
    await page.getByRole('dialog').locator('.field', { hasText: 'Number' }).getByRole('textbox').fill('BRK');
    await page.getByRole('button', { name: 'Create project' }).click();
    await expect(page.getByText('The register is empty')).toBeVisible();
    await page.getByRole('link', { name: 'Set up' }).click();
    await page.getByRole('link', { name: 'People' }).click();
    await page.getByRole('button', { name: 'Add person' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.locator('.field', { hasText: 'Name' }).first().locator('input').fill('Idris Callowby');
    await dialog.locator('.field', { hasText: 'E-mail' }).getByRole('textbox').fill('idris.callowby@hqs.example');
    await dialog.locator('.field', { hasText: 'Company' }).locator('input').fill('Holmquay Structures');
    await dialog.locator('.field', { hasText: 'Its code' }).getByRole('textbox').fill('HQS');
    await choose(page, 'Roles', 'Reviewer');
    await dialog.getByRole('button', { name: 'Add person' }).click();
    await expect(page.getByRole('row', { name: /Idris Callowby/ })).toContainText('Holmquay Structures');
  });

  await test.step('exchange: several files at once, one with a wrong name', async () => {
    await page.getByRole('link', { name: 'Exchange' }).click();
    await page
      .locator('input[data-test=files]')
      .setInputFiles([given.drawing, given.architecture, given.structure, given.wrong]);
    const desk = page.getByRole('region', { name: 'Upload desk' });
    await expect(desk).toContainText('4 arrived, 0 on the way', { timeout: 60_000 });
    await expect(desk).toContainText('1 field where the convention has 7');
    await desk.getByRole('button', { name: /Deliver 4 files, 1 to the intake/ }).click();
    await expect(page.getByRole('row', { name: /BRK-TVA-ZZ-00-D-A-0101/ })).toBeVisible();
    await expect(page.getByRole('grid', { name: 'Register' }).locator('img')).toHaveCount(3, { timeout: 90_000 });
    await page.getByRole('link', { name: 'Intake' }).click();
    await expect(page.getByText('final plan (2).pdf')).toBeVisible();
  });

  await test.step('exchange: the same name again is version 2, both kept', async () => {
    await page.getByRole('link', { name: 'Register', exact: true }).click();
    await page.locator('input[data-test=files]').setInputFiles([given.drawing]);
    const desk = page.getByRole('region', { name: 'Upload desk' });
    await expect(desk).toContainText('becomes version 2');
    await expect(desk.getByRole('textbox', { name: 'Revision' })).toHaveValue('P02');
    await desk.getByRole('button', { name: /Deliver 1 file/ }).click();
    const row = page.getByRole('row', { name: /BRK-TVA-ZZ-00-D-A-0101/ });
    await expect(row).toContainText('P02');
    await row.getByRole('link').last().click();
    await expect(page.getByRole('heading', { name: 'Versions' })).toBeVisible();
    await expect(page.locator('.versions > li')).toHaveCount(2);
    await expect(page.locator('.versions')).toContainText('P01');
    await pass(page, 'Share');
    await expect(page.locator('.page-head')).toContainText('shared');
    await expect(page.locator('.page-head').getByRole('button', { name: 'Open' })).toBeEnabled({ timeout: 60_000 });
  });

  await test.step('examine: the drawing, a cloud and a callout, published', async () => {
    await page.locator('.page-head').getByRole('button', { name: 'Open' }).click();
    const sheet = page.locator('[data-surface=sheet]');
    await expect(sheet).toBeVisible();
    await expect(page.locator('canvas.detail')).toBeVisible({ timeout: 60_000 });
    for (const [tool, words, from, to] of [
      ['Cloud', 'Check this corner', [520, 300], [640, 380]],
      ['Callout', 'Which finish?', [700, 420], [800, 520]],
    ] as const) {
      await page.getByRole('button', { name: 'Mark', exact: true }).click();
      await page.getByRole('button', { name: tool }).click();
      await page.mouse.move(from[0], from[1]);
      await page.mouse.down();
      await page.mouse.move(to[0], to[1], { steps: 4 });
      await page.mouse.up();
      await page.getByRole('dialog').getByRole('textbox').first().fill(words);
      await page.getByRole('button', { name: 'Save as draft' }).click();
      await expect(page.locator('aside', { hasText: 'Markups' })).toContainText(words);
    }
    await page.getByRole('button', { name: 'Publish 2 drafts' }).click();
    await expect(page.getByText('2 markups published')).toBeVisible();
    await expect(page.locator('.marks .draft')).toHaveCount(0);
    await page.reload();
    await expect(page.locator('[data-marks="2"]')).toBeVisible({ timeout: 60_000 });
  });

  await test.step('examine: a length measured, taken back, done again after reload; words found', async () => {
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    await page.getByRole('button', { name: 'Length' }).click();
    for (const [x, y] of [
      [400, 400],
      [700, 400],
    ] as const) {
      await page.mouse.move(x, y, { steps: 3 });
      await page.mouse.down();
      await page.mouse.up();
    }
    const list = page.locator('aside', { hasText: 'Markups' });
    await expect(list).toContainText(/\d m/);
    await page.keyboard.press('Control+z');
    await expect(page.locator('[data-marks="2"]')).toBeVisible();
    await page.reload();
    await expect(page.locator('[data-marks="2"]')).toBeVisible({ timeout: 60_000 });
    await page.getByRole('button', { name: 'Redo' }).click();
    await expect(page.locator('[data-marks="3"]')).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.locator('[data-marks="2"]')).toBeVisible();
    await page.getByRole('button', { name: 'Find' }).click();
    await page.getByLabel('Find words on the sheet').fill('plan');
    await expect(page.getByRole('status').filter({ hasText: 'on this sheet' })).toContainText(/1 of \d+ place/);
    await page.keyboard.press('Escape');
  });

  await test.step('exchange: the models are shared, so that others see what is asked of them', async () => {
    for (const code of ['BRK-TVA-ZZ-ZZ-M-A-0001', 'BRK-HQS-ZZ-ZZ-M-S-0001']) {
      await page.keyboard.press('Control+k');
      await page.getByRole('textbox', { name: 'Jump to' }).fill(code);
      await page.locator('.box li', { hasText: code }).first().click();
      await pass(page, 'Share');
      await expect(page.locator('.page-head')).toContainText('shared');
    }
    await page.getByRole('link', { name: 'Examine' }).click();
  });

  await test.step('examine: two models in the scene', async () => {
    await page.getByRole('link', { name: 'Scene' }).click();
    for (const code of ['BRK-TVA-ZZ-ZZ-M-A-0001', 'BRK-HQS-ZZ-ZZ-M-S-0001'])
      await page.getByText(code, { exact: true }).click();
    await expect(page.locator('canvas[data-models="2"]')).toBeVisible({ timeout: 60_000 });
    const elements = architecture({ number: 1 }).length + structure({ number: 1 }).length;
    await expect(page.locator('[data-test=scene-stats]')).toContainText(`${elements} elements`, { timeout: 60_000 });
    const stats = await page.locator('[data-test=scene-stats]').innerText();
    expect(Number(/(\d+) draws/.exec(stats)![1])).toBeLessThanOrEqual(60);
    await page.getByRole('textbox', { name: 'Search elements' }).fill('Portal column 4N');
    // What is found is unfolded already.
    await page.locator('.node .label', { hasText: 'Portal column 4N' }).click();
    const properties = page.getByRole('region', { name: 'Properties' });
    await expect(properties).toContainText('UC 305 × 305');
    await expect(properties).toContainText('Pset_ColumnCommon');
    await page.getByRole('button', { name: 'Isolate' }).click();
    await page.getByRole('button', { name: 'Show all' }).click();
    await page.getByRole('button', { name: 'Section' }).click();
    await page.getByRole('menuitem', { name: 'level' }).click();
    await expect(page.getByText('Section Z')).toBeVisible();
    await page.getByRole('button', { name: 'Closer' }).click();
    await page.getByRole('button', { name: 'Save viewpoint' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('Column 4N, cut');
    await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('Saved. It stands under Viewpoints.')).toBeVisible();
  });

  let issueLink = '';
  await test.step('resolve: an issue from the scene', async () => {
    await page.getByRole('button', { name: 'Raise issue' }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByRole('img', { name: 'What the issue is about' })).toBeVisible();
    await dialog.locator('.field', { hasText: 'Title' }).getByRole('textbox').fill('Is the base plate thick enough?');
    await choose(page, 'Who answers', /Idris/);
    await dialog.getByRole('button', { name: 'Raise issue' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /Is the base plate thick enough/ })).toBeVisible();
    issueLink = new URL(page.url()).pathname;
  });

  const idris = await signIn(browser, 'Idris Callowby');
  await test.step('resolve: the assignee is told, and led exactly there', async () => {
    await idris.goto('/outbox');
    await expect(idris.getByText('Is the base plate thick enough?').first()).toBeVisible();
    await idris.goto('/');
    await idris.getByRole('button', { name: /unread notices/ }).click();
    await idris
      .getByRole('button', { name: /Is the base plate thick enough/ })
      .first()
      .click();
    await expect(idris).toHaveURL(new RegExp(issueLink));
    await idris.getByRole('link', { name: /Open in the scene/ }).click();
    await expect(idris.locator('canvas[data-models="2"]')).toBeVisible({ timeout: 60_000 });
    await expect(idris.getByText('Section Z')).toBeVisible({ timeout: 60_000 });
    await expect(idris.getByRole('region', { name: 'Properties' })).toContainText('Portal column 4N');
    await idris.goto(issueLink);
    await idris.getByRole('textbox', { name: 'Comment' }).fill('30 mm is enough.');
    await idris.getByRole('button', { name: 'Comment' }).click();
    await expect(idris.locator('article', { hasText: '30 mm is enough.' })).toBeVisible();
    await idris.getByRole('button', { name: 'Answer' }).click();
    await idris.getByRole('dialog').getByRole('button', { name: 'Answer' }).click();
    await expect(idris.locator('.page-head')).toContainText('answered');
    await page.goto(issueLink);
    await expect(page.locator('.history')).toContainText('status: open → answered');
  });

  await test.step('resolve: a review whose code demands comments', async () => {
    await page.getByRole('link', { name: 'Reviews' }).click();
    await page.getByRole('button', { name: 'Start a review' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.locator('.field', { hasText: 'Title' }).getByRole('textbox').fill('Ground floor plan');
    await dialog.getByRole('combobox', { name: 'Add a document' }).fill('0101');
    await page.getByRole('option', { name: /BRK-TVA-ZZ-00-D-A-0101/ }).click();
    await choose(page, 'Review: Reviewer', /Idris/);
    await dialog.getByRole('button', { name: 'Start review' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /Ground floor plan/ })).toBeVisible();
    await idris.goto(new URL(page.url()).pathname);
    await idris.locator('.finish .el-select').click();
    await idris.getByRole('option', { name: /AGAIN/ }).click();
    await expect(idris.getByRole('alert')).toContainText('at least one comment');
    await idris.getByRole('button', { name: 'Finish with AGAIN' }).click();
    await expect(idris.getByText('Not possible like this')).toBeVisible();
    await idris.getByRole('textbox', { name: 'Review comment' }).fill('Grid 4 is off by 150 mm.');
    await idris.getByRole('button', { name: 'Add comment' }).click();
    await expect(idris.locator('article', { hasText: 'Grid 4 is off' })).toBeVisible();
    await idris.getByRole('button', { name: 'Finish with AGAIN' }).click();
    await expect(idris.locator('.page-head')).toContainText('Change and deliver again');
    await expect(page.locator('.page-head')).toContainText('Change and deliver again');
    await page.getByRole('button', { name: /unread notices/ }).click();
    await expect(page.getByRole('button', { name: /Answer AGAIN to review/ }).first()).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('send: a transmittal that arrives', async () => {
    await page.getByRole('link', { name: 'Send' }).click();
    await page.getByRole('button', { name: 'Send files' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.locator('.field', { hasText: 'Title' }).getByRole('textbox').fill('Plan and model');
    for (const code of ['BRK-TVA-ZZ-00-D-A-0101', 'BRK-HQS-ZZ-ZZ-M-S-0001']) {
      await dialog.getByRole('combobox', { name: 'Add a document' }).fill(code);
      await page.getByRole('option', { name: new RegExp(code) }).click();
    }
    await choose(page, 'Companies', 'Holmquay Structures');
    await dialog.getByRole('button', { name: 'Send 2 files to 1 person' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /0001 Plan and model/ })).toBeVisible();
    await expect(page.getByRole('row', { name: /Idris Callowby/ })).toContainText('not yet');
    await idris.goto(new URL(page.url()).pathname);
    const download = idris.waitForEvent('download');
    await idris.getByRole('button', { name: /Download all/ }).click();
    expect((await download).suggestedFilename()).toBe('Transmittal 0001.zip');
    await (await download).path();
    await expect(async () => {
      await page.reload();
      await expect(page.getByRole('row', { name: /Idris Callowby/ }).getByText('not yet')).toHaveCount(1, {
        timeout: 3000,
      });
    }).toPass();
  });

  await test.step('anywhere: the jump box and the related drawer', async () => {
    await page.keyboard.press('Control+k');
    await page.getByRole('textbox', { name: 'Jump to' }).fill('base plate');
    await page.locator('.box li', { hasText: 'Is the base plate' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /Is the base plate/ })).toBeVisible();
    await expect(page.getByRole('complementary', { name: 'Related' })).toContainText('BRK-HQS-ZZ-ZZ-M-S-0001');
    await page.goBack();
    await expect(page.getByRole('heading', { level: 1, name: /0001 Plan and model/ })).toBeVisible();
    await page.goForward();
    await expect(page.getByRole('heading', { level: 1, name: /Is the base plate/ })).toBeVisible();
  });
  expect(problems).toEqual([]);
});

test('the demo project has something worth looking at in every view', async ({ browser }) => {
  const page = await signIn(browser, 'Maren Tolvik');
  await page.getByRole('row', { name: /Orrin Point Lifeboat Station/ }).click();
  await expect(page.getByRole('row', { name: /ORP-TVA-ZZ-00-D-A-0101/ })).toBeVisible();
  for (const [stage, view, text] of [
    ['Set up', 'People', 'Noor Haddingley'],
    ['Set up', 'Roles', 'Register and folders'],
    ['Set up', 'Folders', 'Who may do what here'],
    ['Set up', 'Naming', 'Codes of the station'],
    ['Exchange', 'Intake', 'base plates new FINAL'],
    ['Examine', 'Viewpoints', 'Column 4N without base plate'],
    ['Resolve', 'Issues', 'Main duct runs through the beams'],
    ['Resolve', 'Reviews', 'Plans P02, second review'],
    ['Send', 'Transmittals', 'Section and elevation, accepted'],
  ] as const) {
    await page.getByRole('link', { name: stage }).click();
    await page.locator('.views').getByRole('link', { name: view }).click();
    await expect(page.locator('main').getByText(text).first()).toBeVisible();
  }
});

test('a client sees neither the intake nor what is not theirs, and is told so plainly', async ({ browser }) => {
  const page = await signIn(browser, 'Edda Quistgard');
  await page.getByRole('row', { name: /Orrin Point Lifeboat Station/ }).click();
  await expect(page.getByRole('row', { name: /ORP-TVA-ZZ-00-D-A-0101/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Deliver files' })).toHaveCount(0);
  await page.locator('.views').getByRole('link', { name: 'Intake' }).click();
  await expect(page.getByText('Nobody waits here')).toBeVisible();
  await page.goto(`${page.url().replace('/intake', '')}/containers/${crypto.randomUUID()}`);
  await expect(page.getByText('There is no such container, or you may not see it')).toBeVisible();
});

test('thousands of files at once: the empty ones are named, the others arrive, the page goes on', async ({
  browser,
}) => {
  const page = await signIn(browser, 'Maren Tolvik');
  await page.getByRole('row', { name: /Orrin Point breakwater/ }).click();
  await page.getByText('The register is empty').waitFor();
  const dropped = process.env.KS_LONG === '1' ? 10_000 : 2_000;
  await page.evaluate((dropped) => {
    const files = new DataTransfer();
    for (let n = 0; n < dropped; n++)
      files.items.add(
        new File(
          n % (dropped / 50) ? [] : [`%PDF-1.4 sheet ${n}`],
          `OPB-TVA-ZZ-00-D-A-${String(n).padStart(4, '0')}.pdf`,
        ),
      );
    document
      .querySelector('[data-test=register]')!
      .dispatchEvent(new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true }));
  }, dropped);
  const desk = page.getByRole('region', { name: 'Upload desk' });
  await expect(desk).toContainText('50 arrived, 0 on the way', { timeout: 60_000 });
  await expect(desk.getByText('The file is empty').first()).toBeVisible();
  await desk.getByRole('button', { name: /Deliver 50 files/ }).click();
  await expect(page.getByText('50 files delivered to the register')).toBeVisible();
  await expect(desk).toContainText('0 arrived, 0 on the way');
});
