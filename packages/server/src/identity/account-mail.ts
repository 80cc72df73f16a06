import type { Actor } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';

/** Tells whoever an account belongs to what was done with it: should it not have been them, they hear of it. */
export async function tellOwner(
  { db, outbox }: Pick<Platform, 'db' | 'outbox'>,
  { email }: Pick<Actor, 'email'>,
  what: string,
): Promise<void> {
  const text = `${what}\n\nIf this was not you, choose a new password and end all sessions.`;
  await outbox.send(db, [{ to: email, subject: what.replace(/\.$/, ''), text, link: '/me' }]);
}
