import { look } from './look.mts';
await look(async (page, project, get) => {
  const base = `http://127.0.0.1:8420/projects/${project}`;
  await page.goto(`${base}/issues`);
  await page.getByText('For you to').first().waitFor({ timeout: 20000 }).catch(() => {});
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/look/i-table.png' });
  for (const as of ['board', 'calendar', 'map', 'charts']) {
    await page.goto(`${base}/issues?as=${as}${as === 'calendar' ? '&month=' : ''}`);
    await page.waitForTimeout(as === 'map' ? 3500 : 1500);
    await page.screenshot({ path: `/tmp/look/i-${as}.png` });
  }
  const { items } = await get('/issues');
  await page.goto(`${base}/issues/${items.at(-1).id}`);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: '/tmp/look/i-one.png', fullPage: true });
  await page.goto(`${base}/issue-settings`);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/look/i-settings.png' });
});
