/** `npm run shots`: the pictures in docs/screenshots, from the demo, at 1280 × 800. */
import { chromium } from '@playwright/test';
import fs from 'node:fs';
import path from 'node:path';
import { CHROMIUM_FLAGS, findChromium } from './chromium.mjs';
import { root } from './prepare.mjs';
import { openStage } from './stage.mjs';

const folder = path.join(root, 'docs/screenshots');
fs.mkdirSync(folder, { recursive: true });
const stage = await openStage();
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
try {
  await takeAll(await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: stage.address }));
} finally {
  await browser.close();
  await stage.close();
}

async function takeAll(page) {
  const take = async (name) => {
    await page.waitForLoadState('networkidle');
    await page.screenshot({ path: path.join(folder, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
  };
  const ask = (address) => page.evaluate((url) => fetch(url).then((response) => response.json()), address);

  await page.goto('/sign-in');
  await page.getByRole('button', { name: /Maren Tolvik/ }).click();
  await page.getByRole('row', { name: /Orrin Point Lifeboat/ }).waitFor();
  await take('portfolio');

  const { id } = (await ask('/api/projects')).find(({ number }) => number === 'ORP');
  const place = `/projects/${id}`;
  const view = async (name, address, ready) => {
    await page.goto(place + address);
    await ready.first().waitFor({ timeout: 60_000 });
    await take(name);
  };
  const text = (words) => page.locator('main').getByText(words);
  await view('roles', '/roles', page.getByRole('group', { name: 'Author, Issues' }));
  const folders = await ask(`/api${place}/folders`);
  const tender = folders.find(({ name }) => name === 'Tender');
  await view('folders', `/folders/${tender.id}`, page.getByRole('row', { name: /Greta Halvers/ }));
  await view('naming', '/naming', text('Codes of the station'));
  await view('register', '/register', page.locator('.table img'));

  const { items } = await ask(`/api${place}/containers?limit=200`);
  const plan = items.find(({ code }) => code === 'ORP-TVA-ZZ-00-D-A-0101');
  const twice = items.find(({ conflicting }) => conflicting);
  await view('container', `/containers/${twice.id}`, page.locator('.versions img'));
  await view('board', '/board', page.locator('.timeline .mark'));
  await page.goto(`${place}/sheets/${plan.id}`);
  await page.waitForFunction(() => document.querySelector('.paper canvas')?.width === 2200, undefined, {
    timeout: 60_000,
  });
  await take('sheet');

  const compared = items.find(({ code }) => code === 'ORP-TVA-CB-00-D-A-0111');
  await page.goto(`${place}/sheets/${compared.id}/changes`);
  await page.getByText('Moved by 2.00 mm').click();
  await page.waitForTimeout(1500);
  await take('sheet-changes');

  const models = items.filter(({ kind }) => kind === 'model').map(({ versionId }) => versionId);
  await page.goto(`${place}/scene?models=${models.join(',')}`);
  await page.locator(`canvas[data-models="${models.length}"]`).waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Colour', exact: true }).click();
  await page.getByRole('combobox', { name: 'Colour by' }).click();
  await page.keyboard.type('Material');
  await page.getByRole('option', { name: 'Material', exact: true }).click();
  await page.mouse.click(900, 330);
  await page.getByRole('region', { name: 'Properties' }).waitFor();
  await page.waitForTimeout(500);
  await page.locator('canvas[data-finished="true"]').waitFor({ timeout: 60_000 });
  await take('scene');

  const architecture = items.find(({ code }) => code === 'ORP-TVA-ZZ-ZZ-M-A-0001');
  await page.goto(`${place}/models/${architecture.id}/changes?before=1&after=3`);
  await page.getByText('Stair step 18').click();
  await page.locator('canvas[data-models="2"]').waitFor({ timeout: 60_000 });
  await page.waitForTimeout(6000);
  await take('model-changes');

  const rules = await ask(`/api${place}/clash-rules`);
  await page.goto(`${place}/clashes/${rules.find(({ name }) => name === 'Services against walls').id}`);
  await page.getByText('Boat hall slab against').waitFor();
  await page.locator('canvas[data-models="5"]').waitFor({ timeout: 60_000 });
  await page.getByText('Partition wall C-00-S against').click();
  await page.waitForTimeout(6000);
  await take('clashes');

  const issues = (await ask(`/api${place}/issues`)).items;
  await view('issues', '/issues', text('Main duct'));
  await view('issue', `/issues/${issues.find(({ number }) => number === 1).id}`, page.locator('.place img'));
  const { items: reviews } = await ask(`/api${place}/reviews`);
  await view('review', `/reviews/${reviews.find(({ number }) => number === 4).id}`, text('Finish your part'));
  const { items: transmittals } = await ask(`/api${place}/transmittals`);
  await view('transmittal', `/transmittals/${transmittals.at(-1).id}`, text('Receipts'));

  await page.goto('/desk');
  await page.getByRole('heading', { name: /Waiting for me/ }).waitFor();
  await take('desk');

  await page.setViewportSize({ width: 390, height: 844 });
  await view('phone', '/register', page.locator('.table img'));

  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${place}/register`);
  await page.locator('.table img').first().waitFor();
  const arriving = ['ORP-HQS-ZZ-00-D-S-0150.pdf', 'ORP-HQS-ZZ-00-D-S-0150.zip', 'ORP-TVA-ZZ-00-D-A-160.pdf'];
  await page
    .locator('input[type=file]')
    .setInputFiles(
      arriving.map((name) => ({ name, mimeType: 'application/pdf', buffer: Buffer.from(`%PDF-1.4 ${name}`) })),
    );
  await page.locator('.desk-badge').click();
  await page.getByText('3 arrived, 0 on the way').waitFor();
  await take('upload-desk');
}
