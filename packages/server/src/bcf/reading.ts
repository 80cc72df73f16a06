/** A BCF file comes in: read in a process of its own, and held against what is here. Nothing is taken yet. */
import type { FoundTopic, showBcfImport } from '@kindred/contract/bcf/bcf';
import type { Response } from '@kindred/contract/platform/operation';
import type { Issue } from '@kindred/contract/issues/issues';
import type { BcfTopic } from '@kindred/core/bcf/bcf-file';
import { guidFrom, guidOf } from '@kindred/core/bcf/bcf-guid';
import { compareTopic, fieldsOf } from '@kindred/core/bcf/compare-topic';
import { storable } from '@kindred/core/platform/storable';
import { and, eq, inArray, sql } from 'drizzle-orm';
import fs from 'node:fs/promises';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { toIssues, type IssueRow } from '../issues/rows.ts';
import { issueComments, issues } from '../issues/schema.ts';
import { issueVisibleTo } from '../issues/visibility.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import { blobs } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import { uuids } from '../platform/subjects.ts';
import { openPreparation } from '../preparation/once.ts';
import type { UnpackedBcf } from '../preparation/unpack-bcf.ts';
import { uploadFor } from '../register/uploads.ts';
import { bcfComments, bcfReadings, bcfTopics } from './schema.ts';
import { knownTopics, mineOf } from './topics.ts';

/** What one preview can show. */
const MOST_TOPICS = 20_000;

export const startBcfImport = (platform: Platform, actor: Member, uploadId: string) =>
  change(platform, actor, async (unit) => {
    const { fileName, sha256 } = await uploadFor(unit.db, actor, 'bcf', uploadId);
    return startLongJob(unit, actor, {
      kind: 'bcf reading',
      name: fileName,
      path: 'issues',
      data: { sha256, fileName },
    });
  });

const FILES_AT_ONCE = 16;

export const bcfReading: LongJobKind<{ sha256: string; fileName: string }> = {
  kind: 'bcf reading',
  async run(platform, { data: { sha256, fileName }, owner, id, progress }) {
    const { db, store } = platform;
    const keep = async (files: readonly string[]): Promise<string[]> => {
      const kept = await Promise.all(files.map((file) => store.putFile(file)));
      await db
        .insert(blobs)
        .values(kept.map(({ sha256: hash, size }) => ({ sha256: hash, size, createdAt: now() })))
        .onConflictDoNothing();
      return kept.map(({ sha256: hash }) => hash);
    };
    const { unpack, end } = openPreparation(platform);
    try {
      await unpack(sha256, { kind: 'document', bcf: true }, 'bcf-not-read', async (folder, [first, ...files]) => {
        const { notes, ...read } = storable(
          JSON.parse(await fs.readFile(path.join(folder, first!), 'utf8')) as UnpackedBcf,
        );
        if (read.topics.length > MOST_TOPICS)
          throw refused(
            'too-many-topics',
            `This file has ${read.topics.length} topics; up to ${MOST_TOPICS} are taken at once. Nothing was changed.`,
          );
        const hashes = new Map<string, string>();
        for (let i = 0; i < files.length; i += FILES_AT_ONCE) {
          const names = files.slice(i, i + FILES_AT_ONCE);
          const kept = await keep(names.map((name) => path.join(folder, name)));
          for (const [at, name] of names.entries()) hashes.set(name, kept[at]!);
          await progress(i / files.length);
        }
        const kept = path.join(folder, 'kept.json');
        const named = Object.fromEntries(Object.entries(read.files).map(([entry, name]) => [entry, hashes.get(name)!]));
        await fs.writeFile(kept, JSON.stringify({ ...read, files: named }));
        const [topicsSha256] = await keep([kept]);
        await db
          .insert(bcfReadings)
          .values({
            ...{ jobId: id, projectId: owner.projectId, ownerId: owner.id, fileName, version: read.version },
            ...{ topicsSha256: topicsSha256!, fileHashes: [...hashes.values()], notes: notes.slice(0, 500) },
          })
          .onConflictDoNothing();
      });
    } finally {
      end();
    }
  },
};

/** As it was read: `files` are hashes by the entries of the archive. */
export interface ReadBcf {
  topics: BcfTopic[];
  files: Record<string, string>;
}
type Reading = typeof bcfReadings.$inferSelect & ReadBcf;

export async function readingOf({ db, store }: Platform, actor: Member, jobId: string): Promise<Reading> {
  const [row] = await db
    .select()
    .from(bcfReadings)
    .where(
      and(eq(bcfReadings.jobId, jobId), eq(bcfReadings.ownerId, actor.id), eq(bcfReadings.projectId, actor.projectId)),
    );
  if (!row) throw notFound('import');
  const { topics, files } = JSON.parse((await buffer(await store.read(row.topicsSha256))).toString()) as ReadBcf;
  return { ...row, topics, files };
}

/** As everybody writes GUIDs; one that is none becomes one, the same each time. */
export const guidOfTopic = ({ guid }: Pick<BcfTopic, 'guid'>): string => guidFrom(guid) ?? guidOf(`topic ${guid}`);

/** The issues that topics are, by their GUID, of those that the actor sees; `hidden`: they are here, and not for the actor. */
export async function issuesOf(
  db: Db,
  actor: Member,
  guids: readonly string[],
): Promise<{ rows: Map<string, IssueRow>; hidden: Set<string> }> {
  const rows = new Map<string, IssueRow>();
  const hidden = new Set<string>();
  for (let i = 0; i < guids.length; i += 500) {
    const some = guids.slice(i, i + 500);
    const found = await db
      .select({ row: issues, guid: bcfTopics.guid, seen: sql<boolean>`${issueVisibleTo(actor)}` })
      .from(issues)
      .leftJoin(bcfTopics, eq(bcfTopics.issueId, issues.id))
      .where(
        and(
          eq(issues.projectId, actor.projectId),
          // Two keys in one array: each is found by its index, where an “or” of them would read all issues.
          sql`${issues.id} = any(array(${db
            .select({ id: bcfTopics.issueId })
            .from(bcfTopics)
            .where(and(eq(bcfTopics.projectId, actor.projectId), inArray(bcfTopics.guid, some)))}) || ${uuids(some)})`,
        ),
      );
    for (const { row, guid, seen } of found)
      if (seen) rows.set(guid ?? row.id, row);
      else hidden.add(guid ?? row.id);
  }
  return { rows, hidden };
}

/** GUIDs of comments that are here already, by issue. */
export async function knownComments(db: Db, issueIds: readonly string[]): Promise<Map<string, Set<string>>> {
  const found = new Map<string, Set<string>>();
  if (!issueIds.length) return found;
  const rows = await db
    .select({ id: issueComments.id, issueId: issueComments.issueId, guid: bcfComments.guid })
    .from(issueComments)
    .leftJoin(bcfComments, eq(bcfComments.commentId, issueComments.id))
    .where(inArray(issueComments.issueId, [...issueIds]));
  for (const { id, issueId, guid } of rows)
    (found.get(issueId) ?? found.set(issueId, new Set()).get(issueId)!).add(guid ?? id);
  return found;
}

export async function showReading(
  platform: Platform,
  actor: Member,
  jobId: string,
): Promise<Response<typeof showBcfImport>> {
  const { db } = platform;
  const { fileName, version, topics, notes } = await readingOf(platform, actor, jobId);
  const { rows, hidden } = await issuesOf(db, actor, topics.map(guidOfTopic));
  const all = [...rows.values()];
  const known = await knownTopics(
    db,
    all.map(({ id }) => id),
  );
  const comments = await knownComments(
    db,
    all.map(({ id }) => id),
  );
  const byId = new Map((await toIssues(db, all)).map((issue) => [issue.id, issue]));
  const found = topics.flatMap((topic): FoundTopic[] => {
    const guid = guidOfTopic(topic);
    if (hidden.has(guid)) return [];
    const row = rows.get(guid);
    return [row ? held(topic, byId.get(row.id)!, known.get(row.id), comments.get(row.id)) : fresh(topic)];
  });
  const told = found.filter((one) => one.found !== 'same');
  return { fileName, version, topics: told, same: found.length - told.length, notes: notes as never };
}

const titleOf = ({ title }: BcfTopic): string => title.trim() || 'Without a title';
const fresh = (topic: BcfTopic): FoundTopic => ({
  ...{ guid: guidOfTopic(topic), title: titleOf(topic), found: 'new', issue: null, fields: [] },
  ...{ comments: topic.comments.length, viewpoints: topic.viewpoints.length },
});

type Known = Awaited<ReturnType<typeof knownTopics>> extends Map<string, infer T> ? T : never;
function held(
  topic: BcfTopic,
  issue: Issue,
  known: Known | undefined,
  comments: ReadonlySet<string> | undefined,
): FoundTopic {
  const fields = compareTopic(known?.said ?? [], mineOf(issue, known), fieldsOf(topic));
  const fresh = topic.comments.filter(({ guid }) => !comments?.has(guid.toLowerCase())).length;
  const viewpoints = newViewpoints(topic, issue, known).length;
  const found = fields.some((one) => one.found === 'both')
    ? 'conflict'
    : fields.length || fresh || viewpoints
      ? 'changed'
      : 'same';
  return {
    ...{ guid: guidOfTopic(topic), title: issue.title, found, issue: { id: issue.id, number: issue.number } },
    ...{ fields, comments: fresh, viewpoints },
  };
}

/** Viewpoints of a topic that its issue does not have: neither as its own nor kept, nor as a picture that we wrote out. */
export function newViewpoints(
  topic: BcfTopic,
  issue: Pick<Issue, 'id' | 'viewpointId' | 'pictures'>,
  known: Known | undefined,
): BcfTopic['viewpoints'] {
  const have = new Set([
    ...(known?.kept.viewpoints.map(({ guid }) => guid.toLowerCase()) ?? []),
    ...(issue.viewpointId ? [issue.viewpointId] : []),
    ...Array.from({ length: issue.pictures }, (_, i) => guidOf(`picture ${issue.id} ${i}`)),
  ]);
  return topic.viewpoints.filter(({ guid }) => !have.has(guid.toLowerCase()));
}
