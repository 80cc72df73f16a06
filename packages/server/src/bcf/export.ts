/** Issues leave as a BCF file, made by a long job: as whoever asked sees them. */
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import type { startBcfExport as operation } from '@kindred/contract/bcf/bcf';
import type { Body } from '@kindred/contract/platform/operation';
import type { BcfFile, BcfNote, BcfTopic, BcfVersion } from '@kindred/core/bcf/bcf-file';
import { fieldsOf } from '@kindred/core/bcf/compare-topic';
import { writeBcf } from '@kindred/core/bcf/write-bcf';
import { eq } from 'drizzle-orm';
import { buffer } from 'node:stream/consumers';
import { listIssues } from '../issues/list.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from '../portfolio/schema.ts';
import { hashIn } from './kept.ts';
import { bcfTransfers } from './schema.ts';
import { remember, topicsOf, type Remembered } from './topics.ts';

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
    const { projectId } = owner;
    const [project] = await db.select().from(projects).where(eq(projects.id, projectId));
    const name = `Issues ${project!.number || project!.name} ${now().toISOString().slice(0, 10)}.bcf`;
    const topics: BcfTopic[] = [];
    const said: Remembered[] = [];
    let after: string | undefined;
    do {
      const { items, next } = await listIssues(platform, owner, { ...filter, limit: PAGE, ...(after && { after }) });
      const some = await topicsOf(platform, projectId, items);
      topics.push(...some);
      said.push(...some.map((topic, i) => ({ issueId: items[i]!.id, guid: topic.guid, said: [fieldsOf(topic)] })));
      after = next ?? undefined;
      await progress(0);
    } while (after);
    const file: BcfFile = { version, project: { id: project!.id, name: project!.name }, topics, notes: [] };
    const notes: BcfNote[] = [];
    async function* all() {
      yield* entries(platform, file, version, notes, progress);
      // Only once all of it is written does it count as said.
      await db.transaction(async (unit) => {
        await remember(unit, projectId, said);
        await unit.insert(bcfTransfers).values({
          ...{ projectId, way: 'out', byId: owner.id, at: now(), fileName: name, version, filter },
          ...{ counts: { topics: topics.length }, notes },
        });
      });
    }
    return { name, mediaType: 'application/octet-stream', content: zipAsTheyCome(all()) };
  },
};

async function* entries(
  { store }: Platform,
  file: BcfFile,
  version: BcfVersion,
  notes: BcfNote[],
  progress: (done: number) => Promise<void>,
): AsyncGenerator<{ name: string; content: Uint8Array }> {
  let done = 0;
  const read = async (entry: string): Promise<Uint8Array> => buffer(await store.read(hashIn(entry)));
  for await (const { name, bytes } of writeBcf(file, version, read, (note) => notes.push(note))) {
    if (name.endsWith('/markup.bcf')) await progress(done++ / file.topics.length);
    yield { name, content: bytes };
  }
}
