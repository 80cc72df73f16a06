import { createFirstPerson, acceptInvitation, listOutbox } from '@kindred/contract/identity/identity';
import { addPerson, listPeople } from '@kindred/contract/people/people';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, moveStates, showContainer } from '@kindred/contract/register/register';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { inject } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import type { Config } from '../../packages/server/src/platform/config.ts';
import { startServer, type RunningServer } from '../../packages/server/src/server.ts';

export interface TestServer extends RunningServer {
  address: string;
  remove(): Promise<void>;
}

/** A whole server on a database and a folder of its own. */
export async function testServer(changes: Partial<Config> = {}): Promise<TestServer> {
  const admin = new URL(inject('databaseUrl'));
  const name = `test_${crypto.randomUUID().replaceAll('-', '')}`;
  const client = new pg.Client(admin.href);
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  admin.pathname = `/${name}`;
  const dataFolder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-files-'));
  const server = await startServer({
    port: 0,
    host: '127.0.0.1',
    databaseUrl: admin.href,
    dataFolder,
    webFolder: undefined,
    publicUrl: 'http://127.0.0.1',
    demo: false,
    demoClockSecret: undefined,
    checkAnswers: true,
    role: 'web',
    maxUploadBytes: 2 ** 26,
    preparation: { seconds: 60, megabytes: 2048, processes: 1 },
    logLevel: 'silent',
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
  founderId: string;
  roles: Map<string, string>;
  teams: Map<string, string>;
  folders: Map<string, string>;
  /** Adds a person, who accepts the invitation; answers them signed in, with their id. */
  join(name: string, role: string, team?: string): Promise<{ api: ApiPerson; id: string }>;
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
  founderId: string,
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
    founderId,
    roles: roleIds,
    teams: teamIds,
    folders: new Map(folders.map(({ path, id }) => [path, id])),
    async join(name, role, team) {
      const email = `${name.toLowerCase().replace(/\W+/g, '.')}.${number.toLowerCase()}@test.example`;
      const member = await founder.call(addPerson, {
        params,
        body: { name, email, roleIds: [roleIds.get(role)!], teamId: team ? teamIds.get(team)! : null },
      });
      const mails = await founder.call(listOutbox);
      const key = mails.find(({ to }) => to === email)!.link!.split('invitation=')[1]!;
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
export async function refusal(
  call: Promise<unknown>,
): Promise<{ status: number; code: string; detail: string; fields?: { path: string; message: string }[] }> {
  try {
    await call;
  } catch (error) {
    const text = (error as Error).message;
    const response = (error as { originalResponse?: { getBody(): string } }).originalResponse;
    return JSON.parse(response ? response.getBody() : text.slice(text.indexOf('{')));
  }
  throw new Error('It was not refused.');
}
