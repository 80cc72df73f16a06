/**
 * A small simulated other program: keeps a folder of topics in step with the server by the BCF API, both ways. Each topic is a file
 * `<guid>.json`; whoever changes one, or adds a comment to it, changes it for everybody.
 */
import fs from 'node:fs/promises';
import path from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { DESK_FIELDS, mergeTopic, type DeskTopic } from './desk-merge.ts';
import { UsageError } from './problem.ts';

interface DeskComment {
  guid?: string;
  author?: string;
  date?: string;
  comment: string;
}
type DeskFile = DeskTopic & { guid: string; comments: DeskComment[] };
type ServerTopic = DeskTopic & { guid: string };

export interface DeskSettings {
  folder: string;
  server: string;
  token: string;
  projectId: string;
  /** Seconds between two looks; none for a single one. */
  every?: number;
  say: (line: string) => void;
  signal?: AbortSignal;
}
const LAST = '.last.json';
const PAGE = 200;
const GUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

export async function runBcfDesk(settings: DeskSettings): Promise<void> {
  await fs.mkdir(settings.folder, { recursive: true });
  for (;;) {
    await keepInStep(settings);
    if (settings.every === undefined || settings.signal?.aborted) return;
    // Ended in the middle of waiting is ended as asked.
    await setTimeout(settings.every * 1000, undefined, { signal: settings.signal }).catch(() => undefined);
    if (settings.signal?.aborted) return;
  }
}

async function ask<T>(
  { server, token, projectId, signal }: DeskSettings,
  method: string,
  at: string,
  body?: unknown,
): Promise<T> {
  const response = await fetch(`${server}/bcf/3.0/projects/${projectId}${at}`, {
    method,
    headers: { authorization: `Bearer ${token}`, ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
    ...(signal && { signal }),
  });
  const said = (await response.json()) as T & { message?: string };
  if (!response.ok) throw new UsageError(`The server refuses ${method} ${at}`, said.message ?? String(response.status));
  return said;
}

async function everyTopic(settings: DeskSettings): Promise<ServerTopic[]> {
  const all: ServerTopic[] = [];
  for (;;) {
    const some = await ask<ServerTopic[]>(
      settings,
      'GET',
      `/topics?$orderby=creation_date&$top=${PAGE}&$skip=${all.length}`,
    );
    all.push(...some);
    if (some.length < PAGE) return all;
  }
}

/** Whole or as it was. */
async function write(file: string, content: unknown): Promise<void> {
  await fs.writeFile(`${file}.part`, `${JSON.stringify(content, null, 2)}\n`);
  await fs.rename(`${file}.part`, file);
}

async function readIf<T>(file: string): Promise<T | undefined> {
  try {
    return JSON.parse(await fs.readFile(file, 'utf8')) as T;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined;
    if (error instanceof SyntaxError)
      throw new UsageError(`${path.basename(file)} is no JSON`, 'Mend it; nothing was changed.');
    throw error;
  }
}

const fieldsOf = (topic: DeskTopic): DeskTopic =>
  Object.fromEntries(DESK_FIELDS.flatMap((field) => (topic[field] === undefined ? [] : [[field, topic[field]]])));

async function keepInStep(settings: DeskSettings): Promise<void> {
  const { folder, say } = settings;
  const last = (await readIf<Record<string, DeskTopic>>(path.join(folder, LAST))) ?? {};
  const topics = new Map((await everyTopic(settings)).map((topic) => [topic.guid, topic]));
  const here = (await fs.readdir(folder)).filter(
    (name) => name.endsWith('.json') && GUID.test(path.basename(name, '.json')),
  );
  const guids = new Set([...topics.keys(), ...here.map((name) => path.basename(name, '.json'))]);
  for (const guid of guids) {
    const kept = await one(settings, guid, last[guid], topics.get(guid));
    if (!kept) continue;
    last[guid] = kept;
    await write(path.join(folder, LAST), last);
  }
  say(`In step: ${guids.size} topics.`);
}

/** Answers what both sides have then. */
async function one(
  settings: DeskSettings,
  guid: string,
  last: DeskTopic | undefined,
  theirs: ServerTopic | undefined,
): Promise<DeskTopic | undefined> {
  const { folder, say } = settings;
  const file = path.join(folder, `${guid}.json`);
  const mine = await readIf<DeskFile>(file);
  if (!theirs && last) {
    if (mine) say(`${guid} is not to be seen on the server any more; its file stays.`);
    return undefined;
  }
  const merged = mergeTopic(
    last ?? (theirs ? fieldsOf(theirs) : {}),
    mine ? fieldsOf(mine) : (last ?? fieldsOf(theirs!)),
    theirs ? fieldsOf(theirs) : (last ?? {}),
  );
  for (const { field, mine: own } of merged.conflicts)
    say(`${guid}: ${field} was changed on both sides; the server’s word counts, not ${JSON.stringify(own)}.`);
  let topic = theirs;
  if (!theirs) {
    topic = await ask<ServerTopic>(settings, 'POST', '/topics', { ...fieldsOf(mine!), guid });
    say(`${guid} is new on the server.`);
  } else if (merged.toServer) {
    topic = await ask<ServerTopic>(settings, 'PUT', `/topics/${guid}`, merged.topic);
    say(`${guid} was changed on the server.`);
  }
  const comments = await sendComments(settings, guid, file, mine);
  const now = fieldsOf(topic!);
  const content: DeskFile = { guid, ...now, comments };
  if (JSON.stringify(mine) !== JSON.stringify(content)) await write(file, content);
  return now;
}

/** What has no GUID yet gets one before it is sent: interrupted in between, it is not sent twice. */
async function sendComments(
  settings: DeskSettings,
  guid: string,
  file: string,
  mine: DeskFile | undefined,
): Promise<DeskComment[]> {
  const at = `/topics/${guid}/comments`;
  const there = await ask<DeskComment[]>(settings, 'GET', at);
  const known = new Set(there.map((comment) => comment.guid));
  const fresh = (mine?.comments ?? []).filter(
    (comment) => comment.comment && !comment.date && !known.has(comment.guid),
  );
  if (fresh.length) {
    for (const comment of fresh) comment.guid ??= crypto.randomUUID();
    await write(file, mine);
    for (const comment of fresh) await ask(settings, 'POST', at, { guid: comment.guid, comment: comment.comment });
  }
  const all = fresh.length ? await ask<DeskComment[]>(settings, 'GET', at) : there;
  return all.map(({ guid: id, author, date, comment }) => ({ guid: id!, author: author!, date: date!, comment }));
}
