import pg from 'pg';

/** Class of our advisory locks on jobs: “KS”. */
const CLASS = 0x4b53;
/** A job that was just fetched may not have its lease yet. */
const GRACE_SECONDS = 10;
/** How often work outlives whoever did it, beyond its retries: a node may be killed for many reasons, a job that kills nodes has an end. */
const RESCUES = 20;

/**
 * Whoever runs a job holds a lock in the database for as long as their connection lives: PostgreSQL itself notices when a process
 * dies, and what it was doing goes back to the queue within seconds.
 */
export class JobLeases {
  private client: pg.Client | undefined;
  private readonly held = new Set<string>();
  private closing = false;

  constructor(
    private readonly databaseUrl: string,
    private readonly onError: (error: Error) => void,
  ) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.databaseUrl, application_name: 'kindred-leases' });
    client.on('error', this.onError);
    client.on('end', () => {
      if (this.client === client) this.client = undefined;
      if (!this.closing) setTimeout(() => void this.open().catch(this.onError), 1000).unref();
    });
    await client.connect();
    this.client = client;
    for (const id of this.held) await this.lock(id);
  }

  /** Runs something while the lease of a job is held. */
  async hold<T>(jobId: string, run: () => Promise<T>): Promise<T> {
    this.held.add(jobId);
    await this.lock(jobId);
    try {
      return await run();
    } finally {
      this.held.delete(jobId);
      await this.client?.query('select pg_advisory_unlock($1, hashtext($2))', [CLASS, jobId]).catch(this.onError);
    }
  }

  private async lock(jobId: string): Promise<void> {
    await this.client?.query('select pg_try_advisory_lock($1, hashtext($2))', [CLASS, jobId]);
  }

  /** Gives back to the queues what nobody holds a lease on; answers what has no retry left, and has failed. */
  async rescue(pool: pg.Pool, queues: readonly string[]): Promise<{ queue: string; data: object }[]> {
    const { rows } = await pool.query<{ queue: string; data: object; state: string }>(
      `update pgboss.job j set
         state = (case when j.retry_count < j.retry_limit + $4 then 'retry' else 'failed' end)::pgboss.job_state,
         retry_count = j.retry_count + (case when j.retry_count < j.retry_limit + $4 then 1 else 0 end),
         start_after = now(), completed_on = case when j.retry_count < j.retry_limit + $4 then null else now() end
       where j.state = 'active' and j.name = any($1) and j.started_on < now() - make_interval(secs => $2)
         and not exists (select 1 from pg_locks l where l.locktype = 'advisory' and l.classid = $3::oid and l.objsubid = 2
           and l.objid = ((hashtext(j.id::text)::bigint + 4294967296) % 4294967296)::oid and l.granted
           and l.database = (select oid from pg_database where datname = current_database()))
       returning j.name as queue, j.data, j.state`,
      [queues, GRACE_SECONDS, CLASS, RESCUES],
    );
    return rows.filter(({ state }) => state === 'failed');
  }

  async close(): Promise<void> {
    this.closing = true;
    await this.client?.end();
  }
}
