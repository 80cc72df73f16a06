/** While one person sends the worst request of a class again and again, another person's list: against the same list in peace. */
import { signInAsDemo } from '@kindred/contract/identity/identity';
import { showNaming } from '@kindred/contract/naming/naming';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { fork } from 'node:child_process';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { openStage } from '../stage.mjs';
import type { Attack } from './attacker.ts';
import { report, timed } from './measure.ts';

const LISTS = 200;
/** As fast as the pace of one person allows. */
const BETWEEN_MS = 25;
const stage = await openStage();
try {
  const person = async (email: string): Promise<ApiPerson> => {
    const one = new ApiPerson(stage.address, '');
    await one.call(signInAsDemo, { body: { email } });
    return one;
  };
  const villain = await person('maren.tolvik@tva.example');
  const victim = await person('idris.callowby@hqs.example').catch(() => person('maren.tolvik@tva.example'));
  const project = (await villain.call(listProjects)).find(({ number }) => number === 'ORP')!;
  const api = `${stage.address}/api/projects/${project.id}`;
  const headers = { ...villain.headersForFiles(), 'content-type': 'application/json' };
  const post = (path: string, body: string): Attack => ({ url: api + path, method: 'POST', headers, body });
  const get = (path: string): Attack => ({ url: api + path, method: 'GET', headers });
  const { conventions } = await villain.call(showNaming, { params: { projectId: project.id } });
  const { id, definition } = conventions[0]!;
  const hostile = {
    ...definition,
    fields: [...definition.fields, { name: 'X', kind: 'pattern', pattern: '.?'.repeat(100) }],
  };
  const bomb = Buffer.alloc(6_000_000);
  bomb.set([
    0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 0, 0x3f, 0xff, 0, 0, 0x3f, 0xff,
  ]);
  const picture = JSON.stringify({
    name: 'x',
    state: {},
    versionIds: [],
    picture: `data:image/png;base64,${bomb.toString('base64')}`,
  });
  const CLASSES: [string, Attack][] = [
    [
      'the effect of a pattern of 200 signs',
      post(`/conventions/${id}/effect`, JSON.stringify({ definition: hostile })),
    ],
    ['a body that nests 50,000 levels', post('/codes', '['.repeat(50_000))],
    ['a body of 100 kB of values', post('/codes', `{"codes":[${'1,'.repeat(49_000)}1]}`)],
    ['pictures of 16383² pixels in 8 MB', post('/viewpoints', picture)],
    ['exports of the register', get('/register-export?as=xlsx')],
    ['searches for one letter', get('/jump?q=e')],
    [
      'messages on a socket',
      { url: stage.address, method: '', headers, message: { event: 'enter', value: project.id } },
    ],
  ];
  const list = () =>
    fetch(`${api}/containers?limit=100`, { headers: victim.headersForFiles() }).then(async (answer) => {
      if (answer.status !== 200) throw new Error(`The list answered ${answer.status}: ${await answer.text()}`);
      await answer.arrayBuffer();
    });
  const measure = async (): Promise<number[]> => {
    const times: number[] = [];
    for (let i = 0; i < LISTS; i++) {
      times.push(await timed(list));
      await setTimeout(BETWEEN_MS);
    }
    return times.sort((a, b) => a - b);
  };
  await measure();
  for (const [what, attack] of CLASSES) {
    const peace = await measure();
    const attacker = fork(fileURLToPath(new URL('attacker.ts', import.meta.url)), { execArgv: process.execArgv });
    attacker.send(attack);
    await list();
    const under = await measure();
    attacker.kill();
    const compare = (at: number) => ({ ours: under[at]!, baseline: peace[at]!, ratio: under[at]! / peace[at]! });
    report(`a list while somebody sends ${what}, median ms`, compare(LISTS >> 1), { atMost: 1.5 });
    report(`  the slowest of ${LISTS}, ms`, compare(LISTS - 1), { atMost: 10 });
  }
} finally {
  await stage.close();
}
