/** Issues as topics, with what other programs said of them and we have no place for. */
import type { Issue } from '@kindred/contract/issues/issues';
import type { BcfComment, BcfTopic, BcfViewpoint } from '@kindred/core/bcf/bcf-file';
import { guidOf } from '@kindred/core/bcf/bcf-guid';
import { fieldsOf, type BcfFields } from '@kindred/core/bcf/compare-topic';
import { viewpointOf } from '@kindred/core/bcf/of-viewpoint';
import { statusFrom } from '@kindred/core/bcf/status-words';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { isDeepStrictEqual } from 'node:util';
import { personsById } from '../identity/persons.ts';
import { issueComments, issuePictures } from '../issues/schema.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';
import { viewpoints } from '../scene/schema.ts';
import { hashIn, type KeptTopic } from './kept.ts';
import { bcfComments, bcfTopics } from './schema.ts';

type Known = Pick<typeof bcfTopics.$inferSelect, 'guid' | 'said' | 'kept' | 'files'>;
export const NOTHING_KEPT: KeptTopic = {
  ...{ stage: null, index: null, assignedId: null, author: null, created: null, modifiedAuthor: null },
  ...{ referenceLinks: [], header: [], snippet: null, documents: [], related: [] },
  ...{ words: { type: null, status: null, priority: null, assignedTo: null }, viewpoints: [], ownViewpoint: null },
  commentViewpoints: {},
};

export async function knownTopics(db: Db, issueIds: readonly string[]): Promise<Map<string, Known>> {
  if (!issueIds.length) return new Map();
  const rows = await db
    .select()
    .from(bcfTopics)
    .where(inArray(bcfTopics.issueId, [...issueIds]));
  return new Map(rows.map((row) => [row.issueId, row]));
}

/** What an issue says in the fields of a topic; the word of another program stays while it means what is here. */
export function wordsOf(issue: Issue, known: Pick<Known, 'kept'> | undefined): Pick<BcfTopic, keyof BcfFields> {
  const words = known?.kept.words;
  return {
    ...{ title: issue.title, description: issue.description || null, type: issue.type, priority: issue.priority },
    status: words?.status && statusFrom(words.status) === issue.status ? words.status : issue.status,
    assignedTo: issue.responsible?.person?.email ?? issue.responsible?.name ?? words?.assignedTo ?? null,
    ...{ due: issue.dueOn, labels: issue.labels },
  };
}
export const mineOf = (issue: Issue, known: Pick<Known, 'kept'> | undefined): BcfFields =>
  fieldsOf(wordsOf(issue, known));

/** Files are named by their hashes, with what tells their kind. */
export async function topicsOf(
  { db, config }: Platform,
  projectId: string,
  items: readonly Issue[],
): Promise<BcfTopic[]> {
  const ids = items.map(({ id }) => id);
  const known = await knownTopics(db, ids);
  const comments = await commentsOf(db, ids);
  const seen = await viewpointsOf(
    db,
    items.flatMap(({ viewpointId }) => viewpointId ?? []),
  );
  const pictures = ids.length
    ? await db
        .select()
        .from(issuePictures)
        .where(inArray(issuePictures.issueId, ids))
        .orderBy(asc(issuePictures.position))
    : [];
  const picturesOf = new Map<string, string[]>(ids.map((id) => [id, []]));
  for (const { issueId, sha256 } of pictures) picturesOf.get(issueId)!.push(sha256);
  return items.map((issue): BcfTopic => {
    const topic = known.get(issue.id);
    const kept = topic?.kept ?? NOTHING_KEPT;
    const others = kept.viewpoints.filter(({ guid }) => guid !== kept.ownViewpoint);
    const came = kept.viewpoints.find(({ guid }) => guid === kept.ownViewpoint);
    const brought = new Set(kept.viewpoints.flatMap(({ snapshot }) => (snapshot ? [hashIn(snapshot)] : [])));
    const own = picturesOf.get(issue.id)!.filter((sha256) => !brought.has(sha256));
    const scene = issue.viewpointId ? seen.get(issue.viewpointId) : undefined;
    const address = `${config.publicUrl}/projects/${projectId}/issues/${issue.id}`;
    return {
      ...wordsOf(issue, topic),
      guid: topic?.guid ?? issue.id,
      assignedId: kept.assignedId ?? String(issue.number),
      ...{ stage: kept.stage, index: kept.index ?? issue.number },
      author: issue.writtenBy ?? issue.author.email,
      ...{ created: issue.createdAt, modifiedAuthor: kept.modifiedAuthor, modified: issue.updatedAt },
      referenceLinks: [...new Set([...kept.referenceLinks, address])],
      ...{ header: kept.header, snippet: kept.snippet, documents: kept.documents, related: kept.related },
      comments: (comments.get(issue.id) ?? []).map((comment) => ({
        ...comment,
        viewpoint: kept.commentViewpoints[comment.guid.toLowerCase()] ?? null,
      })),
      viewpoints: [
        // What a scene has no words for stays as it came.
        ...(scene
          ? [
              came
                ? { ...scene, guid: came.guid, index: came.index, colours: came.colours, bitmaps: came.bitmaps }
                : scene,
            ]
          : []),
        ...others,
        ...own.map((sha256, i) => pictureAlone(issue.id, i, `${sha256}.png`)),
      ],
    };
  });
}

/** By issue, in the order in which they were written; what was withdrawn is not said again. */
async function commentsOf(db: Db, issueIds: string[]): Promise<Map<string, BcfComment[]>> {
  const found = new Map<string, BcfComment[]>(issueIds.map((id) => [id, []]));
  if (!issueIds.length) return found;
  const rows = await db
    .select({ comment: issueComments, guid: bcfComments.guid })
    .from(issueComments)
    .leftJoin(bcfComments, eq(bcfComments.commentId, issueComments.id))
    .where(and(inArray(issueComments.issueId, issueIds), isNull(issueComments.withdrawnAt)))
    .orderBy(asc(issueComments.at), asc(issueComments.id));
  const persons = await personsById(
    db,
    rows.map(({ comment }) => comment.authorId),
  );
  for (const { comment, guid } of rows)
    found.get(comment.issueId)!.push({
      guid: guid ?? comment.id,
      author: comment.writtenBy ?? persons.get(comment.authorId)!.email,
      ...{ date: comment.at.toISOString(), text: comment.text, viewpoint: null },
      ...{ modifiedAuthor: null, modified: comment.editedAt?.toISOString() ?? null },
    });
  return found;
}

/** By their id. */
async function viewpointsOf(db: Db, ids: string[]): Promise<Map<string, BcfViewpoint>> {
  if (!ids.length) return new Map();
  const rows = await db
    .select({ id: viewpoints.id, state: viewpoints.state, picture: viewpoints.pictureSha256 })
    .from(viewpoints)
    .where(inArray(viewpoints.id, ids));
  return new Map(rows.map(({ id, state, picture }) => [id, viewpointOf(id, state, `${picture}.png`)]));
}

const pictureAlone = (issueId: string, i: number, snapshot: string): BcfViewpoint => ({
  ...{ guid: guidOf(`picture ${issueId} ${i}`), index: null, camera: null, selection: [], visibility: null },
  ...{ colours: [], sections: [], lines: [], bitmaps: [], snapshot },
});

export interface Remembered {
  issueId: string;
  guid: string;
  said: readonly BcfFields[];
  kept?: KeptTopic;
  files?: readonly string[];
}

/** Remembers what was said of issues, so that they are known again when they come back. Each issue at most once. */
export async function remember(db: Db, projectId: string, topics: readonly Remembered[]): Promise<void> {
  for (let i = 0; i < topics.length; i += ROWS) {
    const some = topics.slice(i, i + ROWS);
    const known = await knownTopics(
      db,
      some.map(({ issueId }) => issueId),
    );
    const rows = some.map(({ issueId, guid, said, kept, files }) => {
      const row = known.get(issueId);
      const all = row?.said ?? [];
      for (const fields of said) if (!isDeepStrictEqual(all.at(-1), fields)) all.push(fields);
      return {
        ...{ issueId, projectId, guid: row?.guid ?? guid, said: all.slice(-MOST_SAID) },
        ...{ kept: kept ?? row?.kept ?? NOTHING_KEPT, files: [...(files ?? row?.files ?? [])] },
      };
    });
    await db
      .insert(bcfTopics)
      .values(rows)
      .onConflictDoUpdate({
        target: bcfTopics.issueId,
        set: { said: sql`excluded.said`, kept: sql`excluded.kept`, files: sql`excluded.files` },
      });
  }
}
const ROWS = 500;
const MOST_SAID = 50;
