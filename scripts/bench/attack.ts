/** While one person sends the worst request of a class again and again, another person's list: against the same list in peace. */
import { signInAsDemo } from '@kindred/contract/identity/identity';
import { showNaming } from '@kindred/contract/naming/naming';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { io } from 'socket.io-client';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { openStage } from '../stage.mjs';
import { report, timed } from './measure.ts';

const LISTS = 200;
const AT_ONCE = 1;
const stage = await openStage();
try {
  const person = async (email: string): Promise<ApiPerson> => {
    const one = new ApiPerson(stage.address, '');
    await one.call(signInAsDemo, { body: { email } });
    return one;
  };
  const attacker = await person('maren.tolvik@tva.example');
  const victim = await person('idris.callowby@hqs.example').catch(() => person('maren.tolvik@tva.example'));
  const project = (await attacker.call(listProjects)).find(({ number }) => number === 'ORP')!;
  const api = `${stage.address}/api/projects/${project.id}`;
  const headers = { ...attacker.headersForFiles(), 'content-type': 'application/json' };
  const post = (path: string, body: string) =>
    fetch(api + path, { method: 'POST', headers, body }).then((answer) => answer.arrayBuffer());
  const { conventions } = await attacker.call(showNaming, { params: { projectId: project.id } });
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
  const socket = io(stage.address, {
    path: '/api/live',
    transports: ['websocket'],
    extraHeaders: { cookie: headers.cookie ?? '' },
  });

  const CLASSES: [string, () => Promise<unknown>][] = [
    [
      'the effect of a pattern of 200 signs',
      () => post(`/conventions/${id}/effect`, JSON.stringify({ definition: hostile })),
    ],
    ['a body that nests 50,000 levels', () => post('/codes', '['.repeat(50_000))],
    ['a body of 100 kB of values', () => post('/codes', `{"codes":[${'1,'.repeat(49_000)}1]}`)],
    ['pictures of 16383² pixels in 8 MB', () => post('/viewpoints', picture)],
    [
      'exports of the register',
      () => fetch(`${api}/register-export?as=xlsx`, { headers }).then((answer) => answer.arrayBuffer()),
    ],
    ['searches for one letter', () => fetch(`${api}/jump?q=e`, { headers }).then((answer) => answer.arrayBuffer())],
    ['messages on a socket', () => new Promise((resolve) => (socket.emit('enter', project.id), setImmediate(resolve)))],
  ];
  const list = () =>
    fetch(`${api}/containers?limit=100`, { headers: victim.headersForFiles() }).then(async (answer) => {
      if (answer.status !== 200) throw new Error(`The list answered ${answer.status}: ${await answer.text()}`);
      await answer.arrayBuffer();
    });
  const measure = async (): Promise<number[]> => {
    const times: number[] = [];
    for (let i = 0; i < LISTS; i++) times.push(await timed(list));
    return times.sort((a, b) => a - b);
  };
  await measure();
  for (const [what, attack] of CLASSES) {
    const peace = await measure();
    let going = true;
    const attackers = Array.from({ length: AT_ONCE }, async () => {
      while (going) await attack();
    });
    const under = await measure();
    going = false;
    await Promise.all(attackers);
    const compare = (at: number) => ({ ours: under[at]!, baseline: peace[at]!, ratio: under[at]! / peace[at]! });
    report(`a list while somebody sends ${what}, median ms`, compare(LISTS >> 1), { atMost: 1.5 });
    report(`  the slowest of ${LISTS}, ms`, compare(LISTS - 1), { atMost: 10 });
  }
  socket.disconnect();
} finally {
  await stage.close();
}
