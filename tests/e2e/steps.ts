/** What every path begins with. */
import type { Browser, Page } from '@playwright/test';

export async function signIn(browser: Browser, name: string, path = '/'): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await page.goto(`/sign-in?then=${encodeURIComponent(path)}`);
  await page.getByRole('button', { name: new RegExp(name) }).click();
  await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
  return page;
}

/** Chooses in a field of Element Plus by what is read beside it. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('dialog').locator('.field', { hasText: label }).locator('.el-select').click();
  await page.locator('.el-select-dropdown:visible').getByRole('option', { name: option }).first().click();
  await page.keyboard.press('Escape').catch(() => undefined);
}
