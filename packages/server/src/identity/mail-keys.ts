/** Secrets in links that go by mail. */
import { and, eq, gt, isNull } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { mailKeys } from './schema.ts';
import { hashSecret } from './secrets.ts';

type Purpose = (typeof mailKeys.$inferSelect)['purpose'];
const HOURS: Record<Purpose, number> = { invitation: 14 * 24, password: 1, address: 24 };

/** Links for a purpose that went to somebody open nothing any more; those of other projects do. */
export async function endMailKeys(db: Db, purpose: Purpose, userId: string, projectId: string | null): Promise<void> {
  await db
    .delete(mailKeys)
    .where(
      and(
        eq(mailKeys.purpose, purpose),
        eq(mailKeys.userId, userId),
        projectId ? eq(mailKeys.projectId, projectId) : isNull(mailKeys.projectId),
      ),
    );
}

/** A new key; an earlier one for the same purpose, person and project ends, no other does. */
export async function giveMailKey(
  db: Db,
  purpose: Purpose,
  userId: string,
  { projectId = null, address = null }: { projectId?: string | null; address?: string | null } = {},
): Promise<string> {
  const key = randomBytes(24).toString('base64url');
  await endMailKeys(db, purpose, userId, projectId);
  const expiresAt = new Date(now().getTime() + HOURS[purpose] * 3_600_000);
  await db.insert(mailKeys).values({ hash: hashSecret(key), purpose, userId, projectId, address, expiresAt });
  return key;
}

/** Whom a key is for, and the address that it confirms; it ends with this, and so do all others of them for the purpose. */
export async function useMailKey(
  db: Db,
  purpose: Purpose,
  key: string,
): Promise<{ userId: string; address: string | null } | undefined> {
  const [found] = await db
    .delete(mailKeys)
    .where(and(eq(mailKeys.hash, hashSecret(key)), eq(mailKeys.purpose, purpose), gt(mailKeys.expiresAt, now())))
    .returning();
  if (found) await db.delete(mailKeys).where(and(eq(mailKeys.userId, found.userId), eq(mailKeys.purpose, purpose)));
  return found;
}
