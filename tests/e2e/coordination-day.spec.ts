/** A coordination day: three disciplines deliver, their models clash, a fix is delivered, the issue is closed on what one sees. */
import { expect, test, type Page } from '@playwright/test';
import type { Part, Vector } from '../../packages/demo/src/building/parts.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { choose, pass, signIn } from './steps.ts';

const part = (name: string, of: string, at: Vector, size: Vector): Part => ({
  ...{ key: name, class: of.toUpperCase(), name, type: of.slice(3), material: 'Steel' },
  ...{ colour: [0.5, 0.5, 0.52] as Vector, storey: '00 Ground', at, size },
});
const wall = part('Hall wall', 'IfcWall', [0, 6, 4.2], [12, 0.3, 4]);
const beams = [0, 1, 2, 3].map((i) => part(`Beam ${i + 1}`, 'IfcBeam', [1 + 3 * i, 0, 7], [0.2, 6, 0.4]));
const duct = (height: number) => part('Main duct', 'IfcDuctSegment', [0, 2, height], [12, 0.5, 0.3]);
const file = (code: string, parts: readonly Part[]) => ({
  name: `${code}.ifc`,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(writeModel(parts, { title: code, organisation: 'Nobody', schema: 'IFC4' })),
});
const DUCTS = 'BHA-BWS-ZZ-ZZ-M-M-0001';
const FIRST = [
  file('BHA-TVA-ZZ-ZZ-M-A-0001', [wall]),
  file('BHA-HQS-ZZ-ZZ-M-S-0001', beams),
  file(DUCTS, [duct(7.05)]),
];

async function deliver(page: Page, one: ReturnType<typeof file>): Promise<void> {
  await page.goto(`${place(page)}/register`);
  await page.locator('input[data-test=files]').setInputFiles([one]);
  const desk = page.getByRole('region', { name: 'Upload desk' });
  await desk.getByRole('button', { name: 'Deliver 1 file' }).click();
  await expect(desk.getByText(one.name)).toBeHidden();
}
async function share(page: Page, code: string): Promise<void> {
  await page.goto(`${place(page)}/register`);
  const row = page.getByRole('row', { name: new RegExp(code) });
  await row.getByRole('link').last().click();
  await expect(page.locator('.page-head').getByRole('button', { name: 'Open' })).toBeEnabled();
  await pass(page, 'Share');
  await expect(page.locator('.page-head')).toContainText('shared');
}
const place = (page: Page): string => /^\/projects\/[^/]+/.exec(new URL(page.url()).pathname)![0];

test('a coordination day, from the first models to a clash that is gone', async ({ browser }) => {
  const page = await signIn(browser, 'Maren Tolvik');
  const dialog = page.getByRole('dialog');
  const list = page.getByRole('complementary', { name: 'Clashes' });

  await test.step('three disciplines deliver and share', async () => {
    await page.getByRole('button', { name: 'New project' }).click();
    await dialog.locator('.field', { hasText: 'Name' }).first().getByRole('textbox').fill('Boat hall annex');
    await choose(page, 'Kind', 'Harbour');
    await dialog.locator('.field', { hasText: 'Number' }).getByRole('textbox').fill('BHA');
    await page.getByRole('button', { name: 'Create project' }).click();
    await expect(page.getByText('The register is empty')).toBeVisible();
    for (const one of FIRST) {
      await deliver(page, one);
      await share(page, one.name.replace('.ifc', ''));
    }
  });

  await test.step('a federation of the whole project has all three, each at its newest version', async () => {
    await page.getByRole('link', { name: 'Examine' }).click();
    await page.getByRole('link', { name: 'Federations' }).click();
    await page.getByRole('button', { name: 'Make the first federation' }).click();
    await dialog.getByRole('textbox').first().fill('Coordination');
    await dialog.getByRole('button', { name: 'Make federation' }).click();
    await expect(page.getByRole('row', { name: /BHA-/ })).toHaveCount(3);
  });

  await test.step('a model is put to the others, and lies as it was delivered again', async () => {
    await page.getByText('Coordinates', { exact: true }).click();
    const row = page.getByRole('row', { name: /BHA-TVA/ }).last();
    await row.getByRole('button', { name: 'Place …' }).click();
    await dialog.getByLabel('Turn, ° counter-clockwise').fill('90');
    await dialog.getByLabel('Shift along x').fill('12.5');
    await dialog.getByRole('button', { name: 'Place model' }).click();
    await expect(row).toContainText('Put here turned by 90°, shifted by 12.5 / 0 / 0 m. Maren Tolvik');
    await row.getByRole('button', { name: 'As it was delivered' }).click();
    await expect(row).not.toContainText('Put here');
  });

  await test.step('a rule finds the duct in four beams, as one thing to decide', async () => {
    await page.getByRole('button', { name: 'Add a rule' }).click();
    await expect(dialog).toContainText('Ducts, pipes and cables against');
    await dialog.getByRole('button', { name: 'Add and run' }).click();
    await page.getByRole('link', { name: 'Services against structure' }).click();
    await expect(list.getByRole('status')).toContainText('Ran ');
    await expect(list.getByRole('group', { name: 'States of clashes' })).toContainText('4 new');
    await list.getByText('Main duct against 4 × Beam').click();
    await expect(page.getByRole('region', { name: 'Clash', exact: true })).toContainText('up to 200 mm deep');
    await expect(page.locator('canvas[data-models="2"]')).toBeVisible();
  });

  await test.step('the group becomes an issue that leads there', async () => {
    await page.getByRole('button', { name: 'Raise an issue from them' }).click();
    await expect(dialog.getByRole('textbox').first()).toHaveValue('Main duct against 4 × Beam');
    await dialog.getByRole('button', { name: 'Raise issue' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('Main duct against 4 × Beam');
    await expect(page.getByRole('region', { name: 'Clashes of the issue' })).toContainText(
      '4 of 4 clashes are there still',
    );
  });
  const issue = page.url();

  await test.step('the fix is delivered and shared; the rule runs by itself', async () => {
    await deliver(page, file(DUCTS, [duct(6.5)]));
    await expect(page.getByRole('row', { name: new RegExp(DUCTS) })).toContainText('P02');
    await share(page, DUCTS);
  });

  await test.step('the comparison shows what moved and by how much, in both versions', async () => {
    await page.getByRole('link', { name: /1 change since version 1/ }).click();
    const changes = page.getByRole('complementary', { name: 'Changes' });
    await expect(changes.getByRole('status')).toHaveText('1 change');
    await changes.getByText('Main duct').click();
    const details = page.getByRole('region', { name: 'What changed' });
    await expect(details).toContainText('moved by 0.55 m (0, 0, -0.55)');
    await expect(details.getByRole('region', { name: 'History of the element' })).toContainText(
      'there from the first version on',
    );
    await page.getByRole('button', { name: 'Side by side' }).click();
    await expect(page.locator('canvas[data-models="1"]')).toHaveCount(2);
  });

  await test.step('the clashes are gone, and the issue is closed on it', async () => {
    await page.goto(issue);
    const watch = page.getByRole('region', { name: 'Clashes of the issue' });
    await expect(watch).toContainText('All 4 clashes are gone');
    await watch.getByRole('button', { name: 'Close the issue' }).click();
    await expect(page.locator('.page-head')).toContainText('closed');
    await watch.getByRole('link', { name: 'Services against structure' }).click();
    await expect(list.getByRole('group', { name: 'States of clashes' })).toContainText('4 gone');
  });

  await test.step('the issue goes to another program, as a BCF file', async () => {
    await page.getByRole('link', { name: 'Resolve' }).click();
    await page.getByRole('link', { name: 'Issues', exact: true }).click();
    await page.getByRole('button', { name: 'BCF', exact: true }).click();
    const saved = page.waitForEvent('download', { timeout: 60_000 });
    await page.getByRole('menuitem', { name: 'Export as BCF 3.0' }).click();
    expect((await saved).suggestedFilename()).toMatch(/^Issues BHA .*\.bcf$/);
  });
});
