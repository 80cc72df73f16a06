/** Passwords are long, and none of those that everybody tries first. */
import { hash, verify } from '@node-rs/argon2';
import { randomBytes } from 'node:crypto';
import { refused } from '../platform/errors.ts';

let common: Promise<Set<string>> | undefined;
/** Loaded where it is used: tens of thousands of words. */
const commonPasswords = (): Promise<Set<string>> =>
  (common ??= import('@zxcvbn-ts/language-common').then(({ dictionary }) => new Set(dictionary.passwords.map(String))));

/** The hash of a new password; refuses what is common, what repeats itself, and what names the account. */
export async function hashNewPassword(password: string, account: { email: string; name: string }): Promise<string> {
  const plain = password.toLowerCase();
  const bare = plain.replace(/[^\p{L}]+/gu, '');
  const known = await commonPasswords();
  if (known.has(plain) || known.has(bare) || new Set(plain).size < 5)
    throw refused(
      'common-password',
      'This password is one of those that are tried first. Choose another one, such as four words that nobody would put together. Nothing was changed.',
    );
  const named = [account.email.toLowerCase(), account.email.toLowerCase().split('@')[0]!, account.name.toLowerCase()];
  if (named.some((word) => word.length > 3 && plain.replace(word, '').length < 6))
    throw refused(
      'password-names-you',
      'This password is little more than your own name or address. Nothing was changed.',
    );
  return hash(password);
}

/** A hash that no password has, so that an unknown address costs as much time as a wrong password. */
const nobody = hash(randomBytes(16).toString('hex'));
export const isPassword = async (passwordHash: string | null | undefined, password: string): Promise<boolean> =>
  (await verify(passwordHash ?? (await nobody), password)) && Boolean(passwordHash);
