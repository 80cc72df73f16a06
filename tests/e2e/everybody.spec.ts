/** Every view and dialog for everybody: read by screen readers, used by keyboard alone, on a phone, at twice the size. */
import { expect, test, type Page } from '@playwright/test';
import axe from 'axe-core';
import { signIn } from './steps.ts';

/** The views of a project by their path; `ready`: what stands there when it has come. */
const VIEWS: [path: string, ready: string][] = [
  ['details', 'h1'],
  ['people', 'tbody tr'],
  ['roles', '.cells'],
  ['folders', '[role=treeitem]'],
  ['naming', '[role=tab]'],
  ['gates', 'h1'],
  ['issue-settings', 'h1'],
  ['stamps', 'h1'],
  ['two-files', 'h1'],
  ['title-blocks', 'h1'],
  ['audit', 'tbody tr'],
  ['register', '.line img'],
  ['intake', '.verdict, .arrival, h1'],
  ['sheet-register', 'tbody tr'],
  ['share-sets', 'h1'],
  ['bin', 'h1'],
  ['upload-desk', 'h1'],
  ['board', '.matrix'],
  ['sheets', 'nav .entry, .pull'],
  ['scene', '.model, .pull'],
  ['federations', 'tbody tr'],
  ['clashes', '.el-tree-node, .pull'],
  ['viewpoints', 'article'],
  ['scene/beside', 'h1'],
  ['issues', 'tbody tr'],
  ['reviews', 'tbody tr'],
  ['transmittals', 'tbody tr'],
];
const OUTSIDE = ['/', '/desk', '/me', '/outbox', '/help/api'];
/** Dialogs by the view and the button that opens them. */
const DIALOGS: [path: string, button: string | RegExp][] = [
  ['people', 'Check access'],
  ['people', 'Add many'],
  ['people', 'Add person'],
  ['details', /Save as template/],
  ['stamps', 'New stamp'],
  ['federations', 'New federation'],
  ['federations', 'Add a rule'],
  ['issues', 'Raise issue'],
  ['reviews', 'Start a review'],
  ['transmittals', 'Send files'],
];

async function findings(page: Page): Promise<string[]> {
  await page.evaluate(axe.source);
  return page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
      resultTypes: ['violations'],
    });
    return violations
      .filter(({ impact, id }) => impact === 'serious' || impact === 'critical' || id === 'page-has-heading-one')
      .flatMap(({ id, nodes }) => nodes.map(({ html }) => `${id}: ${html.slice(0, 160)}`));
  });
}
const sideways = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
/** Things that stick out of the window and cannot be reached by scrolling something meant for it. */
const cutOff = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const scrolls = (element: Element | null): boolean =>
      element !== null &&
      element.scrollWidth > element.clientWidth + 1 &&
      /tool-strip|grid|strip|table/.test(element.className);
    return [...document.querySelectorAll('main :is(button, a, input, h1, h2, p)')].flatMap((element) => {
      const { right, left, width } = element.getBoundingClientRect();
      if (!width || (right <= window.innerWidth + 1 && left >= -1)) return [];
      for (let up = element.parentElement; up; up = up.parentElement) if (scrolls(up)) return [];
      return [`${element.tagName} ${element.textContent?.trim().slice(0, 40)}`];
    });
  });

let place = '';
test.beforeAll(async ({ browser }) => {
  const page = await signIn(browser, 'Maren Tolvik');
  const projects = await page.evaluate(() => fetch('/api/projects').then((answer) => answer.json()));
  place = `/projects/${(projects as { number: string; id: string }[]).find(({ number }) => number === 'ORP')!.id}`;
  await page.context().close();
});

async function openPage(browser: Parameters<typeof signIn>[0], width: number, height: number): Promise<Page> {
  const page = await signIn(browser, 'Maren Tolvik', '/', { bypassCSP: true, viewport: { width, height } });
  page.on('pageerror', (error) => expect.soft(error.message).toBe('no error'));
  return page;
}
async function visit(page: Page, path: string, ready: string): Promise<void> {
  await page.goto(`${place}/${path}`);
  await page.locator(`main :is(${ready})`).first().waitFor({ state: 'attached' });
  await page.waitForLoadState('networkidle');
}

test('screen readers find nothing serious in any view, and each has a title of its own', async ({ browser }) => {
  const page = await openPage(browser, 1280, 800);
  const titles = new Set<string>();
  for (const [path, ready] of VIEWS) {
    await visit(page, path, ready);
    expect.soft(await findings(page), path).toEqual([]);
    titles.add(await page.title());
  }
  expect(titles.size).toBe(VIEWS.length);
  const { items } = await page.evaluate(
    (list) => fetch(list).then((answer) => answer.json()),
    `/api${place}/containers?kind=drawing&limit=50`,
  );
  const plan = (items as { id: string; code: string }[]).find(({ code }) => code === 'ORP-TVA-CB-00-D-A-0111')!;
  await visit(page, `sheets/${plan.id}/changes`, 'ol li');
  expect.soft(await findings(page), 'changes of a sheet').toEqual([]);
  const models = await page.evaluate(
    (list) => fetch(list).then((answer) => answer.json()),
    `/api${place}/containers?kind=model&limit=50`,
  );
  const model = (models.items as { id: string; code: string }[]).find(({ code }) => code === 'ORP-TVA-ZZ-ZZ-M-A-0001')!;
  await visit(page, `models/${model.id}/changes`, '.el-tree-node');
  expect.soft(await findings(page), 'changes of a model').toEqual([]);
  for (const path of OUTSIDE) {
    await page.goto(path);
    await page.locator('main h1').waitFor();
    await page.waitForLoadState('networkidle');
    expect.soft(await findings(page), path).toEqual([]);
  }
  await page.context().clearCookies();
  await page.goto('/sign-in');
  await page.getByRole('button', { name: /Maren Tolvik/ }).waitFor();
  expect.soft(await findings(page), 'sign-in').toEqual([]);
});

test('dialogs begin in their first field, close by Escape and give the focus back', async ({ browser }) => {
  const page = await openPage(browser, 1280, 800);
  for (const [path, name] of DIALOGS) {
    const [, ready] = VIEWS.find(([view]) => view === path)!;
    await visit(page, path, ready);
    const button = page.getByRole('main').getByRole('button', { name }).first();
    await button.focus();
    await page.keyboard.press('Enter');
    const dialog = page.getByRole('dialog');
    await dialog.waitFor();
    await expect(
      dialog.locator('input:focus, textarea:focus, [role=combobox]:focus').first(),
      String(name),
    ).toBeAttached();
    expect.soft(await findings(page), String(name)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(dialog).toBeHidden();
    await expect(button).toBeFocused();
  }
});

test('the register is used by keyboard alone', async ({ browser }) => {
  const page = await openPage(browser, 1280, 800);
  await visit(page, 'register', '.line img');
  const rows = page.locator('.line[data-index]');
  await rows.first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(rows.nth(1)).toBeFocused();
  // Somebody may deliver meanwhile: then there is another last one.
  await expect(async () => {
    await page.keyboard.press('End');
    await expect(rows.last()).toBeFocused({ timeout: 2000 });
  }).toPass();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.locator('.line[aria-selected=true]')).toHaveCount(3);
  await page.keyboard.press('F2');
  await expect(page.getByRole('textbox', { name: /^Title of/ })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Save the list as a file' }).focus();
  await page.keyboard.press('Enter');
  const saved = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'As CSV' }).press('Enter');
  expect((await saved).suggestedFilename()).toMatch(/^Register .*\.csv$/);
  await page.getByRole('button', { name: /Your work in the background/ }).click();
  await expect(page.getByRole('button', { name: /^Download Register/ }).first()).toBeVisible();
});

test('a list chooses what is typed with Enter, the roles grid is one stop with arrows', async ({ browser }) => {
  const page = await openPage(browser, 1280, 800);
  await visit(page, 'people', 'tbody tr');
  await page.getByRole('main').getByRole('button', { name: 'Check access' }).click();
  const person = page.getByRole('dialog').getByRole('combobox', { name: 'Person' });
  await expect(person).toBeFocused();
  await page.keyboard.type('Petra');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('answer')).toBeVisible();
  await page.keyboard.press('Escape');
  await visit(page, 'roles', '.cells');
  await expect(page.locator('.cells button[tabindex="0"]')).toHaveCount(1);
  const cells = page.getByRole('group', { name: /^Author, Register/ }).getByRole('button');
  await cells.first().focus();
  await page.keyboard.press('ArrowRight');
  await expect(cells.nth(1)).toBeFocused();
});

for (const [what, width, height] of [
  ['on a phone', 390, 844],
  ['at twice the size', 640, 400],
] as const)
  test(`nothing is cut off or has to be scrolled sideways ${what}`, async ({ browser }) => {
    const page = await openPage(browser, width, height);
    for (const [path, ready] of VIEWS) {
      await visit(page, path, ready);
      expect.soft(await sideways(page), path).toBeLessThanOrEqual(0);
      expect.soft(await cutOff(page), path).toEqual([]);
    }
    for (const path of OUTSIDE) {
      await page.goto(path);
      await page.locator('main h1').waitFor();
      expect.soft(await sideways(page), path).toBeLessThanOrEqual(0);
      expect.soft(await cutOff(page), path).toEqual([]);
    }
  });
