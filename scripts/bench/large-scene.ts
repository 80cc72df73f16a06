/** A large model that is delivered and prepared, and a page that opens it in the scene. */
import { chromium, type Page } from '@playwright/test';
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, downloadProduct, showContainer } from '@kindred/contract/register/register';
import { addressOf } from '@kindred/client/client';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from '../chromium.mjs';
import { openStage } from '../stage.mjs';
import { largeModel } from './large-model.ts';
import { report } from './measure.ts';

const CODE = 'BEN-AAA-ZZ-ZZ-M-A-0001';

export interface LargeScene {
  address: string;
  api: ApiPerson;
  projectId: string;
  versionId: string;
  page: Page;
  newPage(): Promise<Page>;
  /** Bytes of all that is made of the model for the page, not compressed. */
  packageBytes(): Promise<number>;
  /** Milliseconds from the click until its first part is drawn, and until all of it is. */
  open(): Promise<{ first: number; all: number }>;
  /** Milliseconds of script in each frame while one turns the model by hand, in ascending order. */
  turn(): Promise<number[]>;
  draws(): Promise<number>;
}

export async function withLargeScene(elements: number, run: (scene: LargeScene) => Promise<void>): Promise<void> {
  const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0' } });
  const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
  try {
    const api = new ApiPerson(stage.address, '');
    await api.call(createFirstPerson, {
      body: { name: 'Bench Person', email: 'bench@test.example', password: 'a long enough password' },
    });
    const { id: projectId } = await api.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
    const params = { projectId };
    const folders = await api.call(listFolders, { params });
    const uploadId = await api.upload(projectId, `${CODE}.ifc`, largeModel(elements));
    const { files } = await api.call(deliver, {
      params,
      body: { folderId: folders[0]!.id, files: [{ uploadId, code: CODE }] },
    });
    const { containerId, versionId } = files[0]!;
    for (;;) {
      const { container } = await api.call(showContainer, { params: { ...params, containerId } });
      if (container.preparation === 'ready') break;
      if (container.preparation === 'failed') throw new Error(container.preparationNote);
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // Functions are named by what runs this file; in the page nobody does.
    await page.addInitScript('globalThis.__name = (named) => named');
    await page.goto(`${stage.address}/sign-in`);
    await page.getByRole('button', { name: /Bench Person/ }).click();
    await page.waitForURL((url) => url.pathname === '/');
    const product = (name: string, part?: number): string =>
      addressOf(downloadProduct, { projectId, versionId, product: name }, { part });
    await run({
      ...{ address: stage.address, api, projectId, versionId, page },
      newPage: () => browser.newPage(),
      packageBytes: () =>
        page.evaluate(
          async (addresses) => {
            let bytes = 0;
            for (const address of addresses) {
              const response = await fetch(address);
              if (response.ok) bytes += (await response.arrayBuffer()).byteLength;
            }
            return bytes;
          },
          [product('elements'), product('scene'), ...Array.from({ length: 20 }, (_, i) => product('scene', i + 1))],
        ),
      async open() {
        await page.goto(`${stage.address}/projects/${projectId}/scene`);
        await page.getByText(CODE).waitFor();
        // Neither side pays for starting its engine: shaders here, WebAssembly there.
        await page.waitForTimeout(1000);
        return page.evaluate(async () => {
          const box = document.querySelector<HTMLInputElement>('.model input')!;
          const start = performance.now();
          box.click();
          for (let first = 0; ;) {
            await new Promise((resolve) => setTimeout(resolve, 2));
            const said = document.querySelector('[data-test=scene-stats]')!.textContent ?? '';
            if (/^[1-9]/.test(said)) first ||= performance.now() - start;
            if (first && !said.includes('(')) return { first, all: performance.now() - start };
          }
        });
      },
      async turn() {
        await page.locator('canvas[data-finished="true"]').waitFor({ timeout: 240_000 });
        return page.evaluate(async () => {
          const canvas = document.querySelector('canvas')!;
          const { left, top, width, height } = canvas.getBoundingClientRect();
          const point = (type: string, x: number): void => {
            const at = {
              clientX: left + width / 2 + x,
              clientY: top + height / 2,
              buttons: 1,
              button: 0,
              pointerId: 1,
            };
            for (const target of [canvas, document])
              target.dispatchEvent(
                new PointerEvent(type, { ...at, bubbles: true, isPrimary: true, pointerType: 'mouse' }),
              );
          };
          // All callbacks of a frame have the same time.
          const frames = new Map<number, number>();
          const ask = window.requestAnimationFrame.bind(window);
          window.requestAnimationFrame = (run) =>
            ask((time) => {
              const began = performance.now();
              run(time);
              frames.set(time, (frames.get(time) ?? 0) + performance.now() - began);
            });
          point('pointerdown', 0);
          for (let i = 1; i <= 60; i++) {
            point('pointermove', i * 4);
            await new Promise((resolve) => ask(resolve));
          }
          point('pointerup', 240);
          window.requestAnimationFrame = ask;
          return [...frames.values()].sort((a, b) => a - b);
        });
      },
      draws: async () => Number(/(\d+) draws/.exec(await page.locator('[data-test=scene-stats]').innerText())![1]),
    });
  } finally {
    await browser.close();
    await stage.close();
  }
}

/** That nine of ten stay within. */
export const usual = (ascending: readonly number[]): number => ascending[Math.floor(ascending.length * 0.9)]!;

export function reportFrames(script: readonly number[], elements: string, limit: number): void {
  const frame = usual(script);
  report(
    `script in a frame while ${elements} elements turn, ms, nine of ten of ${script.length}, against ${limit} ms`,
    { ours: frame, baseline: limit, ratio: frame / limit },
    { atMost: 1 },
  );
}
