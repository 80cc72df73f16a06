/** Secrets in links that go by mail. */
import { and, eq, gt, isNull } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { mailKeys } from './schema.ts';
import { hashSecret } from './secrets.ts';

type Purpose = (typeof mailKeys.$inferSelect)['purpose'];
const HOURS: Record<Purpose, number> = { invitation: 14 * 24, password: 1 };

/** A new key; an earlier one for the same purpose, person and project ends, no other does. */
export async function giveMailKey(
  db: Db,
  purpose: Purpose,
  userId: string,
  projectId: string | null = null,
): Promise<string> {
  const key = randomBytes(24).toString('base64url');
  await db
    .delete(mailKeys)
    .where(
      and(
        eq(mailKeys.purpose, purpose),
        eq(mailKeys.userId, userId),
        projectId ? eq(mailKeys.projectId, projectId) : isNull(mailKeys.projectId),
      ),
    );
  const expiresAt = new Date(now().getTime() + HOURS[purpose] * 3_600_000);
  await db.insert(mailKeys).values({ hash: hashSecret(key), purpose, userId, projectId, expiresAt });
  return key;
}

/** The person that a key is for; it ends with this, and so do all others of them for the purpose. */
export async function useMailKey(db: Db, purpose: Purpose, key: string): Promise<string | undefined> {
  const [found] = await db
    .delete(mailKeys)
    .where(and(eq(mailKeys.hash, hashSecret(key)), eq(mailKeys.purpose, purpose), gt(mailKeys.expiresAt, now())))
    .returning();
  if (found) await db.delete(mailKeys).where(and(eq(mailKeys.userId, found.userId), eq(mailKeys.purpose, purpose)));
  return found?.userId;
}
