/** What people do with their own account: its password, and what is signed in with it. */
import { and, desc, eq, gt, ne } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { Actor } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { tellOwner } from './account-mail.ts';
import { giveMailKey, useMailKey } from './mail-keys.ts';
import { hashNewPassword, isPassword } from './passwords.ts';
import { sessions, tokens, users } from './schema.ts';

/** A session is named by a hash of its hash: neither its secret nor its row's key leaves the server. */
const nameOf = (sessionId: string): string => createHash('sha256').update(sessionId).digest('hex').slice(0, 24);

export async function listSessions({ db }: Platform, actor: Actor) {
  const { secondFactorOn } = (await db.select().from(users).where(eq(users.id, actor.id)))[0]!;
  const rows = await db
    .select()
    .from(sessions)
    .where(and(eq(sessions.userId, actor.id), gt(sessions.expiresAt, now())))
    .orderBy(desc(sessions.lastUsedAt));
  return {
    secondFactor: secondFactorOn,
    sessions: rows.map(({ id, device, createdAt, lastUsedAt }) => ({
      id: nameOf(id),
      device,
      createdAt: createdAt.toISOString(),
      lastUsedAt: lastUsedAt.toISOString(),
      current: id === actor.sessionId,
    })),
  };
}

export async function endSession({ db, live }: Platform, actor: Actor, name: string): Promise<void> {
  const own = await db.select({ id: sessions.id }).from(sessions).where(eq(sessions.userId, actor.id));
  const { id } = requireRow(
    own.filter((one) => nameOf(one.id) === name),
    'session',
  );
  await db.delete(sessions).where(eq(sessions.id, id));
  live.end(`session:${id}`);
}

/** Ends what else is signed in as this person; tokens too where asked. */
async function endOthers(
  { live }: Pick<Platform, 'live'>,
  db: Db,
  userId: string,
  keep: string | null,
  andTokens: boolean,
): Promise<() => void> {
  const ended = await db
    .delete(sessions)
    .where(and(eq(sessions.userId, userId), ne(sessions.id, keep ?? '')))
    .returning({ id: sessions.id });
  const gone = andTokens ? await db.delete(tokens).where(eq(tokens.userId, userId)).returning({ id: tokens.id }) : [];
  return () => {
    for (const { id } of ended) live.end(`session:${id}`);
    for (const { id } of gone) live.end(`token:${id}`);
  };
}

export async function endAllOthers(platform: Platform, actor: Actor): Promise<void> {
  const hangUp = await platform.db.transaction((db) => endOthers(platform, db, actor.id, actor.sessionId, true));
  hangUp();
  await tellOwner(platform, actor, 'All other sessions and all tokens of your account were ended.');
}

export async function changePassword(
  platform: Platform,
  actor: Actor,
  { current, password }: { current: string; password: string },
): Promise<void> {
  const [user] = await platform.db.select().from(users).where(eq(users.id, actor.id));
  if (!(await isPassword(user!.passwordHash, current)))
    throw refused('wrong-password', 'The current password is not right. Nothing was changed.');
  const passwordHash = await hashNewPassword(password, actor);
  const hangUp = await platform.db.transaction(async (db) => {
    await db.update(users).set({ passwordHash }).where(eq(users.id, actor.id));
    return endOthers(platform, db, actor.id, actor.sessionId, false);
  });
  hangUp();
  await tellOwner(platform, actor, 'The password of your account was changed.');
}

/** Says nothing of whether anybody has this address. */
export async function askForNewPassword({ db, outbox }: Platform, email: string): Promise<void> {
  await db.transaction(async (unit) => {
    const [user] = await unit.select().from(users).where(eq(users.email, email.toLowerCase()));
    if (!user?.email) return;
    const key = await giveMailKey(unit, 'password', user.id);
    await outbox.send(unit, [
      {
        to: user.email,
        subject: 'Choose a new password',
        text: 'Somebody, probably you, asked for a new password. The link is good for one hour, once. If it was not you, nothing has to be done.',
        link: `/sign-in?new-password=${key}`,
      },
    ]);
  });
}

/** Whoever had got hold of the account loses it: everything else that is signed in ends, tokens too. */
export async function chooseNewPassword(
  platform: Platform,
  key: string,
  password: string,
): Promise<typeof users.$inferSelect> {
  const { user, hangUp } = await platform.db.transaction(async (db) => {
    const userId = (await useMailKey(db, 'password', key))?.userId;
    if (!userId)
      throw refused('link-used', 'This link was already used, or is too old. Ask for a new one. Nothing was changed.');
    const [before] = await db.select().from(users).where(eq(users.id, userId));
    const passwordHash = await hashNewPassword(password, { email: before!.email ?? '', name: before!.name });
    const [user] = await db.update(users).set({ passwordHash }).where(eq(users.id, userId)).returning();
    return { user: user!, hangUp: await endOthers(platform, db, userId, null, true) };
  });
  hangUp();
  await tellOwner(platform, { email: user.email ?? '' }, 'A new password was chosen for your account.');
  return user;
}
