/** Fifty people deliver twenty files each at once; two gigabytes are received, against writing and hashing them. */
import { acceptInvitation, createFirstPerson } from '@kindred/contract/identity/identity';
import { addPeople, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver } from '@kindred/contract/register/register';
import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { openStage } from '../stage.mjs';
import { receiveLarge, writeLarge } from './large-file.ts';
import { report, timed } from './measure.ts';

const PEOPLE = 50;
const FILES = 20;
const BYTES = 2 ** 19;
/** Files on their way from one person, as a browser sends them. */
const AT_ONCE = 3;
const PASSWORD = 'a long enough password';

const stage = await openStage({
  demo: false,
  env: { KS_ROLE: 'web', KS_REQUESTS_PER_SECOND: '0', KS_COSTLY_PER_PROJECT: '100000' },
});
const database = new pg.Client(stage.databaseUrl);
await database.connect();
const megabytes = (): number =>
  Number(/VmRSS:\s+(\d+)/.exec(fs.readFileSync(`/proc/${stage.server.child.pid}/status`, 'utf8'))![1]) / 1024;
try {
  const founder = new ApiPerson(stage.address, '');
  await founder.call(createFirstPerson, { body: { name: 'Bench', email: 'bench@test.example', password: PASSWORD } });
  const { id: projectId } = await founder.call(createProject, {
    body: { name: 'Bench', number: 'BEN', kind: 'Other' },
  });
  const params = { projectId };
  const { roles, teams } = await founder.call(listPeople, { params });
  const folders = await founder.call(listFolders, { params });
  const team = teams[0]!;
  const folderId = folders.find(({ teamId, parentId }) => teamId === team.id && parentId)!.id;
  const roleIds = [roles.find(({ name }) => name === 'Author')!.id];
  const wanted = Array.from({ length: PEOPLE }, (_, i) => ({
    name: `Person ${i}`,
    email: `person.${i}@test.example`,
    roleIds,
    teamId: team.id,
  }));
  await founder.call(addPeople, { params, body: { people: wanted } });
  const mails = await database.query<{ to: string; link: string }>('select "to", link from mails');
  const keys = new Map(mails.rows.map(({ to, link }) => [to, link.split('invitation=')[1]!]));
  const people: ApiPerson[] = [];
  for (const { email } of wanted) {
    const person = new ApiPerson(stage.address, '');
    await person.call(acceptInvitation, { body: { key: keys.get(email)!, password: PASSWORD } });
    people.push(person);
  }

  const round = async (number: number): Promise<{ ms: number; most: number }> => {
    let most = 0;
    const watch = setInterval(() => (most = Math.max(most, megabytes())), 50);
    const ms = await timed(() =>
      Promise.all(
        people.map(async (person, i) => {
          const codes = Array.from(
            { length: FILES },
            (_, n) => `BEN-AAA-ZZ-00-R-A-${String(i * FILES + n).padStart(4, '0')}`,
          );
          const uploads: string[] = [];
          for (let at = 0; at < FILES; at += AT_ONCE)
            uploads.push(
              ...(await Promise.all(
                codes
                  .slice(at, at + AT_ONCE)
                  .map((code) => person.upload(projectId, `${code}.bin`, Buffer.alloc(BYTES, `${code} ${number} `))),
              )),
            );
          const files = codes.map((code, n) => ({ uploadId: uploads[n]!, code }));
          await person.call(deliver, { params, body: { folderId, files } });
        }),
      ),
    ).finally(() => clearInterval(watch));
    return { ms, most };
  };
  await round(0);
  const early = await round(1);
  await round(2);
  const late = await round(3);
  const { rows } = await database.query<{ containers: number; versions: number; wrong: number }>(
    `select (select count(*)::int from containers) as containers, (select count(*)::int from versions) as versions,
            (select count(*)::int from containers where last_number <> 4) as wrong`,
  );
  const { containers, versions, wrong } = rows[0]!;
  const lost = PEOPLE * FILES - containers + Math.abs(4 * PEOPLE * FILES - versions) + wrong;
  report(
    `files lost or there twice, of ${4 * PEOPLE * FILES} that ${PEOPLE} people delivered at once`,
    { ours: lost, baseline: 1, ratio: lost },
    { atMost: 0 },
  );
  report(
    `memory of the server while 1,000 files arrive, MB, the fourth time against the second (${(late.ms / 1000).toFixed(1)} s)`,
    { ours: late.most, baseline: early.most, ratio: late.most / early.most },
    { atMost: 1.2 },
  );

  const target = path.join(stage.folder, 'baseline');
  const pairs: [number, number][] = [];
  for (let i = 0; i < 5; i++)
    pairs.push([await receiveLarge(stage.address, founder, projectId), await writeLarge(target)]);
  const [ours, baseline] = pairs.sort((a, b) => a[0] / a[1] - b[0] / b[1])[2]!;
  report(
    'receiving a file of 2 GB, ms, against writing and hashing it',
    { ours, baseline, ratio: ours / baseline },
    { atMost: 1.3 },
  );
} finally {
  await database.end();
  await stage.close();
}
