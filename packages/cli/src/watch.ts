/** Watches an author's folder and delivers what is new or changed, once it is whole; survives restarts and breaks of the network. */
import { isShown } from '@kindred/core/register/file-pair';
import fs from 'node:fs/promises';
import path from 'node:path';
import { codeOf, deliverFiles, hashFile, known, type Metadata, type Place } from './agent.ts';
import { ApiProblem, Unreachable } from './api-client.ts';
import { look, type Seen, type Watched } from './settled.ts';

/** What was done with a file: delivered as a version, or refused until it changes. */
interface Done extends Seen {
  sha256: string;
  version?: number;
  refused?: string;
}
type State = Record<string, Done>;

const STATE_FILE = '.kindred-agent.json';
const LONGEST_PAUSE = 60_000;

export interface WatchOptions {
  folder: string;
  place: Place;
  metadata: Metadata;
  /** Milliseconds between two looks, and without a change until a file counts as whole. */
  every: number;
  settle: number;
  say(line: string): void;
  signal: AbortSignal;
}

export async function watchFolder(options: WatchOptions): Promise<void> {
  const { folder, every, settle, say, signal } = options;
  const state = await readState(folder);
  let watched = new Map<string, Watched>();
  let pause = every;
  while (!signal.aborted) {
    try {
      const found = look(watched, await filesIn(folder), Date.now(), settle);
      watched = found.watched;
      // What people look at goes first: its native file then goes with it.
      const inOrder = [...found.settled].sort((a, b) => Number(isShown(b)) - Number(isShown(a)));
      for (const name of inOrder) {
        if (signal.aborted) return;
        await consider(options, state, name, watched.get(name)!);
      }
      pause = every;
    } catch (error) {
      if (signal.aborted) return;
      if (!(error instanceof Unreachable)) throw error;
      pause = Math.min(LONGEST_PAUSE, pause * 2);
      say(`${error.message}. Nothing is lost; trying again in ${Math.ceil(pause / 1000)} s.`);
    }
    await sleep(pause, signal);
  }
}

async function consider(options: WatchOptions, state: State, name: string, seen: Watched): Promise<void> {
  const { folder, place, metadata, say, signal } = options;
  const done = state[name];
  if (done && done.size === seen.size && done.modified === seen.modified) return;
  const file = path.join(folder, name);
  const sha256 = await hashFile(file);
  const note = async (what: Partial<Done>): Promise<void> => {
    state[name] = { size: seen.size, modified: seen.modified, sha256, ...what };
    await writeState(folder, state);
  };
  if (done?.sha256 === sha256) return note({ version: done.version, refused: done.refused });
  const there = await known(place, file);
  // The answer to an earlier delivery may have been lost on its way: what the register has is not sent again.
  if (there && [there, ...there.natives].some((one) => one.sha256 === sha256))
    return note({ version: there.versionNumber });
  if (!(await isStill(file, seen))) return;
  try {
    const onto = lastDelivered(state, file) ?? there?.versionNumber;
    const [delivered] = await deliverFiles(
      place,
      [{ path: file, ...(onto !== undefined && { onto }) }],
      metadata,
      true,
      undefined,
      signal,
    );
    await note({ version: delivered!.version });
    say(
      delivered!.conflicting
        ? `${name}: version ${delivered!.version} is in conflict with a newer or reserved one until somebody decides.`
        : `${name}: delivered as version ${delivered!.version}.`,
    );
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    const { detail, fields = [] } = error.problem;
    await note({ refused: detail });
    say(`${name}: ${detail}${fields.map(({ path: field, message }) => `\n  ${field} ${message}`).join('')}`);
  }
}

/** The newest version that came from here under a file's code: a drawing and its native file share one. */
function lastDelivered(state: State, file: string): number | undefined {
  const numbers = Object.entries(state).flatMap(([name, { version }]) =>
    version !== undefined && codeOf(name) === codeOf(file) ? [version] : [],
  );
  return numbers.length ? Math.max(...numbers) : undefined;
}

/** Whether a file is as it was when it counted as whole. */
async function isStill(file: string, seen: Seen): Promise<boolean> {
  const stat = await unlessMissing(fs.stat(file));
  return stat?.size === seen.size && stat.mtimeMs === seen.modified;
}

/** Files come and go while the folder is watched. */
async function unlessMissing<T>(asked: Promise<T>): Promise<T | undefined> {
  try {
    return await asked;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
}

/** All files below a folder, by their path from there. */
async function filesIn(folder: string): Promise<Map<string, Seen>> {
  const entries = await fs.readdir(folder, { recursive: true, withFileTypes: true });
  const files = new Map<string, Seen>();
  for (const entry of entries) {
    if (!entry.isFile()) continue;
    const file = path.join(entry.parentPath, entry.name);
    const stat = await unlessMissing(fs.stat(file));
    if (stat) files.set(path.relative(folder, file), { size: stat.size, modified: stat.mtimeMs });
  }
  return files;
}

async function readState(folder: string): Promise<State> {
  const text = await unlessMissing(fs.readFile(path.join(folder, STATE_FILE), 'utf8'));
  return text ? (JSON.parse(text) as State) : {};
}

/** Whole or as it was: written beside, then put in its place. */
async function writeState(folder: string, state: State): Promise<void> {
  const target = path.join(folder, STATE_FILE);
  await fs.writeFile(`${target}.tmp`, JSON.stringify(state, null, 1));
  await fs.rename(`${target}.tmp`, target);
}

const sleep = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => (clearTimeout(timer), resolve()), { once: true });
  });
