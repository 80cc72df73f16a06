/** A thousand files at the intake: how soon they stand there, what a letter costs, what taking the nearest values for all costs. */
import { signInAsDemo } from '@kindred/contract/identity/identity';
import { showNaming } from '@kindred/contract/naming/naming';
import { deliver, listContainers } from '@kindred/contract/register/register';
import { listFolders } from '@kindred/contract/register/folders';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { checkName, nearestName } from '@kindred/core/naming/convention';
import { chromium, type Page } from '@playwright/test';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from '../chromium.mjs';
import { openStage } from '../stage.mjs';
import { alternating, report, timed } from './measure.ts';

const FILES = 1000;
const KEYS = 40;

const stage = await openStage({ demo: true, env: { KS_REQUESTS_PER_SECOND: '0', KS_COSTLY_PER_PROJECT: '100000' } });
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
try {
  const maren = new ApiPerson(stage.address, '');
  await maren.call(signInAsDemo, { body: { email: 'maren.tolvik@tva.example' } });
  const project = (await maren.call(listProjects)).find(({ number }) => number === 'ORP')!;
  const params = { projectId: project.id };
  const folder = (await maren.call(listFolders, { params })).find(({ path }) => path === 'Architecture / Drawings')!;
  const { conventions } = await maren.call(showNaming, { params });
  const convention = conventions.find(({ id }) => id === folder.conventionId) ?? conventions[0]!;
  // Each lacks what the nearest allowed value mends: a code that exists nowhere, and a number of its own.
  const codes = Array.from({ length: FILES }, (_, i) => `ORP-TVA-ZZ-00-DX-A-${String(5000 + i)}`);
  const files = [];
  for (const code of codes)
    files.push({ code, uploadId: await maren.upload(project.id, `${code}.txt`, Buffer.from(code)) });
  for (let i = 0; i < files.length; i += 250)
    await maren.call(deliver, { params, body: { folderId: folder.id, files: files.slice(i, i + 250) } });
  const { items } = await maren.call(listContainers, { params, query: { intake: true, limit: 1 } });
  if (!items.length) throw new Error('Nothing came to the intake.');

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: stage.address });
  await page.goto('/sign-in');
  await page
    .getByRole('button', { name: /Maren Tolvik/ })
    .first()
    .click();
  await page.waitForURL((url) => url.pathname === '/');
  const opened = (place: string, row: string) => async (): Promise<void> => {
    await page.goto(`/projects/${project.id}/${place}`);
    await page.locator(row).nth(3).waitFor();
  };
  report(
    `the first files of ${FILES} at the intake, ms, against the first page of the register`,
    await alternating(opened('intake', '.file-row'), opened('register', '.table .line'), 10),
    { atMost: 2 },
  );

  await opened('intake', '.file-row')();
  await page.getByRole('button', { name: 'Take the nearest values' }).waitFor();
  await page.waitForLoadState('networkidle');
  const letter = await lettersIn(page);
  report('script time of a letter typed in one of them, nine of ten, ms, against a frame of 16', letter, { atMost: 1 });

  const judged = await timed(() => {
    for (const code of codes) {
      const nearest = nearestName(convention.definition, checkName(convention.definition, code));
      checkName(convention.definition, nearest ?? code);
    }
  });
  const taken = await takeNearest(page);
  report(
    `taking the nearest values for ${FILES}, ms, against judging the names before and after`,
    { ours: taken, baseline: judged, ratio: taken / judged },
    { atMost: 3 },
  );
} finally {
  await browser.close();
  await stage.close();
}

async function lettersIn(page: Page) {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const scriptTime = async (): Promise<number> => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    return 1000 * (metrics.find(({ name }) => name === 'ScriptDuration')?.value ?? 0);
  };
  const input = page.locator('.file-row').nth(2).getByRole('textbox').nth(1);
  await input.focus();
  const times: number[] = [];
  for (let i = 0; i < KEYS; i++) {
    const before = await scriptTime();
    await page.keyboard.press('x');
    await page.evaluate(() => new Promise<void>((resolve) => requestAnimationFrame(() => resolve())));
    times.push((await scriptTime()) - before);
  }
  const ninth = times.sort((a, b) => a - b)[Math.floor(KEYS * 0.9)]!;
  return { ours: ninth, baseline: 16, ratio: ninth / 16 };
}

/** Milliseconds from the click until the page shows how many may go. */
async function takeNearest(page: Page): Promise<number> {
  return page.evaluate(async () => {
    const buttons = [...document.querySelectorAll('button')];
    const take = buttons.find(({ textContent }) => textContent?.includes('Take the nearest values'))!;
    const start = performance.now();
    take.click();
    await new Promise<void>((resolve) => requestAnimationFrame(() => requestAnimationFrame(() => resolve())));
    return performance.now() - start;
  });
}
