/** Opening a prepared model of 50,000 elements in the browser until it is drawn, against parsing its IFC there. */
import { changeRoles } from '@kindred/contract/people/people';
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { reportFrames, usual, withLargeScene } from './large-scene.ts';
import { ratio, report } from './measure.ts';

await withLargeScene(50_000, async ({ address, api, projectId, versionId, page, newPage, open, turn, draws }) => {
  const webIfc = path.dirname(createRequire(import.meta.url).resolve('web-ifc'));
  const parsing = await newPage();
  await parsing.route('**/bench/**', (route) => {
    const name = new URL(route.request().url()).pathname.split('/').at(-1)!;
    if (name === 'page')
      return route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>baseline</title>' });
    return route.fulfill({
      contentType: name.endsWith('.js') ? 'text/javascript' : 'application/wasm',
      body: fs.readFileSync(path.join(webIfc, name)),
    });
  });
  const parse = async (): Promise<number> => {
    await parsing.goto(`${address}/bench/page`);
    return parsing.evaluate(async (file) => {
      const library = '/bench/web-ifc-api.js';
      const { IfcAPI } = (await import(library)) as typeof import('web-ifc');
      const api = new IfcAPI();
      api.SetWasmPath('/bench/', true);
      await api.Init(undefined, true);
      const start = performance.now();
      const bytes = new Uint8Array(await (await fetch(file)).arrayBuffer());
      const model = api.OpenModel(bytes);
      api.StreamAllMeshes(model, (mesh) => {
        for (let i = 0; i < mesh.geometries.size(); i++) {
          const geometry = api.GetGeometry(model, mesh.geometries.get(i).geometryExpressID);
          api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
          geometry.delete();
        }
      });
      return performance.now() - start;
    }, `/api/projects/${projectId}/versions/${versionId}/file`);
  };
  await parsing.context().addCookies(await page.context().cookies());
  const opened: Awaited<ReturnType<typeof open>>[] = [];
  const openAndKeep = async (): Promise<number> => {
    opened.push(await open());
    return opened.at(-1)!.all;
  };
  const all = await ratio(openAndKeep, parse, 5);
  report('opening 50,000 prepared elements in the browser, ms, against parsing their IFC there', all, { atMost: 0.1 });
  const first = opened.map((one) => one.first).sort((a, b) => a - b)[opened.length >> 1]!;
  report(
    'the first picture of them, ms, against the same',
    { ours: first, baseline: all.baseline, ratio: first / all.baseline },
    { atMost: 0.02 },
  );
  const calls = await draws();
  report('draw calls for 50,000 elements', { ours: calls, baseline: 1, ratio: calls }, { atMost: 80 });

  reportFrames(await turn(), '50,000', 4);

  // 40 roles side by side: what the page does between a click and the finished grid.
  const grid = { register: ['see', 'add'], issues: ['see'] } as const;
  await api.call(changeRoles, {
    params: { projectId },
    body: {
      change: [],
      remove: [],
      add: Array.from({ length: 35 }, (_, i) => ({
        name: `Role ${i}`,
        grid: { register: [...grid.register], issues: [...grid.issues] },
      })),
    },
  });
  await page.goto(`${address}/projects/${projectId}/roles`);
  await page.getByLabel('Choose Role 34').waitFor();
  const edits = await page.evaluate(async () => {
    const cells = [...document.querySelectorAll<HTMLButtonElement>('.cells button')];
    const times: number[] = [];
    for (let i = 0; i < 60; i++) {
      const cell = cells[(i * 37) % cells.length]!;
      const start = performance.now();
      cell.click();
      await new Promise((resolve) => queueMicrotask(() => queueMicrotask(() => resolve(null))));
      times.push(performance.now() - start);
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
    return times.sort((a, b) => a - b);
  });
  const slow = usual(edits);
  report(
    'script time of an edit in the grid of 40 roles, ms, nine of ten edits, against a frame',
    { ours: slow, baseline: 16, ratio: slow / 16 },
    { atMost: 1 },
  );
});
