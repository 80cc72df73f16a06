/** Two hundred people at work for ten minutes, each by a seeded mix of what people do: how many requests failed. */
import { acceptInvitation, createFirstPerson } from '@kindred/contract/identity/identity';
import { commentIssue, listIssues, raiseIssue } from '@kindred/contract/issues/issues';
import { addPeople, listPeople } from '@kindred/contract/people/people';
import { createProject, showProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, editContainers, listContainers, showContainer } from '@kindred/contract/register/register';
import { jump } from '@kindred/contract/things/things';
import { setTimeout } from 'node:timers/promises';
import pg from 'pg';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { openStage } from '../stage.mjs';
import { report } from './measure.ts';
import { seeded } from './seeded.ts';

const PEOPLE = 200;
const MINUTES = Number(process.env.KS_CROWD_MINUTES ?? 10);
/** Between two things that somebody does. */
const PAUSE_MS = [1000, 5000] as const;
const PASSWORD = 'a long enough password';

const stage = await openStage({ demo: false, env: { KS_COSTLY_PER_PROJECT: '100000' } });
const pool = new pg.Pool({ connectionString: stage.databaseUrl, max: 2 });
try {
  const founder = new ApiPerson(stage.address, '');
  await founder.call(createFirstPerson, {
    body: { name: 'Founder One', email: 'founder@test.example', password: PASSWORD },
  });
  const project = await founder.call(createProject, { body: { name: 'Crowd', number: 'CRW', kind: 'Other' } });
  const params = { projectId: project.id };
  const { roles, teams } = await founder.call(listPeople, { params });
  const roleIds = [roles.find(({ name }) => name === 'Author')!.id];
  const wanted = Array.from({ length: PEOPLE }, (_, i) => ({
    name: `Person ${i}`,
    email: `person${i}@test.example`,
    roleIds,
    teamId: teams[i % teams.length]!.id,
  }));
  await founder.call(addPeople, { params, body: { people: wanted } });
  const { rows } = await pool.query<{ to: string; link: string }>(
    `select "to", link from mails where link like '%invitation=%'`,
  );
  const links = new Map(rows.map(({ to, link }) => [to, link]));
  const folders = await founder.call(listFolders, { params });
  const people: ApiPerson[] = [];
  for (const [i, { email }] of wanted.entries()) {
    // They come from many addresses, not from this one: the limit of tries from one is not what is asked about.
    if (i % 40 === 0) await pool.query(`delete from rate_limits where key like 'sign-in%'`);
    const person = new ApiPerson(stage.address, '');
    const key = links.get(email)!.split('invitation=')[1]!;
    await person.call(acceptInvitation, { body: { key, password: PASSWORD } });
    people.push(person);
  }

  let [done, failed] = [0, 0];
  const failures = new Map<string, number>();
  async function work(person: ApiPerson, i: number, until: number): Promise<void> {
    const random = seeded(i);
    const team = teams[i % teams.length]!;
    const folder = folders.find(({ teamId, parentId }) => teamId === team.id && parentId)!;
    const acts: [share: number, name: string, run: () => Promise<unknown>][] = [
      [30, 'look at the register', () => person.call(listContainers, { params, query: { limit: 100 } })],
      [15, 'open the project', () => person.call(showProject, { params })],
      [15, 'search', () => person.call(jump, { params, query: { q: 'plan' } })],
      [12, 'look at the issues', () => person.call(listIssues, { params, query: {} })],
      [
        10,
        'open a container',
        async () => {
          const { items } = await person.call(listContainers, { params, query: { limit: 50 } });
          const one = items[Math.floor(random() * items.length)];
          if (one) await person.call(showContainer, { params: { ...params, containerId: one.id } });
        },
      ],
      [
        8,
        'deliver a file',
        async () => {
          const code = `CRW-AAA-ZZ-00-D-A-${String(Math.floor(random() * 10_000)).padStart(4, '0')}-${i}`;
          const uploadId = await person.upload(project.id, `${code}.txt`, Buffer.from(`words of ${code} ${random()}`));
          await person.call(deliver, {
            params,
            body: { folderId: folder.id, files: [{ uploadId, code, title: 'A plan' }] },
          });
        },
      ],
      [
        5,
        'raise an issue',
        () =>
          person.call(raiseIssue, {
            params,
            body: { title: `Question ${random()}`, type: 'question', priority: 'normal' } as never,
          }),
      ],
      [
        3,
        'comment',
        async () => {
          const { items } = await person.call(listIssues, { params, query: { limit: 5 } });
          if (items[0])
            await person.call(commentIssue, { params: { ...params, issueId: items[0].id }, body: { text: 'Seen.' } });
        },
      ],
      [
        2,
        'describe a container',
        async () => {
          const { items } = await person.call(listContainers, { params, query: { teamId: team.id, limit: 5 } });
          const own = items.find(({ atIntake, state }) => !atIntake && state === 'work in progress');
          if (own)
            await person.call(editContainers, {
              params,
              body: { edits: [{ containerId: own.id, title: `Plan ${i}` }] },
            });
        },
      ],
    ];
    await setTimeout(random() * PAUSE_MS[1]);
    while (Date.now() < until) {
      let at = random() * 100;
      const [, name, run] = acts.find(([share]) => (at -= share) < 0) ?? acts[0]!;
      try {
        await run();
        done++;
      } catch (error) {
        failed++;
        const said = `${name}: ${(error as Error).message}`;
        failures.set(said, (failures.get(said) ?? 0) + 1);
      }
      await setTimeout(PAUSE_MS[0] + random() * (PAUSE_MS[1] - PAUSE_MS[0]));
    }
  }
  const until = Date.now() + MINUTES * 60_000;
  await Promise.all(people.map((person, i) => work(person, i, until)));
  report(
    `errors among ${done + failed} things that ${PEOPLE} people did in ${MINUTES} minutes`,
    { ours: failed, baseline: done + failed, ratio: failed },
    { atMost: 0 },
  );
  for (const [said, times] of failures) console.log(`  ${times} × ${said}`);
} finally {
  await pool.end();
  await stage.close();
}
