/** Issues leave as a BCF file, made by a long job: as whoever asked sees them. */
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import type { startBcfExport as operation } from '@kindred/contract/bcf/bcf';
import type { Issue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import type { BcfComment, BcfFile, BcfTopic, BcfVersion, BcfViewpoint } from '@kindred/core/bcf/bcf-file';
import { guidOf } from '@kindred/core/bcf/bcf-guid';
import { viewpointOf } from '@kindred/core/bcf/of-viewpoint';
import { writeBcf } from '@kindred/core/bcf/write-bcf';
import { asc, eq, inArray } from 'drizzle-orm';
import { buffer } from 'node:stream/consumers';
import { personsById } from '../identity/persons.ts';
import { issueComments, issuePictures } from '../issues/schema.ts';
import { listIssues } from '../issues/list.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from '../portfolio/schema.ts';
import { viewpoints } from '../scene/schema.ts';

type Wanted = Body<typeof operation>;
/** Issues that are asked for at once. */
const PAGE = 200;

export const startBcfExport = (platform: Platform, actor: Member, wanted: Wanted) =>
  change(platform, actor, async (unit) => {
    const { version: _version, ...filter } = wanted;
    void _version;
    const { items } = await listIssues({ ...platform, db: unit.db as Platform['db'] }, actor, { ...filter, limit: 1 });
    if (!items.length) throw refused('no-issues', 'No issue that you see fits. Nothing was begun.');
    const job = await startLongJob(unit, actor, {
      ...{ kind: 'bcf export', name: 'Issues.bcf', path: 'issues', data: wanted },
    });
    await unit.record({
      ...{ projectId: actor.projectId, verb: 'issues exported', subjectType: 'project', subjectId: actor.projectId },
      after: { ...wanted },
    });
    return job;
  });

export const bcfExport: LongJobKind<Wanted> = {
  kind: 'bcf export',
  async run(platform, { data: { version, ...filter }, owner, progress }) {
    const { db } = platform;
    const [project] = await db.select().from(projects).where(eq(projects.id, owner.projectId));
    const topics: BcfTopic[] = [];
    let after: string | undefined;
    do {
      const { items, next } = await listIssues(platform, owner, { ...filter, limit: PAGE, ...(after && { after }) });
      topics.push(...(await topicsOf(platform, owner.projectId, items)));
      after = next ?? undefined;
      await progress(0);
    } while (after);
    const file: BcfFile = { version, project: { id: project!.id, name: project!.name }, topics, notes: [] };
    return {
      name: `Issues ${project!.number || project!.name} ${new Date().toISOString().slice(0, 10)}.bcf`,
      mediaType: 'application/octet-stream',
      content: zipAsTheyCome(entries(platform, file, version, progress)),
    };
  },
};

async function* entries(
  { store }: Platform,
  file: BcfFile,
  version: BcfVersion,
  progress: (done: number) => Promise<void>,
): AsyncGenerator<{ name: string; content: Uint8Array }> {
  let done = 0;
  const read = async (entry: string): Promise<Uint8Array> => buffer(await store.read(entry.split('.')[0]!));
  for await (const { name, bytes } of writeBcf(file, version, read, () => undefined)) {
    if (name.endsWith('/markup.bcf')) await progress(done++ / file.topics.length);
    yield { name, content: bytes };
  }
}

async function topicsOf({ db, config }: Platform, projectId: string, items: readonly Issue[]): Promise<BcfTopic[]> {
  const ids = items.map(({ id }) => id);
  const comments = await commentsOf(db, ids);
  const seen = await viewpointsOf(
    db,
    items.flatMap(({ viewpointId }) => viewpointId ?? []),
  );
  const pictures = await db
    .select()
    .from(issuePictures)
    .where(inArray(issuePictures.issueId, ids))
    .orderBy(asc(issuePictures.position));
  return items.map((issue): BcfTopic => {
    const own = pictures.filter(({ issueId }) => issueId === issue.id);
    const scene = issue.viewpointId ? seen.get(issue.viewpointId) : undefined;
    return {
      ...{
        guid: issue.id,
        assignedId: String(issue.number),
        title: issue.title,
        description: issue.description || null,
      },
      ...{ type: issue.type, status: issue.status, priority: issue.priority, stage: null, index: issue.number },
      ...{ author: issue.author.email, created: issue.createdAt, modifiedAuthor: null, modified: issue.updatedAt },
      ...{
        assignedTo: issue.responsible?.person?.email ?? issue.responsible?.name ?? null,
        due: issue.dueOn,
        labels: issue.labels,
      },
      referenceLinks: [`${config.publicUrl}/projects/${projectId}/issues/${issue.id}`],
      ...{ header: [], snippet: null, documents: [], related: [] },
      comments: comments.get(issue.id) ?? [],
      viewpoints: [
        ...(scene ? [scene] : []),
        ...own.map(({ sha256 }, i) => pictureAlone(issue.id, i, `${sha256}.png`)),
      ],
    };
  });
}

/** By issue, in the order in which they were written. */
async function commentsOf(db: Db, issueIds: string[]): Promise<Map<string, BcfComment[]>> {
  const rows = await db
    .select()
    .from(issueComments)
    .where(inArray(issueComments.issueId, issueIds))
    .orderBy(asc(issueComments.at), asc(issueComments.id));
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  const found = new Map<string, BcfComment[]>(issueIds.map((id) => [id, []]));
  for (const { id, issueId, authorId, text, at } of rows)
    found.get(issueId)!.push({
      ...{ guid: id, author: persons.get(authorId)!.email, date: at.toISOString(), text },
      ...{ viewpoint: null, modifiedAuthor: null, modified: null },
    });
  return found;
}

/** By their id. */
async function viewpointsOf(db: Db, ids: string[]): Promise<Map<string, BcfViewpoint>> {
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
