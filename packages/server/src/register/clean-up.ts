/** Removes what no version and no upload needs any more: uploads that nobody delivered, blobs that nothing names, files that killed processes left. */
import { sql, type SQL } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';

/** Whoever takes longer to deliver what they uploaded begins anew; blobs younger than that may belong to an arrival under way. */
const DAYS_KEPT = 7;
const BATCH = 1000;

export async function cleanUp(
  { db, store, capabilities }: Pick<Platform, 'db' | 'store' | 'capabilities'>,
  daysKept = DAYS_KEPT,
): Promise<{ uploads: number; blobs: number; leftOvers: number }> {
  const until = new Date(Date.now() - daysKept * 86_400_000);
  const { rows } = await db.execute(sql`delete from uploads where created_at < ${until.toISOString()} returning id`);
  const uploads = rows as unknown as { id: string }[];
  for (const { id } of uploads) await store.receiving.discard(id);
  let removed = 0;
  let batch: string[] = [];
  const empty = async (): Promise<void> => {
    for (const sha256 of await unnamed(db, capabilities.blobs, batch)) {
      await store.remove(sha256);
      removed++;
    }
    batch = [];
  };
  for await (const { sha256, at } of store.list()) {
    if (at < until) batch.push(sha256);
    if (batch.length === BATCH) await empty();
  }
  await empty();
  return { uploads: uploads.length, blobs: removed, leftOvers: await store.removeLeftOvers(until) };
}

/** Those of the blobs that nothing names; their rows are gone afterwards. */
async function unnamed(db: Db, named: readonly SQL[], blobs: string[]): Promise<string[]> {
  if (!blobs.length) return [];
  const { rows } = await db.execute(sql`
    with unnamed as (
      select b.sha256 from unnest(${`{${blobs.join()}}`}::text[]) b(sha256)
      where not exists (select 1 from (${sql.join([...named], sql` union all `)}) named where named.sha256 = b.sha256)
    ), gone as (delete from blobs where sha256 in (select sha256 from unnamed))
    select sha256 from unnamed`);
  return (rows as unknown as { sha256: string }[]).map(({ sha256 }) => sha256);
}
