/**
 * Who fails to sign in waits longer each time, by account and address together: whoever guesses is slowed down,
 * the owner at another address is not locked out.
 */
import { eq, lt, sql } from 'drizzle-orm';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { tooMany } from '../platform/rate-limit.ts';
import { failedSignIns } from './schema.ts';

const FREE = 5;
const LONGEST_SECONDS = 15 * 60;
const FORGOTTEN = sql`now() - interval '1 day'`;

/** Seconds to wait after so many failures: 2, 4, 8, … */
export const delayAfter = (failures: number): number =>
  failures < FREE ? 0 : Math.min(LONGEST_SECONDS, 2 ** (failures - FREE + 1));

export const failureKey = (email: string, address: string): string => `${email.toLowerCase()} ${address}`;

/** Throws 429 while it is too early for another try. */
export async function requirePatience(db: Db, key: string): Promise<void> {
  const [row] = await db.select().from(failedSignIns).where(eq(failedSignIns.key, key));
  if (!row) return;
  const seconds = Math.ceil((row.lastAt.getTime() + delayAfter(row.failures) * 1000 - now().getTime()) / 1000);
  if (seconds > 0) throw tooMany(seconds);
}

export async function noteFailure(db: Db, key: string): Promise<void> {
  await db
    .insert(failedSignIns)
    .values({ key, failures: 1, lastAt: now() })
    .onConflictDoUpdate({
      target: failedSignIns.key,
      set: { failures: sql`${failedSignIns.failures} + 1`, lastAt: now() },
    });
}

export async function forgetFailures(db: Db, key: string): Promise<void> {
  await db.delete(failedSignIns).where(eq(failedSignIns.key, key));
  await db.delete(failedSignIns).where(lt(failedSignIns.lastAt, FORGOTTEN));
}
