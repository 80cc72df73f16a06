/** Markups of many drawings leave together: whoever asks gets those they see. */
import { startMarkupSetExport } from '@kindred/contract/markup/markup';
import { readAnnotations } from '@kindred/core/markup/annotations/read-pdf';
import { readCsv } from '@kindred/core/platform/csv';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { requirePdfTools } from '../../scripts/pdf-tools.mjs';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, share, testProject, testServer, type TestProject, type TestServer } from './harness.ts';
import { drawing, made, publish, sheetsPdf } from './markup-table.ts';
import { unzip } from './unzip.ts';

vi.setConfig({ testTimeout: 400_000, hookTimeout: 400_000 });

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let engineer: ApiPerson;
let folder: string;
const code = (number: number): string => `ORP-TVA-ZZ-00-D-A-010${number}`;

beforeAll(async () => {
  requirePdfTools();
  folder = fs.mkdtempSync(path.join(os.tmpdir(), 'markup-set-'));
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
});
afterAll(async () => {
  fs.rmSync(folder, { recursive: true, force: true });
  await server.remove();
});

/** A drawing with one markup of its author; `bytes`: of the file. */
async function marked(number: number, bytes: Uint8Array, text: string) {
  const file = await drawing(project, author, bytes, `${code(number)}.pdf`);
  const params = { ...project.params, versionId: file.versionId };
  await publish(author, params, { text });
  return file;
}
/** It opens for everybody, and asks for a password before it is changed. */
async function protectedPdf(): Promise<Uint8Array> {
  const [plain, locked] = [path.join(folder, 'plain.pdf'), path.join(folder, 'locked.pdf')];
  fs.writeFileSync(plain, await sheetsPdf(1));
  execFileSync('qpdf', ['--encrypt', '', 'owner', '256', '--', plain, locked]);
  return new Uint8Array(fs.readFileSync(locked));
}
it('a copy of each drawing that one sees, and a list of all', async () => {
  const first = await marked(1, await sheetsPdf(2), '=cmd');
  await marked(2, await protectedPdf(), 'Widen the door');
  await drawing(project, author, await sheetsPdf(1), `${code(3)}.pdf`);
  await share(project, author, first.containerId);

  const exported = async (person: ApiPerson, body: object = {}) => {
    const { id, name } = await person.call(startMarkupSetExport, {
      params: project.params,
      body: { as: 'pdf' as const, ...body },
    });
    return { name, files: await unzip(Buffer.from(await made(person, server.address, project.projectId, id))) };
  };
  const own = await exported(author);
  expect(own.name).toBe('Markups of 2 drawings.zip');
  expect([...own.files.keys()]).toEqual([`${code(1)} with markups.pdf`, `${code(2)} with markups.pdf`, 'Markups.csv']);
  for (const [number, words] of [[1, '=cmd'] as const, [2, 'Widen the door'] as const]) {
    const [page] = await readAnnotations(own.files.get(`${code(number)} with markups.pdf`)!);
    expect(page!.annotations.map(({ contents }) => contents)).toEqual([words]);
  }
  const list = own.files.get('Markups.csv')!.toString();
  expect(list).toContain("'=cmd");
  expect(readCsv(list).map(([drawn, , , , kind, , words]) => [drawn, kind, words])).toEqual([
    ['Drawing', 'Kind', 'Words'],
    [code(1), 'Revision cloud', '=cmd'],
    [code(2), 'Revision cloud', 'Widen the door'],
  ]);

  const theirs = await exported(engineer, { as: 'xfdf' });
  expect([...theirs.files.keys()]).toEqual([`${code(1)} markups.xfdf`, 'Markups.csv']);
});

it('is refused where there is nothing to take', async () => {
  const body = { as: 'pdf' as const, containerIds: [crypto.randomUUID()] };
  expect(await refusal(engineer.call(startMarkupSetExport, { params: project.params, body }))).toMatchObject({
    code: 'no-markups',
  });
});
