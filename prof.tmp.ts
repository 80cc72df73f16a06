import { chromium } from '@playwright/test';
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, showContainer } from '@kindred/contract/register/register';
import { ApiPerson } from './packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from './scripts/chromium.mjs';
import { openStage } from './scripts/stage.mjs';
import { largeModel } from './scripts/bench/large-model.ts';
const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0' } });
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
try {
  const api = new ApiPerson(stage.address, '');
  await api.call(createFirstPerson, { body: { name: 'Bench Person', email: 'bench@test.example', password: 'a long enough password' } });
  const project = await api.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
  const params = { projectId: project.id };
  const folders = await api.call(listFolders, { params });
  const uploadId = await api.upload(project.id, 'BEN-AAA-ZZ-ZZ-M-A-0001.ifc', largeModel(Number(process.argv[2] ?? 50000)));
  const { files } = await api.call(deliver, { params, body: { folderId: folders[0]!.id, files: [{ uploadId, code: 'BEN-AAA-ZZ-ZZ-M-A-0001' }] } });
  const { containerId } = files[0]!;
  for (;;) {
    const { container } = await api.call(showContainer, { params: { ...params, containerId } });
    if (container.preparation === 'ready') break;
    if (container.preparation === 'failed') throw new Error(container.preparationNote);
    await new Promise((r) => setTimeout(r, 300));
  }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('console', (m) => console.log('page:', m.text()));
  await page.goto(`${stage.address}/sign-in`);
  await page.getByRole('button', { name: /Bench Person/ }).click();
  await page.waitForURL((url) => url.pathname === '/');
  for (let i = 0; i < 6; i++) {
    await page.goto(`${stage.address}/projects/${project.id}/scene`);
    await page.getByText('BEN-AAA-ZZ-ZZ-M-A-0001').waitFor();
    await page.waitForTimeout(1500);
    if (i === 9) await browser.startTracing(page, { path: '/tmp/trace.json', categories: ['devtools.timeline','v8.execute','disabled-by-default-v8.cpu_profiler','disabled-by-default-devtools.timeline'] } as never);
    const r = await page.evaluate(async () => {
      const box = document.querySelector<HTMLInputElement>('.model input')!;
      const start = performance.now();
      (window as any).__t0 = start;
      box.click();
      let first = 0;
      for (;;) {
        await new Promise((resolve) => setTimeout(resolve, 2));
        const t = document.querySelector('[data-test=scene-stats]')!.textContent ?? '';
        if (!first && /^[1-9]/.test(t)) (first = performance.now() - start, (window as any).__f = t);
        if (first && !/still to come|left out/.test(t)) return { first, all: performance.now() - start, t, res: performance.getEntriesByType('resource').filter((e) => e.startTime > start).map((e: any) => [e.name.slice(-60), Math.round(e.startTime - start), Math.round(e.responseEnd - start)]), marks: performance.getEntriesByType('mark').map((m) => [m.name, Math.round(m.startTime - start)]) };
      }
    });
    if (i === 9) await browser.stopTracing();
    console.log(JSON.stringify(r));
  }
} finally { await browser.close(); await stage.close(); }
