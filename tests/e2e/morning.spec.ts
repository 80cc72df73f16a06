/** A coordinator's first morning: from a template to a project whose every right and every name can be defended. */
import { expect, test, type Locator, type Page } from '@playwright/test';
import { choose, signIn } from './steps.ts';

const PEOPLE = [
  'Name;E-mail;Company;Code;Team;Roles',
  'Anja Morland;anja.morland@cli.example;Cliffside Engineers;CLI;Structures;Author',
  'Bram Teller;bram.teller@cli.example;Cliffside Engineers;CLI;Structures;Author + Reviewer',
  'Carl Ibsted;carl.ibsted@gro.example;Groundwell;GRO;Ground and water;Author',
  'Dora Venn;dora.venn@gro.example;Groundwell;GRO;Ground and water;Reviewer',
  'Emil Rask;emil.rask@ali.example;Alder Lines;ALI;Alignment;Author',
  'Fia Lund;fia.lund@ali.example;Alder Lines;ALI;Alignment;Reviewer',
  'Gus Hoyle;gus.hoyle@cou.example;County Roads;COU;;Client',
  'Hedy Marr;hedy.marr@cou.example;County Roads;COU;;Document controller',
  'Ivo Tasker;ivo.tasker@uti.example;Utility Works;UTI;Utilities;Author',
  'Jun Ostby;jun.ostby@uti.example;Utility Works;UTI;Utilitys;Author',
];

async function pick(page: Page, label: string, option: string): Promise<void> {
  const box = page.getByRole('combobox', { name: label, exact: true });
  await page.locator('.el-select').filter({ has: box }).click();
  await page.locator('.el-select-dropdown:visible').getByRole('option', { name: option, exact: true }).click();
}
const why = (page: Page) => page.getByRole('dialog', { name: 'Check access' });
async function ask(page: Page, person: string, act: string, folder: string): Promise<Locator> {
  await page.getByRole('button', { name: 'Check access' }).click();
  await pick(page, 'Person', person);
  await pick(page, 'Act', act);
  await pick(page, 'Folder', folder);
  return why(page).getByTestId('answer');
}

test('a coordinator’s first morning', async ({ browser }) => {
  const page = await signIn(browser, 'Maren Tolvik');
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));

  await test.step('a project from the template for lines', async () => {
    await page.getByRole('button', { name: 'New project' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.locator('.field', { hasText: 'Name' }).first().locator('input').fill('Coast road, third section');
    await choose(page, 'Kind', 'Road');
    await dialog.locator('.field', { hasText: 'Number' }).locator('input').fill('CR3');
    await dialog.getByText('A road, rail or water line').click();
    await dialog.getByRole('button', { name: 'Create project' }).click();
    await expect(page).toHaveURL(/register/);
  });
  const project = page.url().split('/register')[0]!;

  await test.step('its place and its survey position', async () => {
    await page.getByRole('link', { name: 'Set up' }).click();
    const field = (words: string) => page.locator('.field', { hasText: words }).locator('input');
    await field('Latitude').fill('54,2');
    await field('Longitude').fill('abc');
    await expect(page.getByText('One of the numbers cannot be read.')).toBeVisible();
    await field('Longitude').fill('-5.1');
    await field('True north').fill('-12.5');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('Saved.')).toBeVisible();
    await page.reload();
    await expect(field('Latitude')).toHaveValue('54.2');
    await expect(page.getByRole('img', { name: 'Survey position' })).toContainText('-12.5°');
  });

  await test.step('ten people pasted, one of them wrong, then mended', async () => {
    await page.getByRole('link', { name: 'People' }).click();
    await page.getByRole('button', { name: 'Add many' }).click();
    const box = page.getByLabel('People, one a line');
    await box.fill(PEOPLE.join('\n'));
    await expect(page.getByText('there is no team “Utilitys”; nearest is Utilities')).toBeVisible();
    await page.getByRole('button', { name: 'Add 9 people' }).click();
    await expect(page.getByText('9 people were added')).toBeVisible();
    await expect(box).toHaveValue(PEOPLE.at(-1)!);
    await box.fill(PEOPLE.at(-1)!.replace('Utilitys', 'Utilities'));
    await page.getByRole('button', { name: 'Add 1 person' }).click();
    await expect(page.getByText('11 people of 5 companies')).toBeVisible();
  });

  await test.step('a team gets its lead', async () => {
    await pick(page, 'Lead of Structures', 'Bram Teller');
    await page.reload();
    await expect(page.getByRole('row', { name: /^Structures/ })).toContainText('Bram Teller');
  });

  await test.step('roles compared and changed together, with who is affected', async () => {
    await page.getByRole('link', { name: 'Roles' }).click();
    await page.getByLabel('Choose Author').check();
    await page.getByLabel('Choose Client').check();
    await page
      .getByRole('group', { name: 'Author, Register and folders' })
      .getByRole('button', { name: 'delete' })
      .click();
    const affected = page.getByLabel('Who is affected');
    await expect(affected).toContainText('7 people are affected');
    await expect(affected).toContainText('Gus Hoyle');
    await page.getByRole('button', { name: 'Discard' }).click();
    await page
      .getByRole('group', { name: 'Reviewer, Register and folders' })
      .getByRole('button', { name: 'add' })
      .click();
    await expect(affected).toContainText('2 people are affected');
    await expect(affected).toContainText('Dora Venn');
    await affected.getByRole('button', { name: 'Save roles' }).click();
    await expect(affected).toBeHidden();
  });

  await test.step('folders, a team’s home, permissions inherited and overridden', async () => {
    await page.getByRole('link', { name: 'Folders' }).click();
    const tree = page.getByRole('tree');
    await tree.getByRole('treeitem', { name: /Project documents/ }).click();
    await page.getByLabel('Name of a new folder').fill('Contract');
    await page.getByRole('button', { name: /Below Project documents/ }).click();
    await expect(page.getByRole('heading', { name: 'Contract' })).toBeVisible();
    await pick(page, 'For whom', 'Author');
    await pick(page, 'Level', 'hidden');
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await expect(page.getByRole('row', { name: /Author role/ })).toContainText('here');
    await page.getByLabel('Name of a new folder').fill('Annexes');
    await page.getByRole('button', { name: /Below Contract/ }).click();
    await expect(page.getByRole('row', { name: /Author role/ })).toContainText('from Project documents / Contract');
    await pick(page, 'For whom', 'Emil Rask');
    await pick(page, 'Level', 'see');
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await expect(page.getByRole('row', { name: /Emil Rask person/ })).toContainText('here');
  });

  await test.step('a second convention for the contract, and a new party code in the first', async () => {
    await page.getByRole('link', { name: 'Naming' }).click();
    await page.getByRole('tab', { name: /Originator/ }).click();
    await page.locator('.field', { hasText: 'It is' }).locator('.el-select').click();
    await page.locator('.el-select-dropdown:visible').getByRole('option', { name: 'one of a list' }).click();
    await expect(page.getByText('a list needs at least one value')).toBeVisible();
    await page.getByRole('button', { name: 'Codes of the companies' }).click();
    await expect(page.getByTestId('example')).toHaveText(/^CR3-ALI-/);
    await page.getByRole('button', { name: 'Add value' }).click();
    await page.getByLabel('Code', { exact: true }).last().fill('A-B');
    await expect(page.getByText('holds the separator')).toBeVisible();
    await page.getByLabel('Code', { exact: true }).last().fill('LUX');
    await page.getByLabel('Its meaning').last().fill('Lux Lighting');
    await expect(page.getByLabel('Effect on existing names')).toContainText('0 stop conforming');
    await page.getByLabel('Name to try').fill('CR3-LUX-ZZ-S9-D-C-0001');
    await expect(page.locator('.verdict')).toContainText('Space “S9” is not an allowed value');
    await page.getByLabel('Reason').fill('Lighting was forgotten');
    await page.getByRole('button', { name: 'Make edition 2' }).click();
    await expect(page.getByText('Edition 2 of')).toBeVisible();
    await expect(page.getByRole('row', { name: /Lighting was forgotten/ })).toContainText('holds');
  });

  await test.step('a file is delivered, and a stricter convention says what it would stop', async () => {
    await page.getByRole('link', { name: 'Exchange' }).click();
    await page.locator('input[type=file]').setInputFiles({
      name: 'CR3-LUX-ZZ-S1-D-C-0001.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('%PDF-1.4 a sheet'),
    });
    await page.getByRole('button', { name: /^Deliver 1 file/ }).click();
    await expect(page.getByText('1 file delivered')).toBeVisible();
    await page.goto(`${project}/naming`);
    await page.getByRole('tab', { name: /Number/ }).click();
    await page.getByLabel('Fixed length').fill('5');
    const effect = page.getByLabel('Effect on existing names');
    await expect(effect).toContainText('1 stop conforming');
    await expect(effect).toContainText('CR3-LUX-ZZ-S1-D-C-0001');
    await effect.getByRole('button', { name: 'Discard' }).click();
  });

  await test.step('“why can she not …?” is answered', async () => {
    await page.goto(`${project}/people`);
    const answer = await ask(page, 'Anja Morland', 'see what lies in', 'Project documents / Contract');
    await expect(answer).toContainText('No');
    await expect(answer).toContainText('A permission here sets “hidden” for the role Author');
    await pick(page, 'Person', 'Emil Rask');
    await pick(page, 'Folder', 'Project documents / Contract / Annexes');
    await expect(answer).toContainText('Yes');
    await pick(page, 'Act', 'deliver to');
    await pick(page, 'Folder', 'Structures / Models');
    await expect(answer).toContainText('is the home of Structures; Emil Rask is in Alignment');
  });

  await test.step('the next such project begins from this one', async () => {
    await page.goto(`${project}/details`);
    await page.getByRole('button', { name: 'Save as template …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Save as template' });
    await dialog.locator('.field', { hasText: 'Name' }).locator('input').fill('Our coast roads');
    await dialog.getByRole('button', { name: 'Save template' }).click();
    await expect(dialog).toBeHidden();
    await page.goto('/');
    await page.getByRole('button', { name: 'New project' }).click();
    await expect(page.getByRole('radio', { name: /Our coast roads.*16 folders, 4 teams, 5 roles/ })).toBeVisible();
  });
  expect(problems).toEqual([]);
});
