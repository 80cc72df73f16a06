import type { Session } from '@kindred/contract/identity/identity';
import { and, desc, eq, sql } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import type { Actor } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import { requireRow, ProblemError, refused } from '../platform/errors.ts';
import { mails } from '../platform/schema.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { tellOwner } from './account-mail.ts';
import { failureKey, forgetFailures, noteFailure, requirePatience } from './failed-sign-ins.ts';
import { useMailKey } from './mail-keys.ts';
import { hashNewPassword, isPassword } from './passwords.ts';
import { insertPerson } from './persons.ts';
import { checkSecondFactor } from './second-factor.ts';
import { hashSecret } from './secrets.ts';
import { sessions, tokens, users } from './schema.ts';

const SESSION_DAYS = 30;
type User = typeof users.$inferSelect;

export interface OpenedSession {
  secret: string;
  expiresAt: Date;
  session: Session;
}

const wrong = () =>
  new ProblemError(401, 'wrong-sign-in', 'Not signed in', 'Wrong e-mail or password. Nothing was changed.');

export async function openSession(platform: Platform, user: User, device: string): Promise<OpenedSession> {
  const secret = randomBytes(32).toString('base64url');
  const csrfToken = randomBytes(24).toString('base64url');
  const expiresAt = new Date(Date.now() + SESSION_DAYS * 86_400_000);
  await platform.db
    .insert(sessions)
    .values({ id: hashSecret(secret), userId: user.id, csrfToken, expiresAt, device: device.slice(0, 200) });
  return { secret, expiresAt, session: sessionView({ ...user, email: user.email ?? '', csrfToken }) };
}

export function sessionView(
  actor: Pick<Actor, 'id' | 'name' | 'email' | 'initials' | 'colour' | 'csrfToken' | 'installationAdministrator'>,
): Session {
  const { id, name, email, initials, colour, csrfToken, installationAdministrator } = actor;
  return {
    person: { id, name, email, initials, colour, guest: false },
    csrfToken: csrfToken ?? '',
    installationAdministrator,
  };
}

/** From where and with what somebody signs in. */
export interface From {
  address: string;
  device: string;
}

export async function signIn(
  platform: Platform,
  { email, password, code }: { email: string; password: string; code?: string },
  { address, device }: From,
): Promise<OpenedSession> {
  const { db } = platform;
  const key = failureKey(email, address);
  await requirePatience(db, key);
  const [user] = await db.select().from(users).where(eq(users.email, email.toLowerCase()));
  if (!(await isPassword(user?.passwordHash, password)) || !user) {
    await noteFailure(db, key);
    throw wrong();
  }
  const factor = await checkSecondFactor(db, user, code);
  if (factor === 'missing')
    throw new ProblemError(401, 'second-factor', 'One thing more', 'Type the code that your authenticator shows.');
  if (factor === 'wrong') {
    await noteFailure(db, key);
    throw new ProblemError(401, 'wrong-code', 'Not signed in', 'The code is not right, or was used already.');
  }
  await forgetFailures(db, key);
  return openSession(platform, user, device);
}

export async function signInAsDemo(platform: Platform, email: string, device: string): Promise<OpenedSession> {
  const [user] = await platform.db.select().from(users).where(eq(users.email, email.toLowerCase()));
  if (!platform.config.demo || !user) throw wrong();
  return openSession(platform, user, device);
}

export async function showSignIn({ db, config }: Platform) {
  const [anyone] = await db.select({ id: users.id }).from(users).limit(1);
  return { firstPerson: !anyone, demo: config.demo, provider: config.provider?.label ?? null };
}

export async function createFirstPerson(
  platform: Platform,
  name: string,
  email: string,
  password: string,
  device: string,
): Promise<OpenedSession> {
  const passwordHash = await hashNewPassword(password, { name, email });
  const user = await platform.db.transaction(async (db) => {
    await db.execute(sql`lock table users in exclusive mode`);
    const [anyone] = await db.select({ id: users.id }).from(users).limit(1);
    if (anyone) throw refused('not-empty', 'This installation already has people. Ask one of them to invite you.');
    return insertPerson(db, { name, email, passwordHash, installationAdministrator: true });
  });
  return openSession(platform, user, device);
}

export async function acceptInvitation(
  platform: Platform,
  key: string,
  password: string,
  device: string,
): Promise<OpenedSession> {
  const user = await platform.db.transaction(async (db) => {
    const userId = (await useMailKey(db, 'invitation', key))?.userId;
    const [invited] = userId ? await db.select().from(users).where(eq(users.id, userId)) : [];
    if (!invited || invited.passwordHash || invited.providerSubject)
      throw refused(
        'invitation-used',
        'This invitation was already used or is not valid. Sign in, or ask for a new one.',
      );
    const passwordHash = await hashNewPassword(password, { name: invited.name, email: invited.email ?? '' });
    return (await db.update(users).set({ passwordHash }).where(eq(users.id, invited.id)).returning())[0]!;
  });
  return openSession(platform, user, device);
}

export async function signOut({ db, live }: Platform, { sessionId, credential }: Actor): Promise<void> {
  if (sessionId) await db.delete(sessions).where(eq(sessions.id, sessionId));
  if (credential) live.end(credential);
}

export async function listTokens({ db }: Platform, actor: Actor) {
  const rows = await db.select().from(tokens).where(eq(tokens.userId, actor.id)).orderBy(desc(tokens.createdAt));
  return rows.map(({ id, name, createdAt, lastUsedAt }) => ({
    id,
    name,
    createdAt: createdAt.toISOString(),
    lastUsedAt: lastUsedAt?.toISOString() ?? null,
  }));
}

export async function createToken(platform: Platform, actor: Actor, name: string) {
  const { db } = platform;
  const secret = `ks_${randomBytes(32).toString('base64url')}`;
  const [row] = await db
    .insert(tokens)
    .values({ userId: actor.id, name, hash: hashSecret(secret), createdAt: now() })
    .returning();
  await tellOwner(platform, actor, `A token named “${name}” was made for your account.`);
  return { id: row!.id, secret };
}

export async function deleteToken({ db, live }: Platform, actor: Actor, tokenId: string): Promise<void> {
  requireRow(
    await db
      .delete(tokens)
      .where(and(eq(tokens.id, tokenId), eq(tokens.userId, actor.id)))
      .returning(),
    'token',
  );
  live.end(`token:${tokenId}`);
}

/** Of mail to others an administrator sees that it went out, not what it says or where it leads. */
export async function listOutbox({ db, config }: Platform, actor: Actor, asked: PageAsked) {
  const mine = actor.installationAdministrator ? undefined : eq(mails.to, actor.email);
  const { where, orderBy, limit } = pageOf(mails.id, mails.id, true, asked);
  const rows = await db
    .select()
    .from(mails)
    .where(and(mine, where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ id }) => [id, String(id)]);
  // The people of the demo have no post of their own: not while it is loaded either.
  const mayRead = (to: string): boolean => to === actor.email || config.demo || config.demoClockSecret !== undefined;
  const read = items.map(({ id, to, subject, text, link, replyTo, sentAt }) => ({
    id,
    to,
    sentAt: sentAt.toISOString(),
    replies: replyTo !== null && to === actor.email,
    ...(mayRead(to) ? { subject, text, link } : { subject: null, text: null, link: null }),
  }));
  return { items: read, next };
}
