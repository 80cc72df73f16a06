/** The drawing table at work: the first picture, panning over many markups, words in thousands of sheets, markups of hundreds of drawings taken along. */
import { PDFDocument } from '@cantoo/pdf-lib';
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { startMarkupSetExport } from '@kindred/contract/markup/markup';
import { listLongJobs } from '@kindred/contract/platform/jobs';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, showContainer } from '@kindred/contract/register/register';
import { chromium, type Page } from '@playwright/test';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import fs from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from '../chromium.mjs';
import { openStage } from '../stage.mjs';
import { alternating, ratio, report, timed } from './measure.ts';
import { seeded } from './seeded.ts';

const [WIDTH, HEIGHT] = [3370, 2384];
const MEGABYTES = 30;

/** A0 with lines, and with photographs until it is as large as that. */
async function heavySheet(): Promise<Uint8Array> {
  const random = seeded(5);
  const pdf = await PDFDocument.create();
  const page = pdf.addPage([WIDTH, HEIGHT]);
  const parts: string[] = [];
  for (let i = 0; i < 30_000; i++) {
    const [x, y] = [random() * WIDTH, random() * HEIGHT];
    parts.push(`${x.toFixed(1)} ${y.toFixed(1)} m ${(x + random() * 60).toFixed(1)} ${(y + 9).toFixed(1)} l S`);
  }
  page.node.addContentStream(pdf.context.register(pdf.context.flateStream(parts.join('\n'))));
  const side = 1000;
  const pictures = Math.ceil((MEGABYTES * 1e6) / (side * side * 3));
  for (let i = 0; i < pictures; i++) {
    const pixels = new Uint8Array(side * side * 3);
    for (let k = 0; k < pixels.length; k++) pixels[k] = random() * 256;
    const image = pdf.context.stream(pixels, {
      ...{ Type: 'XObject', Subtype: 'Image', Width: side, Height: side },
      ...{ ColorSpace: 'DeviceRGB', BitsPerComponent: 8 },
    });
    const name = page.node.newXObject('P', pdf.context.register(image));
    const at = `q 300 0 0 300 ${(i * 317) % 3000} ${(i * 211) % 2000} cm ${name.toString()} Do Q`;
    page.node.addContentStream(pdf.context.register(pdf.context.stream(at)));
  }
  return pdf.save({ useObjectStreams: false });
}

const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0' } });
const pool = new pg.Pool({ connectionString: stage.databaseUrl, max: 4 });
const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
try {
  const api = new ApiPerson(stage.address, '');
  const { person } = await api.call(createFirstPerson, {
    body: { name: 'Bench Person', email: 'bench@test.example', password: 'a long enough password' },
  });
  const project = await api.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
  const params = { projectId: project.id };
  const [folder] = await api.call(listFolders, { params });
  const deliverSheet = async (number: string, bytes: Uint8Array) => {
    const code = `BEN-AAA-ZZ-00-D-A-${number}`;
    const uploadId = await api.upload(project.id, `${code}.pdf`, bytes);
    const body = { folderId: folder!.id, files: [{ uploadId, code }] };
    const { containerId, versionId } = (await api.call(deliver, { params, body })).files[0]!;
    for (;;) {
      const { container } = await api.call(showContainer, { params: { ...params, containerId } });
      if (container.preparation === 'ready') return { containerId, versionId };
      if (container.preparation === 'failed') throw new Error(container.preparationNote);
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  };
  const heavy = await deliverSheet('0001', await heavySheet());
  const small = await PDFDocument.create();
  small.addPage([1190, 842]).drawLine({ start: { x: 9, y: 9 }, end: { x: 800, y: 700 } });
  const light = await deliverSheet('0002', await small.save());
  const addMarkups = (where: string, each: number): Promise<unknown> =>
    pool.query(
      `insert into markups (project_id, version_id, thread_id, page, number, shape, style, text, status, draft, author_id, created_at, updated_at)
       select v.project_id, v.id, gen_random_uuid(), 1, n, jsonb_build_object('kind', 'cloud', 'points',
           jsonb_build_array(jsonb_build_array(n * 7 % 1100, n * 13 % 780), jsonb_build_array(n * 7 % 1100 + 60, n * 13 % 780 + 40))),
         '{}', 'Markup ' || n, 'ask', false, $1, now(), now()
       from versions v cross join generate_series(1, ${each}) n where ${where}`,
      [person.id],
    );

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // What the compiler of these scripts calls functions by is not known in a page.
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto(`${stage.address}/sign-in`);
  await page.getByRole('button', { name: /Bench Person/ }).click();
  await page.waitForURL((url) => url.pathname === '/');
  const sheetsOf = (containerId = ''): string => `${stage.address}/projects/${project.id}/sheets/${containerId}`;

  // The first picture: from the click on a drawing until it is seen, against pdf.js alone drawing as much of it.
  const open = async (): Promise<number> => {
    await page.goto(sheetsOf());
    const link = page.getByRole('link', { name: /0001/ });
    await link.waitFor();
    return page.evaluate(async () => {
      const start = performance.now();
      document.querySelector<HTMLElement>('a[href*="/sheets/"].entry')!.click();
      // A canvas on which nothing was painted has its first size.
      while ((document.querySelector<HTMLCanvasElement>('canvas.detail')?.width ?? 300) === 300)
        await new Promise((resolve) => setTimeout(resolve, 5));
      return performance.now() - start;
    });
  };
  const pdfjs = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
  const alone = await browser.newPage();
  await alone.context().addCookies(await page.context().cookies());
  await alone.route('**/bench/**', (route) => {
    const name = new URL(route.request().url()).pathname.split('/').at(-1)!;
    if (name === 'page')
      return route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>baseline</title>' });
    return route.fulfill({ contentType: 'text/javascript', body: fs.readFileSync(path.join(pdfjs, 'build', name)) });
  });
  const draw = async (): Promise<number> => {
    await alone.goto(`${stage.address}/bench/page`);
    return alone.evaluate(
      async ([file, width]) => {
        const library = '/bench/pdf.min.mjs';
        const { getDocument, GlobalWorkerOptions } = (await import(library)) as typeof import('pdfjs-dist');
        GlobalWorkerOptions.workerSrc = '/bench/pdf.worker.min.mjs';
        const start = performance.now();
        const sheet = await (await getDocument(file!).promise).getPage(1);
        const viewport = sheet.getViewport({ scale: width / sheet.getViewport({ scale: 1 }).width });
        const canvas = document.createElement('canvas');
        [canvas.width, canvas.height] = [viewport.width, viewport.height];
        await sheet.render({ canvas, viewport }).promise;
        return performance.now() - start;
      },
      [`/api/projects/${project.id}/versions/${heavy.versionId}/file`, 736] as const,
    );
  };
  report(
    `first picture of an A0 sheet of ${MEGABYTES} MB in the browser, ms, against pdf.js alone`,
    await ratio(open, draw, 5),
    { atMost: 1.2 },
  );

  // Panning and zooming with 2,000 markups: script time of each frame.
  await addMarkups(`v.id = '${light.versionId}'`, 2000);
  await page.goto(sheetsOf(light.containerId));
  await page.locator('[data-marks="2000"]').waitFor();
  await page.waitForTimeout(2000);
  const frames = await frameTimes(page);
  const slow = frames.sort((a, b) => a - b)[Math.floor(frames.length * 0.95)]!;
  report(
    'script time of a frame while 2,000 markups are panned and zoomed, ms, 95 of 100, against a frame',
    { ours: slow, baseline: 16, ratio: slow / 16 },
    { atMost: 1 },
  );

  // Copies of the light drawing, as rows alone: they share its file.
  const copies = async (from: number, to: number): Promise<void> => {
    await pool.query(
      `with c as (insert into containers (project_id, folder_id, code, fields, last_number)
           select $1, $2, 'BEN-AAA-ZZ-01-D-A-' || lpad(n::text, 4, '0'), '{}', 1 from generate_series($3::int, $4::int) n returning id, code),
         v as (insert into versions (project_id, container_id, number, state, file_name, media_type, kind, size, sha256, title, status, revision, preparation, delivered_at, delivered_by)
           select $1, c.id, 1, 'shared', c.code || '.pdf', o.media_type, o.kind, o.size, o.sha256, 'Copy', 'S3', 'P01', 'ready', now(), $5
           from c cross join versions o where o.id = $6 returning id, container_id)
       insert into entries (container_id, audience, project_id, folder_id, code, fields, at_intake, conflicting, version_id, version_number, state, kind, file_name,
           title, status, revision, classification, description, preparation, preparation_note, sheets, size, delivered_at, delivered_by)
         select c.id, 'all', $1, $2, c.code, '{}', false, 0, v.id, 1, 'shared', 'drawing', c.code || '.pdf',
           'Copy', 'S3', 'P01', '', '', 'ready', '', 1, 1, now(), $5 from v join c on c.id = v.container_id`,
      [project.id, folder!.id, from, to, person.id, light.versionId],
    );
    await addMarkups(
      `v.title = 'Copy' and v.file_name between 'BEN-AAA-ZZ-01-D-A-${String(from).padStart(4, '0')}' and 'BEN-AAA-ZZ-01-D-A-${String(to).padStart(4, '0')}.zzz'`,
      10,
    );
  };
  const [few, many] = [50, 500];
  await copies(1, many);

  // Words in 10,000 sheets.
  await pool.query(
    `insert into sheets (version_id, page, label, width, height, text)
     select v.id, p, 'Sheet ' || p, 1190, 842, 'Room ' || md5(v.id::text || p) || ' door ' || (p * 37 % 900) || ' kit room plan level ' || p
     from versions v cross join generate_series(1, 20) p where v.title = 'Copy'`,
  );
  await pool.query('vacuum analyze sheets, versions, entries, containers, markups');
  const statement = {
    text: `select s.id, e.container_id, e.version_id, e.code, s.page, s.label,
        ts_headline('simple', s.text, to_tsquery('simple', $2), 'StartSel="",StopSel="",MaxWords=12,MinWords=4,MaxFragments=1') as around
      from sheets s join entries e on e.version_id = s.version_id
      where e.project_id = $1 and e.audience <> 'others' and e.at_intake = false and s.words @@ to_tsquery('simple', $2)
      order by e.code, s.id limit 101`,
    values: [project.id, 'door:* & 111:*'],
  };
  const bareRoute = fork(fileURLToPath(new URL('bare-route.ts', import.meta.url)), [
    stage.databaseUrl,
    JSON.stringify({ words: statement }),
  ]);
  const [port] = (await once(bareRoute, 'message')) as [number];
  // Compressing is no part of either.
  const headers = { ...api.headersForFiles(), 'accept-encoding': 'identity' };
  const get = async (url: string): Promise<unknown> => (await fetch(url, { headers })).json();
  report(
    'words in 10,000 sheets, ms, against the bare query',
    await alternating(
      () => get(`${stage.address}/api/projects/${project.id}/sheet-words?q=door%20111&limit=100`),
      () => get(`http://127.0.0.1:${port}/words`),
      60,
    ),
    { atMost: 1.5 },
  );
  bareRoute.kill();

  // Markups of many drawings.
  const ids = (await pool.query(`select id from containers where code like 'BEN-AAA-ZZ-01-%' order by code`)).rows.map(
    ({ id }: { id: string }) => id,
  );
  const took: number[] = [];
  const peakOf = async (number: number): Promise<number> => {
    const status = `/proc/${stage.server.child.pid}`;
    fs.writeFileSync(`${status}/clear_refs`, '5');
    const body = { as: 'pdf' as const, containerIds: ids.slice(0, number) };
    took.push(
      await timed(async () => {
        const { id } = await api.call(startMarkupSetExport, { params, body });
        const told = new Set<number>();
        for (;;) {
          const job = (await api.call(listLongJobs, { params })).find((one) => one.id === id)!;
          told.add(job.progress);
          if (job.status === 'done') break;
          if (job.status !== 'waiting' && job.status !== 'running') throw new Error(job.note);
          await new Promise((resolve) => setTimeout(resolve, 200));
        }
        if (number === many && told.size < 10) throw new Error('No progress was told.');
      }),
    );
    return Number(/VmHWM:\s+(\d+)/.exec(fs.readFileSync(`${status}/status`, 'utf8'))![1]) / 1024;
  };
  await peakOf(few);
  const [baseline, ours] = [await peakOf(few), await peakOf(many)];
  report(
    `memory while markups of ${many} drawings are taken along, MB, against ${few} (${(took.at(-1)! / 1000).toFixed(0)} s)`,
    { ours, baseline, ratio: ours / baseline },
    { atMost: 1.3 },
  );
} finally {
  await browser.close();
  await pool.end();
  await stage.close();
}

/** Pans, then zooms, frame by frame: what scripts take of each, event and drawing together. */
function frameTimes(page: Page): Promise<number[]> {
  return page.evaluate(async () => {
    const table = document.querySelector<HTMLElement>('[data-surface=sheet]')!;
    const { left, top, width, height } = table.getBoundingClientRect();
    const [x, y] = [left + width / 2, top + height / 2];
    let spent = 0;
    const plain = window.requestAnimationFrame.bind(window);
    window.requestAnimationFrame = (run) =>
      plain((time) => {
        const start = performance.now();
        run(time);
        spent += performance.now() - start;
      });
    const over = table.querySelector<HTMLElement>('.over')!;
    const pointer = (type: string, by: number): boolean =>
      over.dispatchEvent(
        new PointerEvent(type, { bubbles: true, pointerId: 1, button: 0, clientX: x + by, clientY: y + by / 2 }),
      );
    // Nobody holds the pointer that these events tell of.
    HTMLElement.prototype.setPointerCapture = () => undefined;
    const frames: number[] = [];
    const frame = async (act: () => unknown): Promise<void> => {
      await new Promise<void>((resolve) => plain(() => resolve()));
      spent = 0;
      const start = performance.now();
      act();
      await new Promise((resolve) => queueMicrotask(() => queueMicrotask(() => resolve(null))));
      const before = performance.now() - start;
      await new Promise<void>((resolve) => plain(() => plain(() => resolve())));
      frames.push(before + spent);
    };
    pointer('pointerdown', 0);
    for (let i = 1; i <= 100; i++) await frame(() => pointer('pointermove', (i % 25) * 8));
    pointer('pointerup', 0);
    for (let i = 0; i < 100; i++)
      await frame(() =>
        over.dispatchEvent(
          new WheelEvent('wheel', {
            bubbles: true,
            cancelable: true,
            deltaY: i % 20 < 10 ? -90 : 90,
            clientX: x,
            clientY: y,
          }),
        ),
      );
    return frames;
  });
}
