/** Long work that somebody starts: it has a name, an owner, progress, can be cancelled and tried again, and its result is kept. */
import type { LongJob } from '@kindred/contract/platform/jobs';
import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm';
import type { Readable } from 'node:stream';
import type { Member } from './caller.ts';
import type { Change } from './change.ts';
import { now } from './clock.ts';
import { ProblemError, refused, requireRow } from './errors.ts';
import type { JobKind } from './jobs.ts';
import { blobs, longJobs } from './schema.ts';
import type { Platform } from './services.ts';

export interface LongJobRun<T> {
  id: string;
  data: T;
  owner: Member;
  /** From 0 to 1; throws when the owner has cancelled. */
  progress(done: number): Promise<void>;
}

/** The file that a long job makes. */
export interface MadeFile {
  name: string;
  mediaType: string;
  content: Readable;
}

export interface LongJobKind<T extends object = object> {
  kind: string;
  run(platform: Platform, run: LongJobRun<T>): Promise<MadeFile | void>;
}

export const LONG_JOB = 'long-job';
const KEPT_DAYS = 14;
const TOLD_EVERY_MS = 500;
type Row = typeof longJobs.$inferSelect;
class Cancelled extends Error {}

const toLongJob = ({ id, kind, name, path, status, progress, note, fileName, createdAt, endedAt }: Row): LongJob => ({
  id,
  kind,
  name,
  path,
  status,
  progress,
  note,
  fileName,
  createdAt: createdAt.toISOString(),
  endedAt: endedAt?.toISOString() ?? null,
});

export interface NewLongJob {
  kind: string;
  name: string;
  path: string;
  data: object;
}

/** Starts long work in the transaction of a change. */
export async function startLongJob(unit: Change, owner: Member, wanted: NewLongJob): Promise<LongJob> {
  const [row] = await unit.db
    .insert(longJobs)
    .values({ ...wanted, projectId: owner.projectId, ownerId: owner.id, status: 'waiting', createdAt: now() })
    .returning();
  await unit.enqueue(LONG_JOB, { id: row!.id });
  return toLongJob(row!);
}

const mine = (member: Member) => and(eq(longJobs.projectId, member.projectId), eq(longJobs.ownerId, member.id));

export async function listLongJobs({ db }: Platform, member: Member): Promise<LongJob[]> {
  const rows = await db.select().from(longJobs).where(mine(member)).orderBy(desc(longJobs.createdAt)).limit(50);
  return rows.map(toLongJob);
}

async function ownJob({ db }: Pick<Platform, 'db'>, member: Member, id: string): Promise<Row> {
  const rows = await db
    .select()
    .from(longJobs)
    .where(and(mine(member), eq(longJobs.id, id)));
  return requireRow(rows, 'job');
}

/** Waiting work ends at once; running work ends the next time it tells its progress. */
export async function cancelLongJob(platform: Platform, member: Member, id: string): Promise<LongJob> {
  await ownJob(platform, member, id);
  const waits = sql`${longJobs.status} = 'waiting'`;
  const [row] = await platform.db
    .update(longJobs)
    .set({
      cancelAsked: true,
      status: sql`case when ${waits} then 'cancelled' else ${longJobs.status} end`,
      endedAt: sql`case when ${waits} then now() end`,
    })
    .where(and(eq(longJobs.id, id), inArray(longJobs.status, ['waiting', 'running'])))
    .returning();
  if (!row) throw refused('job-ended', 'This work has ended already.');
  return toLongJob(row);
}

export async function tryLongJobAgain(platform: Platform, member: Member, id: string): Promise<LongJob> {
  const { db, jobs } = platform;
  await ownJob(platform, member, id);
  const row = await db.transaction(async (unit) => {
    const [row] = await unit
      .update(longJobs)
      .set({ status: 'waiting', progress: 0, cancelAsked: false, note: '', endedAt: null })
      .where(and(eq(longJobs.id, id), inArray(longJobs.status, ['failed', 'cancelled'])))
      .returning();
    if (!row) throw refused('job-not-ended', 'Only work that failed or was cancelled can be tried again.');
    await jobs.send(unit, LONG_JOB, { id });
    return row;
  });
  jobs.wake(LONG_JOB);
  return toLongJob(row);
}

export async function resultOf(
  platform: Platform,
  member: Member,
  id: string,
): Promise<{ sha256: string; fileName: string; mediaType: string }> {
  const { sha256, fileName, mediaType } = await ownJob(platform, member, id);
  if (!sha256) throw refused('no-result', 'This work has made no file, or the file is not kept any longer.');
  return { sha256, fileName: fileName!, mediaType: mediaType! };
}

/** Runs what waits, whatever its kind. */
export function longJobKind(
  platform: Platform,
  memberOf: (row: Row) => Promise<Member | undefined>,
): JobKind<{ id: string }> {
  const kinds = new Map(
    platform.capabilities.all.flatMap(({ longJobs = [] }) => longJobs).map((one) => [one.kind, one]),
  );
  const end = async (row: Row, set: Partial<Row>): Promise<void> => {
    await platform.db
      .update(longJobs)
      .set({ ...set, endedAt: now() })
      .where(eq(longJobs.id, row.id));
    platform.live.announce({ projectId: row.projectId, subjectType: 'job', personIds: [row.ownerId] });
  };
  return {
    queue: LONG_JOB,
    parallel: 2,
    async run({ id }) {
      const [row] = await platform.db
        .update(longJobs)
        .set({ status: 'running' })
        .where(and(eq(longJobs.id, id), inArray(longJobs.status, ['waiting', 'running'])))
        .returning();
      if (!row) return;
      const owner = await memberOf(row);
      if (!owner) return end(row, { status: 'cancelled' });
      try {
        const made = await kinds
          .get(row.kind)!
          .run(platform, { id, data: row.data as object, owner, progress: teller(platform, row) });
        const stored = made && (await recordBlob(platform, made.content));
        await end(row, {
          status: 'done',
          progress: 1,
          ...(made && { sha256: stored!.sha256, fileName: made.name, mediaType: made.mediaType }),
        });
      } catch (error) {
        if (error instanceof Cancelled) return end(row, { status: 'cancelled' });
        if (!(error instanceof ProblemError) || error.status >= 500) throw error;
        await end(row, { status: 'failed', note: error.detail });
      }
    },
    async giveUp({ id }, error) {
      platform.log.error({ err: error, job: id }, 'a long job failed');
      const [row] = await platform.db.select().from(longJobs).where(eq(longJobs.id, id));
      if (row) await end(row, { status: 'failed', note: 'This ended unexpectedly. Nothing was changed; try again.' });
    },
  };
}

/** Writes progress now and then, and hears at the same time whether the owner has cancelled. */
function teller(platform: Platform, row: Row): (done: number) => Promise<void> {
  let told = 0;
  return async (done) => {
    if (Date.now() - told < TOLD_EVERY_MS) return;
    told = Date.now();
    const [after] = await platform.db
      .update(longJobs)
      .set({ progress: done })
      .where(eq(longJobs.id, row.id))
      .returning({ cancelAsked: longJobs.cancelAsked });
    if (!after || after.cancelAsked) throw new Cancelled();
    platform.live.announce({ projectId: row.projectId, subjectType: 'job', personIds: [row.ownerId] });
  };
}

/** Results are not kept for ever. */
export async function removeOldLongJobs({ db }: Pick<Platform, 'db'>): Promise<void> {
  await db.delete(longJobs).where(lt(longJobs.createdAt, sql`now() - make_interval(days => ${KEPT_DAYS})`));
}

async function recordBlob({ db, store }: Platform, content: Readable): Promise<{ sha256: string }> {
  const { sha256, size } = await store.putStream(content);
  await db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
  return { sha256 };
}
