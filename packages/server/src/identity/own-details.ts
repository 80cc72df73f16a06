/** What people correct of themselves: their name and their address. */
import type { Person } from '@kindred/contract/identity/identity';
import { eq } from 'drizzle-orm';
import type { Actor } from '../platform/caller.ts';
import { isUniqueViolation } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { tellOwner } from './account-mail.ts';
import { giveMailKey, useMailKey } from './mail-keys.ts';
import { isPassword } from './passwords.ts';
import { initialsOf, personsById } from './persons.ts';
import { users } from './schema.ts';

export async function changeName(platform: Platform, actor: Actor, name: string): Promise<Person> {
  const initials = initialsOf(name);
  await platform.db.update(users).set({ name, initials }).where(eq(users.id, actor.id));
  await tellOwner(platform, actor, `The name of your account is “${name}” now.`);
  return (await personsById(platform.db, [actor.id])).get(actor.id)!;
}

/** Says nothing of whether anybody has the address: whoever opens the link hears of that. */
export async function changeAddress(
  { db, outbox }: Platform,
  actor: Actor,
  { address, password }: { address: string; password: string },
): Promise<void> {
  const [user] = await db.select().from(users).where(eq(users.id, actor.id));
  if (!(await isPassword(user!.passwordHash, password)))
    throw refused('wrong-password', 'The password is not right. Nothing was changed.');
  await db.transaction(async (unit) => {
    const key = await giveMailKey(unit, 'address', actor.id, { address: address.toLowerCase() });
    await outbox.send(unit, [
      {
        to: address,
        subject: 'Confirm your address',
        text: `${actor.name} asked that this becomes the address of their account. The link is good for a day. If this is not you, nothing has to be done.`,
        link: `/sign-in?address=${key}`,
      },
    ]);
  });
}

/** The address that was left hears of it too. */
export async function confirmAddress(platform: Platform, key: string): Promise<{ address: string }> {
  try {
    const { before, address } = await platform.db.transaction(async (db) => {
      const { userId, address } = (await useMailKey(db, 'address', key)) ?? {};
      if (!userId || !address)
        throw refused('link-used', 'This link was already used, or is too old. Ask for a new one on your page.');
      const [user] = await db.select().from(users).where(eq(users.id, userId));
      await db.update(users).set({ email: address }).where(eq(users.id, userId));
      return { before: user!.email ?? '', address };
    });
    for (const email of [before, address])
      await tellOwner(platform, { email }, `The address of your account is ${address} now.`);
    return { address };
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused(
        'address-taken',
        'Another account has this address already. Sign in with that one. Nothing was changed.',
      );
    throw error;
  }
}
