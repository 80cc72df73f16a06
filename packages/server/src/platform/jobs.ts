/** Background work on PostgreSQL: a job is stored in the transaction that asks for it. */
import { sql } from 'drizzle-orm';
import type pg from 'pg';
import PgBoss from 'pg-boss';
import type { Db } from './database.ts';
import { JobLeases } from './job-leases.ts';

export interface JobKind<T extends object = object> {
  queue: string;
  /** How many run at once in one process. */
  parallel: number;
  /** How often it is tried again after it failed. */
  retries?: number;
  /** Runs by itself at these times (cron, UTC), once however many processes there are. */
  cron?: string;
  run(data: T): Promise<void>;
  /** The last retry has failed. */
  giveUp?(data: T, error: unknown): Promise<void>;
}

/** Work was stopped because its process ends: it is neither done nor has it failed. */
export class Interrupted extends Error {
  constructor() {
    super('Interrupted: the process is ending.');
  }
}

/** Who asked for work, in which project. */
export interface Asker {
  projectId: string;
  personId: string;
}

export interface JobCounts {
  waiting: number;
  failed: number;
}

const RETRIES = 2;
/** Nothing runs for longer; whoever dies is noticed by their lease. */
const LONGEST_SECONDS = 6 * 3600;
const DEAD_LETTERS = 'dead-letters';
const RESCUE_MS = 15_000;

export class Jobs {
  private readonly boss: PgBoss;
  private readonly workers = new Map<string, string[]>();
  private readonly leases: JobLeases;
  private rescue: NodeJS.Timeout | undefined;
  private stopping = false;

  constructor(
    databaseUrl: string,
    private readonly pool: pg.Pool,
    private readonly onError: (error: Error) => void,
  ) {
    this.boss = new PgBoss({ connectionString: databaseUrl, max: 4, application_name: 'kindred-jobs' });
    this.boss.on('error', onError);
    this.leases = new JobLeases(databaseUrl, onError);
  }

  /** Makes the queues: any process may send to any of them. */
  async start(kinds: readonly JobKind[]): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(DEAD_LETTERS);
    for (const { queue, retries = RETRIES } of kinds)
      await this.boss.createQueue(queue, {
        name: queue,
        retryLimit: retries,
        expireInSeconds: LONGEST_SECONDS,
        deadLetter: DEAD_LETTERS,
      });
  }

  /** Takes work from the queues, in this process. */
  async work(kinds: readonly JobKind[]): Promise<void> {
    await this.leases.open();
    for (const kind of kinds) {
      const ids: string[] = [];
      for (let i = 0; i < kind.parallel; i++)
        ids.push(
          await this.boss.work(
            kind.queue,
            { batchSize: 1, pollingIntervalSeconds: 2, includeMetadata: true },
            async ([job]) => {
              if (job) await this.leases.hold(job.id, () => this.runOne(kind, job as PgBoss.JobWithMetadata<object>));
            },
          ),
        );
      this.workers.set(kind.queue, ids);
      if (kind.cron) await this.boss.schedule(kind.queue, kind.cron);
    }
    this.rescue = setInterval(() => void this.rescueLost(kinds).catch(this.onError), RESCUE_MS);
  }

  private async rescueLost(kinds: readonly JobKind[]): Promise<void> {
    const byQueue = new Map(kinds.map((kind) => [kind.queue, kind]));
    for (const { queue, data } of await this.leases.rescue(this.pool, [...byQueue.keys()]))
      await byQueue.get(queue)!.giveUp?.(data, new Error('Whoever did this work died each time.'));
  }

  private async runOne(kind: JobKind, job: PgBoss.JobWithMetadata<object>): Promise<void> {
    try {
      if (this.stopping) throw new Interrupted();
      await kind.run(job.data);
    } catch (error) {
      // Given back: a new job in its place, so that ordinary restarts use up no retries.
      if (error instanceof Interrupted) return void (await this.boss.send(kind.queue, job.data));
      if (job.retryCount >= job.retryLimit) await kind.giveUp?.(job.data, error);
      throw error;
    }
  }

  /** How much of a person waits in a queue, and of their project: the longer that line, the later its end has its turn. */
  async waitingOf(db: Db, queue: string, { projectId, personId }: Asker): Promise<number> {
    const { rows } = await db.execute<{ waiting: number }>(sql`
      select (count(*) + count(*) filter (where data -> 'asker' ->> 'personId' = ${personId}))::int as waiting
      from pgboss.job where name = ${queue} and state < 'active' and data -> 'asker' ->> 'projectId' = ${projectId}`);
    return rows[0]!.waiting;
  }

  /** Sends within `db`, so that no job exists for a change that was rolled back. Whatever has a lower `turn` comes first. */
  async send(db: Db, queue: string, data: object, turn = 0): Promise<void> {
    const executeSql = async (text: string, values: unknown[]) => {
      const result = await db.execute(bind(text, values));
      return { rows: result.rows as never[], rowCount: result.rowCount };
    };
    await this.boss.send(queue, data, { priority: -turn, db: { executeSql } } as PgBoss.SendOptions);
  }

  /** Wakes the workers of a queue, which otherwise look every two seconds. */
  wake(queue: string): void {
    for (const id of this.workers.get(queue) ?? []) this.boss.notifyWorker(id);
  }

  async counts(db: Db): Promise<JobCounts> {
    const { rows } = await db.execute(
      sql`select count(*) filter (where state in ('created','retry','active'))::int as waiting,
                 count(*) filter (where state = 'failed')::int as failed
          from pgboss.job where name not like '\\_\\_pgboss%' and name <> ${DEAD_LETTERS}`,
    );
    return rows[0] as unknown as JobCounts;
  }

  /** From now on no work begins; `interrupt` ends what runs. */
  async stop(interrupt: () => void): Promise<void> {
    this.stopping = true;
    clearInterval(this.rescue);
    interrupt();
    await this.boss.stop({ graceful: true, timeout: 10_000, wait: true });
    await this.leases.close();
  }
}

/** `$1`-style text with values as a Drizzle query. */
function bind(text: string, values: unknown[] = []) {
  const parts = text.split(/\$(\d+)/);
  return sql.join(parts.map((part, i) => (i % 2 ? sql`${sql.param(values[Number(part) - 1])}` : sql.raw(part))));
}
