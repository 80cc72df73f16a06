import { look } from './look.ts';
await look(async (page, project) => {
  await page.goto('http://127.0.0.1:8420/');
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/look/portfolio.png' });
  await page.goto(`http://127.0.0.1:8420/projects/${project}/federations`);
  await page.waitForTimeout(1500);
  await page.getByText('Coordinates', { exact: true }).click();
  await page.waitForTimeout(600);
  await page.screenshot({ path: '/tmp/look/federations.png', fullPage: true });
  await page.getByRole('button', { name: 'Place …' }).first().click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/look/placing.png' });
}, [1280, 800]);
