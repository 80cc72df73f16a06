import { and, desc, eq, notInArray } from 'drizzle-orm';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { preferences } from './schema.ts';

const LONGEST = 20_000;
const MOST = 1000;

export async function listPreferences(db: Db, userId: string): Promise<Record<string, unknown>> {
  const rows = await db.select().from(preferences).where(eq(preferences.userId, userId));
  return Object.fromEntries(rows.map(({ key, value }) => [key, value]));
}

export async function changePreference(db: Db, userId: string, key: string, value: unknown): Promise<void> {
  if (JSON.stringify(value).length > LONGEST)
    throw refused(
      'too-large',
      `More than ${LONGEST} characters are not kept for one thing. What was kept before stays.`,
    );
  const row = { userId, key, value, changedAt: now() };
  await db
    .insert(preferences)
    .values(row)
    .onConflictDoUpdate({ target: [preferences.userId, preferences.key], set: row });
  const newest = db
    .select({ key: preferences.key })
    .from(preferences)
    .where(eq(preferences.userId, userId))
    .orderBy(desc(preferences.changedAt))
    .limit(MOST);
  await db.delete(preferences).where(and(eq(preferences.userId, userId), notInArray(preferences.key, newest)));
}
