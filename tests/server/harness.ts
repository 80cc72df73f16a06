import type { AnyOperation } from '@kindred/contract/platform/operation';
import { createFirstPerson, acceptInvitation } from '@kindred/contract/identity/identity';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, moveStates, showContainer } from '@kindred/contract/register/register';
import { ApiProblem } from '@kindred/client/client';
import type { Problem } from '@kindred/contract/platform/problem';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { inject, vi } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import type { Config } from '../../packages/server/src/platform/config.ts';
import { startServer, type RunningServer } from '../../packages/server/src/server.ts';

export interface TestServer extends RunningServer {
  address: string;
  remove(): Promise<void>;
}

/** What repeats runs a few times, and in full with `npm run test:long`. */
export const inFull = process.env.KS_LONG === '1';

/** Waits until `done`; how long that takes is the machine's affair, that it never happens is an error. */
export const until = (done: () => boolean | Promise<boolean>, what = 'this', timeout = 50_000): Promise<void> =>
  vi.waitFor(
    async () => {
      if (!(await done())) throw new Error(`It did not happen: ${what}.`);
    },
    { timeout, interval: 40 },
  );

/** The address of a new, empty database. */
export async function newDatabase(prefix: string): Promise<string> {
  const url = new URL(inject('databaseUrl'));
  const client = new pg.Client(url.href);
  await client.connect();
  const name = `${prefix}_${crypto.randomUUID().replaceAll('-', '')}`;
  await client.query(`create database ${name}`);
  await client.end();
  url.pathname = `/${name}`;
  return url.href;
}

/** A whole server on a database and a folder of its own. */
export async function testServer(changes: Partial<Config> = {}): Promise<TestServer> {
  const databaseUrl = changes.databaseUrl ?? (await newDatabase('test'));
  const dataFolder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-files-'));
  const server = await startServer({
    port: 0,
    host: '127.0.0.1',
    databaseUrl,
    dataFolder,
    s3: undefined,
    nodeUrl: undefined,
    trustedProxies: 0,
    webFolder: undefined,
    publicUrl: 'http://127.0.0.1',
    demo: false,
    demoClockSecret: undefined,
    loading: false,
    checkAnswers: true,
    role: 'web',
    maxUploadBytes: 2 ** 26,
    costlyPerMinute: { person: 10_000, project: 10_000 },
    provider: undefined,
    requestsPerSecond: 0,
    quota: { project: 0, installation: 0 },
    binDays: 30,
    perDay: { projects: 10_000, people: 10_000 },
    createProjects: 'everybody',
    patience: { seconds: 30, bytesPerSecond: 1000 },
    preparation: { seconds: 60, megabytes: 2048, processes: 1 },
    logLevel: process.env.KS_LOG ?? 'silent',
    ...changes,
  });
  return {
    ...server,
    address: `http://127.0.0.1:${server.port}`,
    async remove() {
      await server.close();
      fs.rmSync(dataFolder, { recursive: true, force: true });
    },
  };
}

export interface TestProject {
  server: TestServer;
  projectId: string;
  params: { projectId: string };
  founder: ApiPerson;
  creatorId: string;
  roles: Map<string, string>;
  teams: Map<string, string>;
  folders: Map<string, string>;
  /** Adds a person, who accepts the invitation; answers them signed in, with their id. */
  join(name: string, role: string, team?: string): Promise<{ api: ApiPerson; id: string }>;
}

/** The link of the last mail to somebody: who it is for reads it in their own post. */
export async function linkIn(server: TestServer, email: string): Promise<string> {
  const { rows } = await server.platform.pool.query<{ link: string }>(
    'select link from mails where "to" = $1 and link is not null order by id desc limit 1',
    [email],
  );
  return rows[0]!.link;
}

const PASSWORD = 'a long enough password';

export async function testProject(server: TestServer): Promise<TestProject> {
  const founder = new ApiPerson(server.address, '');
  const session = await founder.call(createFirstPerson, {
    body: { name: 'Founder One', email: 'founder@test.example', password: PASSWORD },
  });
  return projectOf(server, founder, session.person.id, 'ORP');
}

export async function projectOf(
  server: TestServer,
  founder: ApiPerson,
  creatorId: string,
  number: string,
): Promise<TestProject> {
  const { id: projectId } = await founder.call(createProject, {
    body: { name: `Project ${number}`, number, kind: 'Other' },
  });
  const params = { projectId };
  const { roles, teams } = await founder.call(listPeople, { params });
  const folders = await founder.call(listFolders, { params });
  const roleIds = new Map(roles.map(({ name, id }) => [name, id]));
  const teamIds = new Map(teams.map(({ name, id }) => [name, id]));
  return {
    server,
    projectId,
    params,
    founder,
    creatorId,
    roles: roleIds,
    teams: teamIds,
    folders: new Map(folders.map(({ path, id }) => [path, id])),
    async join(name, role, team) {
      const email = `${name.toLowerCase().replace(/\W+/g, '.')}.${number.toLowerCase()}@test.example`;
      const member = await founder.call(addPerson, {
        params,
        body: { name, email, roleIds: [roleIds.get(role)!], teamId: team ? teamIds.get(team)! : null },
      });
      const key = (await linkIn(server, email)).split('invitation=')[1]!;
      const api = new ApiPerson(server.address, '');
      await api.call(acceptInvitation, { body: { key, password: PASSWORD } });
      return { api, id: member.person.id };
    },
  };
}

export interface Delivered {
  containerId: string;
  versionId: string;
  versionNumber: number;
  atIntake: boolean;
}

export async function deliverFile(
  project: TestProject,
  api: ApiPerson,
  folder: string,
  fileName: string,
  bytes: Uint8Array,
  code = fileName.replace(/\.\w+$/, ''),
): Promise<Delivered> {
  const uploadId = await api.upload(project.projectId, fileName, bytes);
  const { files } = await api.call(deliver, {
    params: project.params,
    body: { folderId: project.folders.get(folder)!, files: [{ uploadId, code }] },
  });
  return files[0]!;
}

export async function share(project: TestProject, api: ApiPerson, containerId: string): Promise<void> {
  await api.call(moveStates, { params: project.params, body: { containerIds: [containerId], action: 'share' } });
}

/** Waits until the current version of a container is prepared or has failed. */
export async function prepared(
  project: TestProject,
  api: ApiPerson,
  containerId: string,
): Promise<{ preparation: string; preparationNote: string }> {
  for (let tries = 0; tries < 300; tries++) {
    const { container } = await api.call(showContainer, { params: { ...project.params, containerId } });
    if (container.preparation === 'ready' || container.preparation === 'failed') return container;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('The file was not prepared within 30 seconds.');
}

/** The problem that a call is refused with; fails when it is not refused. */
export async function refusal(call: Promise<unknown>): Promise<Problem> {
  try {
    await call;
  } catch (error) {
    if (error instanceof ApiProblem) return error.problem;
    const response = (error as { originalResponse?: { getBody(): string } }).originalResponse;
    if (!response) throw error;
    return JSON.parse(response.getBody()) as Problem;
  }
  throw new Error('It was not refused.');
}

/** Below the server's address: an operation with ids that exist nowhere, as rights are judged before anything else. */
export function addressOfNothing(server: TestServer, { path }: AnyOperation, projectId: string): string {
  const values: Record<string, string> = {
    projectId,
    row: '0',
    page: '1',
    product: 'scene',
    position: '1',
    uploadId: '0'.repeat(32),
  };
  return `${server.address}/api${path.replace(/:(\w+)/g, (_, name: string) => values[name] ?? crypto.randomUUID())}`;
}
