/** What people hear of each other while they are in a project, and what they do not. */
import { changePerson, listPeople, removePerson } from '@kindred/contract/people/people';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { io, type Socket } from 'socket.io-client';
import { afterAll, afterEach, beforeAll, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, share, testProject, testServer, until, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let author: { api: ApiPerson; id: string };
let engineer: { api: ApiPerson; id: string };
const pdf = new TextEncoder().encode('%PDF-1.4 a sheet');
const open: Socket[] = [];

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  author = await project.join('Ann Author', 'Author', 'Architecture');
  engineer = await project.join('Ed Engineer', 'Author', 'Structure');
});
afterEach(() => {
  for (const socket of open.splice(0)) socket.disconnect();
});
afterAll(() => server.remove());

interface Heard {
  socket: Socket;
  changes: { subjectType: string }[];
}

/** Someone at the project, who enters again whenever the line was broken, as the application does. */
async function listen(api: ApiPerson): Promise<Heard> {
  const socket = io(server.address, {
    path: '/api/live',
    transports: ['websocket'],
    extraHeaders: { cookie: api.headersForFiles().cookie ?? '' },
    reconnectionDelay: 50,
  });
  open.push(socket);
  const heard: Heard = { socket, changes: [] };
  socket.on('connect', () => socket.emit('enter', project.projectId));
  socket.on('disconnect', (reason) => void (reason === 'io server disconnect' && socket.connect()));
  socket.on('change', (change: Heard['changes'][number]) => heard.changes.push(change));
  await new Promise((resolve) => socket.once('presence', resolve));
  return heard;
}

const memberOf = async (id: string) =>
  (await project.founder.call(listPeople, { params: project.params })).members.find(({ person }) => person.id === id)!;

it('work in progress is heard by its own team alone, what is shared by everybody', async () => {
  const [own, other] = [await listen(author.api), await listen(engineer.api)];
  const about = ({ changes }: Heard) => changes.filter(({ subjectType }) => subjectType === 'container').length;
  const drawing = await deliverFile(project, author.api, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-D-A-0101.pdf', pdf);
  await until(() => about(own) > 0);
  expect(about(other)).toBe(0);
  await share(project, author.api, drawing.containerId);
  await until(() => about(other) > 0);
});

it('the portfolio shows who is in a project right now', async () => {
  const here = async () => (await project.founder.call(listProjects))[0]!.present.map(({ name }) => name);
  expect(await here()).toEqual([]);
  await listen(engineer.api);
  expect(await here()).toEqual(['Ed Engineer']);
});

it('whose team changes hears at once what the new team hears', async () => {
  const heard = await listen(engineer.api);
  const member = await memberOf(engineer.id);
  const reconnected = new Promise((resolve) =>
    heard.socket.once('disconnect', () => heard.socket.once('presence', resolve)),
  );
  await project.founder.call(changePerson, {
    params: { ...project.params, memberId: member.id },
    body: { teamId: project.teams.get('Architecture')! },
  });
  await reconnected;
  heard.changes.length = 0;
  await deliverFile(project, author.api, 'Architecture / Drawings', 'ORP-TVA-ZZ-00-D-A-0102.pdf', pdf);
  await until(() => heard.changes.some(({ subjectType }) => subjectType === 'container'));
});

it('who has left hears nothing more', async () => {
  const heard = await listen(engineer.api);
  const member = await memberOf(engineer.id);
  const broken = new Promise((resolve) => heard.socket.once('disconnect', resolve));
  await project.founder.call(removePerson, {
    params: { ...project.params, memberId: member.id },
    body: { successorId: null },
  });
  await broken;
  await until(() => heard.socket.connected);
  heard.changes.length = 0;
  const witness = await listen(project.founder);
  const drawing = await deliverFile(project, project.founder, 'Project documents', 'ORP-TVA-ZZ-00-D-A-0103.pdf', pdf);
  await share(project, project.founder, drawing.containerId);
  await until(() => witness.changes.some(({ subjectType }) => subjectType === 'container'));
  expect(heard.changes).toEqual([]);
});
