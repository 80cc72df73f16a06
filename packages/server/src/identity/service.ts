import { hash, verify } from '@node-rs/argon2';
import type { Session } from '@kindred/contract/identity/identity';
import { and, desc, eq, isNull, lte, sql } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import { hashSecret, type Actor } from '../platform/actor.ts';
import { now } from '../platform/clock.ts';
import { found, ProblemError, refused } from '../platform/errors.ts';
import { mails } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import { introductions } from '../people/service.ts';
import { insertPerson } from './persons.ts';
import { notices, sessions, tokens, users } from './schema.ts';

const SESSION_DAYS = 30;
type User = typeof users.$inferSelect;

export interface OpenedSession {
  secret: string;
  expiresAt: Date;
  session: Session;
}

const wrong = () =>
  new ProblemError(
    401,
    'wrong-sign-in',
    'Not signed in',
    'E-mail and password do not belong together. Nothing was changed.',
  );

export async function openSession(platform: Platform, user: User): Promise<OpenedSession> {
  const secret = randomBytes(32).toString('base64url');
  const csrfToken = randomBytes(24).toString('base64url');
  const expiresAt = new Date(Date.now() + SESSION_DAYS * 86_400_000);
  await platform.db.insert(sessions).values({ id: hashSecret(secret), userId: user.id, csrfToken, expiresAt });
  return { secret, expiresAt, session: sessionView({ ...user, csrfToken }) };
}

export function sessionView(
  actor: Pick<Actor, 'id' | 'name' | 'email' | 'initials' | 'colour' | 'csrfToken' | 'installationAdministrator'>,
): Session {
  const { id, name, email, initials, colour, csrfToken, installationAdministrator } = actor;
  return { person: { id, name, email, initials, colour }, csrfToken: csrfToken ?? '', installationAdministrator };
}

/** A hash that no password has, so that an unknown address costs as much time as a wrong password. */
const nobody = hash(randomBytes(16).toString('hex'));

export async function signIn(platform: Platform, email: string, password: string): Promise<OpenedSession> {
  const [user] = await platform.db.select().from(users).where(eq(users.email, email.toLowerCase()));
  const matches = await verify(user?.passwordHash ?? (await nobody), password);
  if (!user?.passwordHash || !matches) throw wrong();
  return openSession(platform, user);
}

export async function signInAsDemo(platform: Platform, email: string): Promise<OpenedSession> {
  const [user] = await platform.db.select().from(users).where(eq(users.email, email.toLowerCase()));
  if (!platform.config.demo || !user) throw wrong();
  return openSession(platform, user);
}

export async function showSignIn({ db, config }: Platform) {
  const [anyone] = await db.select({ id: users.id }).from(users).limit(1);
  const people = config.demo ? await db.select().from(users).orderBy(users.createdAt, users.name).limit(24) : [];
  const about = await introductions(
    db,
    people.map(({ id }) => id),
  );
  return {
    firstPerson: !anyone,
    demoPeople: people.map(({ id, email, name, initials, colour }) => ({
      email,
      name,
      initials,
      colour,
      about: about.get(id) ?? '',
    })),
  };
}

export async function createFirstPerson(
  platform: Platform,
  name: string,
  email: string,
  password: string,
): Promise<OpenedSession> {
  const passwordHash = await hash(password);
  const user = await platform.db.transaction(async (db) => {
    await db.execute(sql`lock table users in exclusive mode`);
    const [anyone] = await db.select({ id: users.id }).from(users).limit(1);
    if (anyone) throw refused('not-empty', 'This installation already has people. Ask one of them to invite you.');
    return insertPerson(db, { name, email, passwordHash, installationAdministrator: true });
  });
  return openSession(platform, user);
}

export async function acceptInvitation(platform: Platform, key: string, password: string): Promise<OpenedSession> {
  const passwordHash = await hash(password);
  const rows = await platform.db
    .update(users)
    .set({ passwordHash, invitationHash: null })
    .where(eq(users.invitationHash, hashSecret(key)))
    .returning();
  if (!rows[0])
    throw refused(
      'invitation-used',
      'This invitation was already used or is not valid. Sign in, or ask for a new one.',
    );
  return openSession(platform, rows[0]);
}

export async function signOut({ db }: Platform, { sessionId }: Actor): Promise<void> {
  if (sessionId) await db.delete(sessions).where(eq(sessions.id, sessionId));
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

export async function createToken({ db }: Platform, actor: Actor, name: string) {
  const secret = `ks_${randomBytes(32).toString('base64url')}`;
  const [row] = await db
    .insert(tokens)
    .values({ userId: actor.id, name, hash: hashSecret(secret), createdAt: now() })
    .returning();
  return { id: row!.id, secret };
}

export async function deleteToken({ db }: Platform, actor: Actor, tokenId: string): Promise<void> {
  found(
    await db
      .delete(tokens)
      .where(and(eq(tokens.id, tokenId), eq(tokens.userId, actor.id)))
      .returning(),
    'token',
  );
}

export async function listOutbox({ db }: Platform, actor: Actor) {
  const mine = actor.installationAdministrator ? undefined : eq(mails.to, actor.email);
  const rows = await db.select().from(mails).where(mine).orderBy(desc(mails.id)).limit(100);
  return rows.map((mail) => ({ ...mail, sentAt: mail.sentAt.toISOString() }));
}

export async function listNotices({ db }: Platform, actor: Actor) {
  const rows = await db.select().from(notices).where(eq(notices.userId, actor.id)).orderBy(desc(notices.id)).limit(50);
  const [count] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(notices)
    .where(and(eq(notices.userId, actor.id), isNull(notices.readAt)));
  return {
    unread: count!.n,
    items: rows.map(({ readAt, at, ...row }) => ({ ...row, at: at.toISOString(), read: readAt !== null })),
  };
}

export async function readNotices({ db }: Platform, actor: Actor, upTo: number): Promise<void> {
  await db
    .update(notices)
    .set({ readAt: now() })
    .where(and(eq(notices.userId, actor.id), lte(notices.id, upTo), isNull(notices.readAt)));
}
