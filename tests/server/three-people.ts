/** A project with two people of one team and one of another: what the tests of the exchange begin with. */
import { deliver, showContainer } from '@kindred/contract/register/register';
import { afterAll, beforeAll } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { testProject, testServer, type TestProject, type TestServer } from './harness.ts';

export const DRAWINGS = 'Architecture / Drawings';
export const text = (words: string): Uint8Array => new TextEncoder().encode(words);

export interface Person {
  api: ApiPerson;
  id: string;
}

/** Filled before the first test of the file that calls `threePeople`. */
export let server: TestServer;
export let project: TestProject;
export let architect: Person;
export let colleague: Person;
export let engineer: Person;

/** Starts a server with such a project for the tests of one file, and removes it after them. */
export function threePeople(): void {
  beforeAll(async () => {
    server = await testServer({ role: 'all' });
    project = await testProject(server);
    architect = await project.join('Ada Architect', 'Author', 'Architecture');
    colleague = await project.join('Cleo Colleague', 'Author', 'Architecture');
    engineer = await project.join('Eve Engineer', 'Author', 'Structure');
  });
  afterAll(() => server.remove());
}

let serial = 1000;
export const nextCode = (): string => `ORP-TVA-ZZ-00-D-A-${++serial}`;

export const show = (person: ApiPerson, containerId: string) =>
  person.call(showContainer, { params: { ...project.params, containerId } });
export const deliverOnto = async (person: ApiPerson, code: string, words: string, onto?: number) => {
  const uploadId = await person.upload(project.projectId, `${code}.txt`, text(words));
  const { files } = await person.call(deliver, {
    params: project.params,
    body: {
      folderId: project.folders.get(DRAWINGS)!,
      files: [{ uploadId, code, ...(onto !== undefined && { onto }) }],
    },
  });
  return files[0]!;
};
export const first = (code = nextCode(), words = 'first') => deliverOnto(architect.api, code, words);
export const fileOf = async (person: ApiPerson, versionId: string): Promise<Response> =>
  fetch(`${server.address}/api/projects/${project.projectId}/versions/${versionId}/file`, {
    headers: person.headersForFiles(),
  });
