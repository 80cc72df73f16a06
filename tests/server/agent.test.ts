/** The agent of an author: a folder that is watched, over restarts, breaks of the network and files that are half written. */
import { createToken } from '@kindred/contract/identity/identity';
import { listContainers, showContainer } from '@kindred/contract/register/register';
import { listDeliveries } from '@kindred/contract/register/exchange';
import { execFile } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { findPlace } from '../../packages/cli/src/agent.ts';
import { ApiClient } from '../../packages/cli/src/api-client.ts';
import { watchFolder } from '../../packages/cli/src/watch.ts';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { testProject, testServer, until, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let architect: { api: ApiPerson; id: string };
let token: string;
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-watch-'));
const FOLDER = 'Architecture / Drawings';

beforeAll(async () => {
  server = await testServer();
  project = await testProject(server);
  architect = await project.join('Ada Architect', 'Author', 'Architecture');
  token = (await architect.api.call(createToken, { body: { name: 'Agent' } })).secret;
});
afterAll(async () => {
  await server.remove();
  fs.rmSync(folder, { recursive: true, force: true });
});

const write = (name: string, words: string): void => fs.writeFileSync(path.join(folder, name), words);

/** Watches for as long as `run` takes; answers what the agent said. */
async function watching(
  run: (lines: string[]) => Promise<void>,
  { address = server.address, settle = 150 } = {},
): Promise<string[]> {
  const lines: string[] = [];
  const stop = new AbortController();
  const place = await findPlace(new ApiClient(server.address, token), 'ORP', 'architecture/drawings');
  const watch = watchFolder({
    folder,
    place: { ...place, client: new ApiClient(address, token) },
    metadata: { status: 'S1' },
    every: 30,
    settle,
    say: (line) => lines.push(line),
    signal: stop.signal,
  });
  try {
    await run(lines);
  } finally {
    stop.abort();
    await watch;
  }
  return lines;
}
const said = (lines: string[], words: string): Promise<void> =>
  until(() => lines.some((line) => line.includes(words)), words);
/** Whatever was going to be said of earlier files has been said when a later one has been delivered. */
async function lastOfAll(lines: string[], number: string): Promise<void> {
  write(`ORP-TVA-ZZ-00-D-A-${number}.txt`, 'last of all');
  await said(lines, number);
}
const container = async (code: string) => {
  const { items } = await architect.api.call(listContainers, { params: project.params, query: { q: code } });
  return items[0];
};

it('delivers what is new and what has changed, once', async () => {
  const code = 'ORP-TVA-ZZ-00-D-A-9001';
  const lines = await watching(async (heard) => {
    write(`${code}.txt`, 'one');
    await said(heard, 'delivered as version 1');
    write(`${code}.txt`, 'two, longer');
    await said(heard, 'delivered as version 2');
    fs.utimesSync(path.join(folder, `${code}.txt`), new Date(), new Date());
    write('~lock.tmp', 'not for others');
    await lastOfAll(heard, '9101');
  });
  expect(lines).toHaveLength(3);
  expect(await container(code)).toMatchObject({ versionNumber: 2, status: 'S1' });
  const deliveries = await architect.api.call(listDeliveries, {
    params: project.params,
    query: { from: '2000-01-01T00:00:00Z', to: '2100-01-01T00:00:00Z' },
  });
  expect(deliveries.every(({ source }) => source === 'agent')).toBe(true);
  expect(deliveries).toHaveLength(3);
});

it('remembers over a restart what it has delivered, and sends nothing twice when it forgot', async () => {
  expect(await watching((heard) => lastOfAll(heard, '9102'))).toHaveLength(1);
  fs.rmSync(path.join(folder, '.kindred-agent.json'));
  expect(await watching((heard) => lastOfAll(heard, '9103'))).toHaveLength(1);
  expect(await container('ORP-TVA-ZZ-00-D-A-9001')).toMatchObject({ versionNumber: 2 });
});

it('never delivers a file that is still being written', async () => {
  const code = 'ORP-TVA-ZZ-00-D-A-9002';
  await watching(
    async (heard) => {
      // The watcher looks many times while the file grows, each time a moment before it would count as whole.
      for (let part = 1; part <= 12; part++) {
        fs.appendFileSync(path.join(folder, `${code}.txt`), `part ${part}\n`);
        await new Promise((resolve) => setTimeout(resolve, 60));
        expect(heard).toEqual([]);
      }
      await said(heard, 'delivered as version 1');
    },
    { settle: 2_000 },
  );
  const found = await container(code);
  expect(found!.size).toBe(fs.statSync(path.join(folder, `${code}.txt`)).size);
  const { versions } = await architect.api.call(showContainer, {
    params: { ...project.params, containerId: found!.id },
  });
  expect(versions).toHaveLength(1);
});

it('says the verdict on a wrong name once, and delivers the file when it is renamed', async () => {
  const right = 'ORP-TVA-ZZ-00-D-A-9003';
  const lines = await watching(async (heard) => {
    write('ORP-TVA-ZZ-00-Q-A-9003.txt', 'wrong form');
    await said(heard, 'do not conform');
    await lastOfAll(heard, '9104');
    fs.renameSync(path.join(folder, 'ORP-TVA-ZZ-00-Q-A-9003.txt'), path.join(folder, `${right}.txt`));
    await said(heard, `${right}.txt: delivered as version 1`);
  });
  expect(lines.filter((line) => line.includes('do not conform'))).toHaveLength(1);
  expect(lines[0]).toContain('“Q” is not an allowed value');
});

it('goes on when the server comes back', async () => {
  const code = 'ORP-TVA-ZZ-00-D-A-9004';
  write(`${code}.txt`, 'while nobody answers');
  const lines = await watching((heard) => said(heard, 'trying again'), { address: 'http://127.0.0.1:9' });
  expect(lines[0]).toContain('Nothing is lost');
  await watching((heard) => said(heard, 'delivered as version 1'));
});

it('a drawing and its native file are one version, again when both change, and nothing conflicts', async () => {
  const code = 'ORP-TVA-ZZ-00-D-A-9020';
  const both = (words: string): void =>
    ['dgn', 'pdf'].forEach((one) => write(`${code}.${one}`, `%PDF-1.4 ${words} ${one}`));
  const lines = await watching(async (said_) => {
    both('first');
    await said(said_, `${code}.dgn: delivered as version 1`);
    both('second');
    await said(said_, `${code}.dgn: delivered as version 2`);
  });
  expect(lines.join()).not.toContain('conflict');
  expect(await container(code)).toMatchObject({ versionNumber: 2, fileName: `${code}.pdf` });
  fs.rmSync(path.join(folder, '.kindred-agent.json'));
  await watching((again) => lastOfAll(again, '9021'));
  expect(await container(code)).toMatchObject({ versionNumber: 2 });
});

it('the command delivers, says what is wrong on one line, and ends with 2', async () => {
  const ks = async (...args: string[]) => {
    const env = { ...process.env, KS_TOKEN: token };
    const place = ['--server', server.address, '--project', 'ORP', '--folder', FOLDER];
    const argv = ['--import', 'tsx', 'packages/cli/src/main.ts', 'deliver', ...args, ...place];
    return promisify(execFile)(process.execPath, argv, { env }).catch(
      (error: { code: number; stdout: string; stderr: string }) => error,
    );
  };
  write('ORP-TVA-ZZ-00-R-A-9005.txt', 'a report');
  write('no name at all.txt', 'x');
  const good = await ks(path.join(folder, 'ORP-TVA-ZZ-00-R-A-9005.txt'), '--json');
  expect(JSON.parse(good.stdout)).toMatchObject([{ code: 'ORP-TVA-ZZ-00-R-A-9005', version: 1, atIntake: false }]);
  const bad = (await ks(path.join(folder, 'no name at all.txt'))) as { code: number; stdout: string; stderr: string };
  expect(bad.code).toBe(2);
  expect(bad.stdout).toBe('');
  expect(bad.stderr.trim().split('\n')).toHaveLength(1);
  expect(bad.stderr).toContain('Nothing was delivered');
  const lenient = await ks(path.join(folder, 'no name at all.txt'), '--lenient');
  expect(lenient.stdout).toContain('at the intake');
  // A drawing and its native file, named together, are one version.
  const pair = ['pdf', 'xyz'].map((extension) => `ORP-TVA-ZZ-00-D-A-9006.${extension}`);
  for (const name of pair) write(name, '%PDF-1.4 both');
  const both = await ks(...pair.map((name) => path.join(folder, name)), '--json');
  expect(JSON.parse(both.stdout)).toMatchObject([{ version: 1 }, { version: 1 }]);
  expect(await container('ORP-TVA-ZZ-00-D-A-9006')).toMatchObject({ versionNumber: 1, fileName: pair[0] });
});
