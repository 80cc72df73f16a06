/** One request at a time writes to an upload, whichever node it comes to: what is stored is what its hash says. */
import type { Lock, Locker, RequestRelease } from '@tus/server';
import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import type pg from 'pg';

const HELD_SECONDS = 10;
const RENEW_MS = 1000;
const TRY_EVERY_MS = 100;
const PATIENCE_MS = 15_000;

export class UploadLocks implements Locker {
  constructor(private readonly pool: pg.Pool) {}
  newLock(id: string): Lock {
    return new UploadLock(this.pool, id);
  }
}

class UploadLock implements Lock {
  private readonly holder = randomUUID();
  private renewing: NodeJS.Timeout | undefined;
  constructor(
    private readonly pool: pg.Pool,
    private readonly id: string,
  ) {}

  async lock(signal: AbortSignal, release: RequestRelease): Promise<void> {
    for (const end = Date.now() + PATIENCE_MS; !(await this.take()); await wait(TRY_EVERY_MS)) {
      await this.pool.query('update upload_locks set asked = true where id = $1', [this.id]);
      // A plain object is how the protocol's library says an error.
      if (signal.aborted || Date.now() > end)
        throw { status_code: 423, body: 'This file is being sent by another connection. Try again in a moment.' };
    }
    this.renewing = setInterval(() => void this.renew(release), RENEW_MS);
  }

  private async take(): Promise<boolean> {
    const { rowCount } = await this.pool.query(
      `insert into upload_locks as l (id, holder, until) values ($1, $2, now() + make_interval(secs => $3))
       on conflict (id) do update set holder = excluded.holder, until = excluded.until, asked = false where l.until < now()`,
      [this.id, this.holder, HELD_SECONDS],
    );
    return rowCount === 1;
  }

  /** Gives it up where another waits, and where it was lost: no two may write. */
  private async renew(release: RequestRelease): Promise<void> {
    try {
      const { rows } = await this.pool.query<{ asked: boolean }>(
        'update upload_locks set until = now() + make_interval(secs => $3) where id = $1 and holder = $2 returning asked',
        [this.id, this.holder, HELD_SECONDS],
      );
      if (rows[0] && !rows[0].asked) return;
    } catch {
      // The database is away: whether it is still held cannot be known.
    }
    await release();
  }

  async unlock(): Promise<void> {
    clearInterval(this.renewing);
    await this.pool.query('delete from upload_locks where id = $1 and holder = $2', [this.id, this.holder]);
  }
}
