import { chromium } from 'playwright-core';
import { CHROMIUM_FLAGS, findChromium } from './scripts/chromium.mjs';
export async function look(use: (page: import('playwright-core').Page, project: string, get: (path: string) => Promise<any>) => Promise<void>, size: [number, number] = [1280, 800], person = 'Maren Tolvik') {
  const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
  const page = await browser.newPage({ viewport: { width: size[0], height: size[1] } });
  page.on('pageerror', (e) => console.log('PAGE ERROR', e.message));
  page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text()));
  await page.addInitScript('globalThis.__name = (f) => f');
  await page.goto('http://127.0.0.1:8420/sign-in');
  await page.getByRole('button', { name: person }).click();
  await page.waitForURL((u) => !u.pathname.includes('sign-in'));
  const get = (path: string) => page.evaluate((p) => fetch('/api' + p).then((r) => r.json()), path);
  const projects = await get('/projects');
  const project = (projects.items ?? projects).find((p: any) => p.number === 'ORP').id;
  await use(page, project, (p) => get(`/projects/${project}${p}`));
  await browser.close();
}
