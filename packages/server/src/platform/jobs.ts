import PgBoss from 'pg-boss';
import type { Db } from './database.ts';
import { sql } from 'drizzle-orm';

export interface JobCounts {
  waiting: number;
  failed: number;
}

/** Background work on PostgreSQL: a job is stored in the transaction that asks for it. */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly workers = new Map<string, string[]>();

  constructor(databaseUrl: string, onError: (error: Error) => void) {
    this.boss = new PgBoss({ connectionString: databaseUrl, max: 4, application_name: 'kindred-jobs' });
    this.boss.on('error', onError);
  }

  async start(queues: string[]): Promise<void> {
    await this.boss.start();
    for (const queue of queues)
      await this.boss.createQueue(queue, { name: queue, retryLimit: 2, expireInSeconds: 3600 });
  }

  /** Sends within `db`, so that no job exists for a change that was rolled back. */
  async send(db: Db, queue: string, data: object): Promise<void> {
    const executeSql = async (text: string, values: unknown[]) => {
      const result = await db.execute(bind(text, values));
      return { rows: result.rows as never[], rowCount: result.rowCount };
    };
    await this.boss.send(queue, data, { db: { executeSql } } as PgBoss.SendOptions);
  }

  /** Runs a queue's work by itself at these times (cron, UTC), once however many processes there are. */
  async schedule(queue: string, cron: string): Promise<void> {
    await this.boss.schedule(queue, cron);
  }

  /** Wakes the workers of a queue, which otherwise look every two seconds. */
  wake(queue: string): void {
    for (const id of this.workers.get(queue) ?? []) this.boss.notifyWorker(id);
  }

  async work<T extends object>(queue: string, parallel: number, run: (data: T) => Promise<void>): Promise<void> {
    const ids: string[] = [];
    for (let i = 0; i < parallel; i++)
      ids.push(
        await this.boss.work<T>(queue, { batchSize: 1, pollingIntervalSeconds: 2 }, async ([job]) => {
          if (job) await run(job.data);
        }),
      );
    this.workers.set(queue, ids);
  }

  async counts(db: Db): Promise<JobCounts> {
    const { rows } = await db.execute(
      sql`select count(*) filter (where state in ('created','retry','active'))::int as waiting,
                 count(*) filter (where state = 'failed')::int as failed
          from pgboss.job where name not like '\\_\\_pgboss%'`,
    );
    return rows[0] as unknown as JobCounts;
  }

  async stop(): Promise<void> {
    await this.boss.stop({ graceful: true, timeout: 10_000, wait: true });
  }
}

/** `$1`-style text with values as a Drizzle query. */
function bind(text: string, values: unknown[] = []) {
  const parts = text.split(/\$(\d+)/);
  return sql.join(parts.map((part, i) => (i % 2 ? sql`${sql.param(values[Number(part) - 1])}` : sql.raw(part))));
}
