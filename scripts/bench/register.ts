/** The register of 100,000 containers with 400,000 versions against bare SQL; the API against a bare route; scrolling in the browser. */
import { acceptInvitation, createFirstPerson, createToken } from '@kindred/contract/identity/identity';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { chromium, type Page } from '@playwright/test';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import http from 'node:http';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { CHROMIUM_FLAGS, findChromium } from '../chromium.mjs';
import { openStage } from '../stage.mjs';
import { alternating, ratio, report, timed } from './measure.ts';
import { seed } from './seed.ts';

const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0' } });
const pool = new pg.Pool({ connectionString: stage.databaseUrl, max: 20 });
try {
  const api = new ApiPerson(stage.address, '');
  const { person } = await api.call(createFirstPerson, {
    body: { name: 'Bench', email: 'bench@test.example', password: 'a long enough password' },
  });
  const project = await api.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
  const [folder] = await api.call(listFolders, { params: { projectId: project.id } });
  const people = await api.call(listPeople, { params: { projectId: project.id } });
  await seed(pool, { projectId: project.id, folderId: folder!.id, personId: person.id, teams: people.teams });
  const { secret } = await api.call(createToken, { body: { name: 'bench' } });
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
              : reject(new Error(`${response.statusCode} ${Buffer.concat(parts)}`)),
          );
        })
        .on('error', reject),
    );
  const authorization = { authorization: `Bearer ${secret}` };
  const register = `${stage.address}/api/projects/${project.id}/containers`;

  const busy = await makeBusy(project.id, person.id);

  /** The very statements of the register, by hand. */
  const COLUMNS = `e.container_id as id, e.folder_id, e.team_id, e.code, e.title, e.kind, e.state, e.at_intake, e.version_id, e.version_number, e.file_name,
      e.status, e.revision, e.classification, e.description, e.preparation, e.preparation_note, e.sheets, e.shared_sheets, e.size, e.delivered_at, u.name as delivered_by,
      r.name as reserved_by, e.reserved_at, e.conflicting`;
  const FROM = `from entries e join users u on u.id = e.delivered_by left join users r on r.id = e.reserved_by
      where e.project_id = $1 and e.audience <> 'others' and e.at_intake = false`;
  const bare: Record<string, { text: string; values: unknown[] }> = {
    first: { text: `select ${COLUMNS} ${FROM} order by e.code limit 101`, values: [project.id] },
    filtered: {
      text: `select ${COLUMNS} ${FROM} and e.status = any($2) and e.kind = any($3) and e.revision = any($4) order by e.delivered_at desc, e.code desc limit 101`,
      values: [project.id, ['S3'], ['drawing'], ['P05', 'P06']],
    },
    words: {
      text: `select ${COLUMNS} ${FROM} and (e.words @@ to_tsquery('simple', $2) or (e.code || ' ' || e.title) ilike $3) order by e.code limit 101`,
      values: [project.id, 'abc:*', '%abc%'],
    },
    jump: {
      text: `(select 'container' as type, e.container_id::text as id, e.code as title, e.title as note, e.delivered_at as at from entries e
          where e.project_id = $1 and e.audience <> 'others' and (e.words @@ to_tsquery('simple', $2) or (e.code || ' ' || e.title) ilike $3)
          order by similarity(e.code || ' ' || e.title, $4) desc, e.code limit 8)
        union all (select 'issue', i.id::text, i.number || ' ' || i.title, '', i.created_at from issues i where i.project_id = $1 and i.title ilike $3 limit 8)
        union all (select 'review', r.id::text, r.title, '', r.started_at from reviews r where r.project_id = $1 and r.title ilike $3 limit 8)
        union all (select 'transmittal', t.id::text, t.title, '', t.sent_at from transmittals t where t.project_id = $1 and t.title ilike $3 limit 8)
        union all (select 'folder', f.id::text, f.path, '', now() from folders f where f.project_id = $1 and f.name ilike $3 limit 8)
        union all (select 'person', m.id::text, u.name, u.email, m.added_at from members m join users u on u.id = m.user_id
          where m.project_id = $1 and (u.name ilike $3 or u.email ilike $3) limit 8)`,
      values: [project.id, 'abc:*', '%abc%', 'abc'],
    },
    related: {
      text: `select 'version' as type, v.id::text as id, 'Version ' || v.number as title, 'Delivered by ' || u.name as note,
            'containers/' || v.container_id || '?version=' || v.number as path, v.delivered_at as at
          from versions v join users u on u.id = v.delivered_by where v.container_id = $1
        union all select 'markup', m.id::text, m.text, 'Markup, ' || m.status,
            'sheets/' || v.container_id || '?page=' || m.page || '&markup=' || m.id, m.created_at
          from markups m join versions v on v.id = m.version_id where v.container_id = $1 and not m.draft
        union all select 'issue', i.id::text, i.number || ' ' || i.title, i.status, 'issues/' || i.id, i.created_at from issues i
          where i.place_version_id in (select id from versions where container_id = $1)
        union all select 'review', r.id::text, r.number || ' ' || r.title, r.status, 'reviews/' || r.id, r.started_at from reviews r
          where exists (select 1 from review_documents d where d.review_id = r.id and d.version_id in (select id from versions where container_id = $1))
        union all select 'transmittal', t.id::text, t.number || ' ' || t.title, '', 'transmittals/' || t.id, t.sent_at from transmittals t
          where exists (select 1 from transmittal_files f where f.transmittal_id = t.id and f.version_id in (select id from versions where container_id = $1))
        order by at desc limit 500`,
      values: [busy],
    },
    history: {
      text: `select e.id, e.verb, e.subject_type, e.subject_id, e.before, e.after, e.at, u.id as person, u.name from events e
        left join users u on u.id = e.actor_id where e.project_id = $1 and e.subject_type = 'container' and e.subject_id = $2
        order by e.id desc limit 201`,
      values: [project.id, busy],
    },
    groups: {
      text: `select e.status as value, count(*)::int from entries e where e.project_id = $1 and e.audience <> 'others' and e.at_intake = false group by 1 order by 2 desc, 1`,
      values: [project.id],
    },
  };
  const ROUNDS = 60;
  const repeat = (run: () => Promise<unknown>) =>
    timed(async () => {
      for (let i = 0; i < ROUNDS; i++) await run();
    });
  const bareRoute = fork(fileURLToPath(new URL('bare-route.ts', import.meta.url)), [
    stage.databaseUrl,
    JSON.stringify(bare),
  ]);
  const [port] = (await once(bareRoute, 'message')) as [number];
  const bareAddress = `http://127.0.0.1:${port}`;
  const listUrl = `${register}?status=S3&sort=deliveredAt&descending=true&limit=100`;
  const bareUrl = `${bareAddress}/filtered`;

  const against = async (what: string, name: string, url: string, rounds = 400): Promise<void> =>
    report(
      `${what}, ms, against a bare route with the same SQL`,
      await alternating(
        () => get(url, authorization),
        () => get(`${bareAddress}/${name}`),
        rounds,
      ),
      { atMost: 1.5 },
    );
  const filteredUrl = `${register}?status=S3&kind=drawing&revision=P05,P06&sort=deliveredAt&descending=true&limit=100`;
  const groupsUrl = `${stage.address}/api/projects/${project.id}/container-groups?by=status`;
  await against('first page of 100,000 containers', 'first', `${register}?limit=100`);
  await against('a page filtered by three fields', 'filtered', filteredUrl);
  await against('a page of a search for words', 'words', `${register}?q=abc&limit=100`);
  await against('counts of groups', 'groups', groupsUrl, 60);
  const things = `${stage.address}/api/projects/${project.id}`;
  await against('the jump box', 'jump', `${things}/jump?q=abc`);
  await against(
    'a full drawer of what is related to a container, 500 things',
    'related',
    `${things}/related?type=container&id=${busy}`,
  );
  await against(
    'a page of a history of 500 events',
    'history',
    `${things}/history?type=container&id=${busy}&limit=200`,
  );
  const PARALLEL = 8;
  const perSecond = (run: () => Promise<unknown>) => async () => {
    const milliseconds = await timed(() => Promise.all(Array.from({ length: PARALLEL }, () => repeat(run))));
    return (PARALLEL * ROUNDS * 1000) / milliseconds;
  };
  report(
    'requests a second of a list, signed in and validated, against a bare route with the same SQL',
    await ratio(
      perSecond(() => get(filteredUrl, authorization)),
      perSecond(() => get(bareUrl)),
      3,
    ),
    { atLeast: 0.6 },
  );

  await inBrowser(stage.address, project.id, transfer);
  // 5,000 folders, 200 of them with permissions that concern whoever asks.
  await pool.query(
    `insert into folders (project_id, name, path, parent_id, first, last)
     select $1, 'F' || n, 'F' || n, null, 100000 + n, 100000 + n from generate_series(1, 5000) n`,
    [project.id],
  );
  await pool.query(
    `update entries c set folder_id = f.id from folders f
     where c.project_id = $1 and f.project_id = $1 and f.name = 'F' || (1 + right(c.code, 6)::int % 5000)`,
    [project.id],
  );
  const { roles } = people;
  const author = roles.find(({ name }) => name === 'Author')!;
  await pool.query(
    `insert into folder_permissions (folder_id, subject, subject_id, level)
     select id, 'role', $2, (array['hidden', 'see', 'deliver'])[1 + first % 3] from folders where project_id = $1 and name ~ '^F' order by first limit 200`,
    [project.id, author.id],
  );
  await pool.query('vacuum analyze entries, folders, folder_permissions');
  const tokenOf = async (name: string, roleIds: string[]): Promise<{ authorization: string }> => {
    const email = `${name}@test.example`;
    await api.call(addPerson, { params: { projectId: project.id }, body: { name, email, roleIds } });
    const { rows } = await pool.query<{ link: string }>('select link from mails where "to" = $1', [email]);
    const one = new ApiPerson(stage.address, '');
    await one.call(acceptInvitation, {
      body: { key: rows[0]!.link.split('invitation=')[1]!, password: 'a long enough password' },
    });
    return { authorization: `Bearer ${(await one.call(createToken, { body: { name: 'bench' } })).secret}` };
  };
  const restricted = await tokenOf('restricted', [author.id]);
  const free = await tokenOf('free', [roles.find(({ name }) => name === 'Reviewer')!.id]);
  report(
    'a page of 100 rows with what one may do in each folder, 5,000 folders with 200 permissions, ms, against the same list without any',
    await alternating(
      () => get(listUrl, restricted),
      () => get(listUrl, free),
      400,
    ),
    { atMost: 1.5 },
  );
  await inBrowser(stage.address, project.id, scrolling);
  agent.destroy();
  bareRoute.kill();
} finally {
  await pool.end();
  await stage.close();
}

/** A container with 200 markups and 500 events, among 50,000 events of others. */
async function makeBusy(projectId: string, personId: string): Promise<string> {
  const { rows } = await pool.query<{ id: string }>(
    'select id from containers where project_id = $1 order by code limit 1',
    [projectId],
  );
  const { id } = rows[0]!;
  await pool.query(
    `insert into markups (project_id, version_id, page, number, shape, text, status, draft, author_id, created_at)
     select $1, v.id, 1, n, '{"kind":"arrow","points":[[0,0],[9,9]]}', 'Markup ' || n, 'ask', false, $2, now()
     from versions v, generate_series(1, 496) n where v.container_id = $3 and v.number = 4`,
    [projectId, personId, id],
  );
  await pool.query(
    `insert into events (project_id, actor_id, at, verb, subject_type, subject_id, before, after)
     select $1, $2, now(), 'changed', 'container', case when n <= 500 then $3 else gen_random_uuid()::text end,
       jsonb_build_object('status', 'S' || n % 7), jsonb_build_object('status', 'S' || n % 5) from generate_series(1, 50500) n`,
    [projectId, personId, id],
  );
  await pool.query('vacuum analyze markups, events');
  return id;
}

/** Runs a measurement on the open register. */
async function inBrowser(address: string, projectId: string, measure: (page: Page) => Promise<void>): Promise<void> {
  const browser = await chromium.launch({ executablePath: findChromium(), args: CHROMIUM_FLAGS });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: address });
    await page.goto('/sign-in');
    await page.getByRole('button', { name: /Bench/ }).first().click();
    await page.waitForURL((url) => url.pathname === '/');
    await page.goto(`/projects/${projectId}/register`);
    await page.locator('.table .line').nth(5).waitFor();
    await measure(page);
  } finally {
    await browser.close();
  }
}

/** Script time of the page for each step of scrolling through the register. */
async function scrolling(page: Page): Promise<void> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const scriptTime = async (): Promise<number> => {
    const { metrics } = await cdp.send('Performance.getMetrics');
    return 1000 * (metrics.find(({ name }) => name === 'ScriptDuration')?.value ?? 0);
  };
  const frames: number[] = [];
  for (let i = 0; i < 150; i++) {
    const before = await scriptTime();
    await page.evaluate(
      () =>
        new Promise<void>((resolve) => {
          document.querySelector('.table')!.scrollTop += 220;
          requestAnimationFrame(() => requestAnimationFrame(() => resolve()));
        }),
    );
    frames.push((await scriptTime()) - before);
  }
  const sorted = frames.sort((a, b) => a - b);
  const ninth = sorted[Math.floor(sorted.length * 0.9)]!;
  report(
    'script time a frame while scrolling the register, nine of ten, ms, against a frame of 16',
    {
      ours: ninth,
      baseline: 16,
      ratio: ninth / 16,
    },
    { atMost: 1 },
  );
}

/** Kilobytes on the wire until the rows of the register stand there, nothing known from before. */
async function transfer(page: Page): Promise<void> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Network.enable');
  await cdp.send('Network.setCacheDisabled', { cacheDisabled: true });
  const counted = new Set<string>();
  let bytes = 0;
  cdp.on('Network.responseReceived', ({ requestId, type }) => {
    if (type !== 'Font' && type !== 'Image') counted.add(requestId);
  });
  cdp.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (counted.has(requestId)) bytes += encodedDataLength;
  });
  await page.reload();
  await page.locator('.table .line').nth(5).waitFor();
  await page.waitForLoadState('networkidle');
  const kilobytes = bytes / 1000;
  report(
    'initial transfer of the register page without fonts and pictures, kB, against 350',
    { ours: kilobytes, baseline: 350, ratio: kilobytes / 350 },
    { atMost: 1 },
  );
}
