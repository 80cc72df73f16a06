/** A second factor: codes of an authenticator (TOTP, RFC 6238), and codes on paper for who has lost it. */
import { and, eq, lt } from 'drizzle-orm';
import { Secret, TOTP } from 'otpauth';
import { randomBytes } from 'node:crypto';
import type { Actor } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { tellOwner } from './account-mail.ts';
import { isPassword } from './passwords.ts';
import { hashSecret } from './secrets.ts';
import { users } from './schema.ts';

type User = typeof users.$inferSelect;
const PERIOD = 30;
const RECOVERY_CODES = 10;

const totp = (secret: string, email: string): TOTP =>
  new TOTP({ issuer: 'Kindred Sheet', label: email, secret: Secret.fromBase32(secret), period: PERIOD, digits: 6 });

const wrongCode = () => refused('wrong-code', 'This code is not right, or was used already. Wait for the next one.');

async function userOf(db: Db, actor: Actor): Promise<User> {
  return (await db.select().from(users).where(eq(users.id, actor.id)))[0]!;
}

/** Whether the code is right now; each is good once. */
async function spendCode(db: Db, user: User, code: string): Promise<boolean> {
  const typed = code.replace(/\s/g, '');
  if (/^\d{6}$/.test(typed) && user.secondFactorSecret) {
    const delta = totp(user.secondFactorSecret, user.email ?? '').validate({ token: typed, window: 1 });
    if (delta === null) return false;
    const step = Math.floor(Date.now() / 1000 / PERIOD) + delta;
    const spent = await db
      .update(users)
      .set({ secondFactorStep: step })
      .where(and(eq(users.id, user.id), lt(users.secondFactorStep, step)))
      .returning({ id: users.id });
    return spent.length === 1;
  }
  const hash = hashSecret(typed.toLowerCase());
  if (!user.recoveryHashes.includes(hash)) return false;
  await db
    .update(users)
    .set({ recoveryHashes: user.recoveryHashes.filter((one) => one !== hash) })
    .where(eq(users.id, user.id));
  return true;
}

/** `missing`: it is on and no code was sent. */
export async function checkSecondFactor(
  db: Db,
  user: User,
  code: string | undefined,
): Promise<'right' | 'wrong' | 'missing'> {
  if (!user.secondFactorOn) return 'right';
  if (!code) return 'missing';
  return (await spendCode(db, user, code)) ? 'right' : 'wrong';
}

/** A secret for the authenticator; it counts once a first code was right. */
export async function beginSecondFactor({ db }: Platform, actor: Actor) {
  const user = await userOf(db, actor);
  if (user.secondFactorOn) throw refused('second-factor-on', 'A second factor is on already. Turn it off first.');
  const secret = new Secret({ size: 20 }).base32;
  await db.update(users).set({ secondFactorSecret: secret }).where(eq(users.id, actor.id));
  return { secret, address: totp(secret, actor.email).toString() };
}

export async function turnOnSecondFactor(platform: Platform, actor: Actor, code: string) {
  const { db } = platform;
  const user = await userOf(db, actor);
  if (user.secondFactorOn || !user.secondFactorSecret)
    throw refused('second-factor-not-begun', 'Begin with a new secret, then type the first code.');
  if (!(await spendCode(db, user, code))) throw wrongCode();
  const recoveryCodes = Array.from({ length: RECOVERY_CODES }, () => randomBytes(5).toString('hex'));
  await db
    .update(users)
    .set({ secondFactorOn: true, recoveryHashes: recoveryCodes.map(hashSecret) })
    .where(eq(users.id, actor.id));
  await tellOwner(platform, actor, 'A second factor was turned on for your account.');
  return { recoveryCodes };
}

export async function turnOffSecondFactor(platform: Platform, actor: Actor, password: string): Promise<void> {
  const { db } = platform;
  const user = await userOf(db, actor);
  if (!(await isPassword(user.passwordHash, password)))
    throw refused('wrong-password', 'This is not your password. Nothing was changed.');
  await db
    .update(users)
    .set({ secondFactorOn: false, secondFactorSecret: null, secondFactorStep: 0, recoveryHashes: [] })
    .where(eq(users.id, actor.id));
  await tellOwner(platform, actor, 'The second factor of your account was turned off.');
}
