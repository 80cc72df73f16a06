/** Issues: a page of 20,000 and the list of the BCF API against bare SQL; a board of 2,000 cards; 5,000 topics out and in against zipping the same bytes. */
import { zipAsTheyCome } from '../../packages/archive/src/write-zip.ts';
import { openZip } from '../../packages/archive/src/read-zip.ts';
import { startBcfExport, startBcfImport, takeBcfImport } from '@kindred/contract/bcf/bcf';
import { createFirstPerson, createToken } from '@kindred/contract/identity/identity';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { listLongJobs } from '@kindred/contract/platform/jobs';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { chromium } from '@playwright/test';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import fs from 'node:fs';
import { createRequire } from 'node:module';
import http from 'node:http';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import type Sharp from 'sharp';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from '../chromium.mjs';
import { openStage } from '../stage.mjs';
import { alternating, ratio, report, timed } from './measure.ts';

const [ISSUES, CARDS, TOPICS, PICTURES] = [20_000, 2000, 5000, 25];
const sharp = createRequire(new URL('../../packages/server/package.json', import.meta.url))('sharp') as typeof Sharp;
const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0', KS_COSTLY_PER_PERSON: '1000' } });
const pool = new pg.Pool({ connectionString: stage.databaseUrl, max: 20 });
try {
  const api = new ApiPerson(stage.address, '');
  const { person } = await api.call(createFirstPerson, {
    body: { name: 'Bench', email: 'bench@test.example', password: 'a long enough password' },
  });
  const begin = async (name: string) => {
    const { id } = await api.call(createProject, { body: { name, number: name, kind: 'Other' } });
    return id;
  };
  const many = await begin('MANY');
  await seed(many, ISSUES, "case when n <= 2000 then 'in hand' when n % 3 = 0 then 'open' else 'closed' end");
  await pool.query('vacuum analyze issues');
  await pages(many, (await api.call(createToken, { body: { name: 'bench' } })).secret);
  await board(many);
  await files();

  async function seed(projectId: string, count: number, status: string): Promise<void> {
    await pool.query(
      `insert into issues (project_id, number, title, description, type, priority, status, author_id, due_on, created_at, updated_at)
       select $1, n, 'Issue ' || md5(n::text), repeat(md5(n::text) || ' ', 8), (array['question','request','clash','defect'])[1 + n % 4],
         (array['low','normal','high','blocking'])[1 + n % 4], ${status}, $2, current_date + (n % 90) - 45,
         now() - n * interval '1 minute', now() - n * interval '1 minute' from generate_series(1, $3::int) n`,
      [projectId, person.id, count],
    );
  }

  async function pages(projectId: string, secret: string): Promise<void> {
    const agent = new http.Agent({ keepAlive: true, maxSockets: 16 });
    const get = (url: string, headers: Record<string, string> = {}) =>
      new Promise<string>((resolve, reject) =>
        http
          .get(url, { agent, headers }, (response) => {
            const parts: Buffer[] = [];
            response.on('data', (part: Buffer) => parts.push(part));
            response.on('end', () =>
              response.statusCode === 200
                ? resolve(Buffer.concat(parts).toString())
                : reject(new Error(`${response.statusCode} ${Buffer.concat(parts).toString()}`)),
            );
          })
          .on('error', reject),
      );
    const own = { authorization: `Bearer ${secret}` };
    const bare = {
      page: {
        text: `select i.*, u.name, u.email, u.initials, u.colour from issues i join users u on u.id = i.author_id
          where i.project_id = $1 and i.status = any($2) and i.type = any($3)
          order by array_position($4::text[], i.priority) desc, i.id desc limit 101`,
        values: [projectId, ['open', 'in hand'], ['clash', 'defect'], ['low', 'normal', 'high', 'blocking']],
      },
      topics: {
        text: `select i.*, u.email, (select json_agg(c) from issue_comments c where c.issue_id = i.id) as comments
          from issues i join users u on u.id = i.author_id where i.project_id = $1 and i.status = $2 order by i.created_at, i.id limit 100`,
        values: [projectId, 'open'],
      },
    };
    const child = fork(fileURLToPath(new URL('bare-route.ts', import.meta.url)), [
      stage.databaseUrl,
      JSON.stringify(bare),
    ]);
    const [port] = (await once(child, 'message')) as [number];
    const address = `http://127.0.0.1:${port}`;
    const list = `${stage.address}/api/projects/${projectId}/issues?status=open,in hand&type=clash,defect&sort=priority&descending=true&limit=100`;
    report(
      'a page of 20,000 issues by two filters and priority, ms, against a bare route with the same SQL',
      await alternating(
        () => get(encodeURI(list), own),
        () => get(`${address}/page`),
        120,
      ),
      { atMost: 1.5 },
    );
    const topics = `${stage.address}/bcf/3.0/projects/${projectId}/topics?$filter=${encodeURIComponent("topic_status eq 'open'")}&$top=100`;
    const perSecond = (run: () => Promise<unknown>) => async () => {
      const rounds = 20;
      const time = await timed(() =>
        Promise.all(
          Array.from({ length: 8 }, async () => {
            for (let i = 0; i < rounds; i++) await run();
          }),
        ),
      );
      return (8 * rounds * 1000) / time;
    };
    report(
      'requests a second of the list of topics, against a bare route with the same SQL',
      await ratio(
        perSecond(() => get(topics, own)),
        perSecond(() => get(`${address}/topics`)),
        3,
      ),
      { atLeast: 0.6 },
    );
    child.kill();
    agent.destroy();
  }

  /** Script of a frame while a board is scrolled, against a sixtieth of a second. */
  async function board(projectId: string): Promise<void> {
    const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${stage.address}/sign-in`);
    await page.getByRole('button', { name: /Bench/ }).first().click();
    await page.waitForURL((url) => !url.pathname.startsWith('/sign-in'));
    await page.goto(`${stage.address}/projects/${projectId}/issues?as=board`);
    const column = page.getByRole('region', { name: 'Issues that are in hand' });
    const cards = column.locator('.place');
    for (let shown = 100; shown < CARDS; shown += 100) {
      await cards.nth(shown - 1).waitFor({ state: 'attached' });
      await column.getByRole('button', { name: 'Show more' }).click();
    }
    await cards.nth(CARDS - 1).waitFor({ state: 'attached' });
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Performance.enable');
    const script = async (): Promise<number> => {
      const { metrics } = await cdp.send('Performance.getMetrics');
      return metrics.find(({ name }) => name === 'ScriptDuration')!.value * 1000;
    };
    const before = await script();
    const frames = await column.locator('.cards').evaluate(async (list) => {
      const count = 120;
      for (let i = 0; i < count; i++) {
        list.scrollTop += 160;
        await new Promise((resolve) => requestAnimationFrame(resolve));
      }
      return count;
    });
    const each = ((await script()) - before) / frames;
    report(
      'script of a frame while a board of 2,000 cards is scrolled, ms, against a sixtieth of a second',
      { ours: each, baseline: 1000 / 60, ratio: each / (1000 / 60) },
      { atMost: 0.96 },
    );
    await browser.close();
  }

  async function files(): Promise<void> {
    const projectId = await begin('OUT');
    const params = { projectId };
    for (let i = 0; i < PICTURES; i++) {
      const noise = Buffer.from(Array.from({ length: 160 * 120 * 3 }, () => Math.random() * 256));
      const png = await sharp(noise, { raw: { width: 160, height: 120, channels: 3 } })
        .png()
        .toBuffer();
      const uploadId = await api.upload(projectId, `${i}.png`, png, [], 'issue');
      await api.call(raiseIssue, {
        params,
        body: { title: `Seen ${i}`, type: 'clash', priority: 'high', pictures: [{ uploadId, caption: '' }] },
      });
    }
    await pool.query(
      `insert into issues (project_id, number, title, description, type, priority, status, author_id, pictures, created_at, updated_at)
       select $1, n, 'Topic ' || n, repeat('words ', 40), 'clash', 'high', 'open', $2, 1, now(), now() from generate_series($3::int + 1, $4::int) n`,
      [projectId, person.id, PICTURES, TOPICS],
    );
    await pool.query(
      `insert into issue_pictures (issue_id, position, caption, sha256)
       select i.id, 1, '', p.sha256 from issues i join issues first on first.project_id = i.project_id and first.number = 1 + i.number % $2
       join issue_pictures p on p.issue_id = first.id where i.project_id = $1 and i.number > $2`,
      [projectId, PICTURES],
    );
    const ended = async (projectOf: string, id: string) => {
      for (;;) {
        const job = (await api.call(listLongJobs, { params: { projectId: projectOf } })).find((one) => one.id === id)!;
        if (job.status === 'done') return job;
        if (job.status === 'failed') throw new Error(job.note);
        await setTimeout(100);
      }
    };
    let id = '';
    const out = await timed(async () => {
      ({ id } = await api.call(startBcfExport, { params, body: { version: '3.0' } }));
      await ended(projectId, id);
    });
    const response = await fetch(`${stage.address}/api/projects/${projectId}/jobs/${id}/file`, {
      headers: api.headersForFiles(),
    });
    const bytes = new Uint8Array(await response.arrayBuffer());
    const file = path.join(stage.folder, 'out.bcf');
    fs.writeFileSync(file, bytes);
    const zip = await openZip(file);
    async function* same() {
      for (const name of zip.names) yield { name, content: await zip.read(name) };
    }
    const zipping = await timed(() => buffer(zipAsTheyCome(same())));
    zip.close();
    const megabytes = `${(bytes.length / 1e6).toFixed(0)} MB`;
    report(
      `export of 5,000 topics with pictures (${megabytes}), ms, against reading and zipping the same entries`,
      { ours: out, baseline: zipping, ratio: out / zipping },
      { atMost: 2 },
    );
    const into = await begin('IN');
    let jobId = '';
    const read = await timed(async () => {
      const uploadId = await api.upload(into, 'out.bcf', bytes, [], 'bcf');
      ({ id: jobId } = await api.call(startBcfImport, { params: { projectId: into }, body: { uploadId } }));
      await ended(into, jobId);
    });
    const taken = await timed(async () => {
      const take = await api.call(takeBcfImport, { params: { projectId: into, jobId }, body: {} });
      await ended(into, take.id);
    });
    const share = `${Math.round((100 * read) / (read + taken))} % of it reading`;
    report(
      `import of the same (${share}), ms, against reading and zipping the same entries`,
      { ours: read + taken, baseline: zipping, ratio: (read + taken) / zipping },
      { atMost: 4 },
    );
  }
} finally {
  await pool.end();
  await stage.close();
}
