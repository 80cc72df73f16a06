/** What every path begins with. */
import type { Browser, BrowserContextOptions, Page } from '@playwright/test';

export async function signIn(
  browser: Browser,
  name: string,
  path = '/',
  options: BrowserContextOptions = {},
): Promise<Page> {
  const page = await (await browser.newContext(options)).newPage();
  await page.goto(`/sign-in?then=${encodeURIComponent(path)}`);
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
  return page;
}

/** Chooses in a field of Element Plus by what is read beside it. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('dialog').locator('.field', { hasText: label }).locator('.el-select').click();
  await page.locator('.el-select-dropdown:visible').getByRole('option', { name: option }).first().click();
  // Where several can be chosen the list stays open; in a dialog Escape closes what is innermost.
  const list = page.locator('.el-select-dropdown.is-multiple:visible');
  if (await list.count()) await page.keyboard.press('Escape');
  await page.locator('.el-select-dropdown:visible').first().waitFor({ state: 'hidden' });
}

/** Lets what is on the page, or chosen in it, pass a gate: the dialog says what will happen first. */
export async function pass(page: Page, action: 'Share' | 'Publish'): Promise<void> {
  await page.getByRole('button', { name: action, exact: true }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: new RegExp(`^${action}`) })
    .click();
  await page.getByRole('dialog').waitFor({ state: 'hidden' });
}

/** A file as a browser hands it over. */
export const textFile = (name: string, words: string) => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(words),
});
