/** Notices in the bell, and the mail that goes with them. */
import { and, eq, isNull, lte, sql } from 'drizzle-orm';
import type { Actor } from '../platform/caller.ts';
import type { Tell } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Outbox } from '../platform/mail.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { deliverMail } from './mail-choices.ts';
import { notices } from './schema.ts';

export const tellBy =
  (outbox: Outbox): Tell =>
  async (db, { to, projectId, kind, text, link, letter, replyTo }) => {
    await db.insert(notices).values(to.map(({ id }) => ({ userId: id, projectId, text, link, at: now() })));
    if (letter) await deliverMail(outbox, db, to, { kind, text, letter, link, ...(replyTo && { replyTo, projectId }) });
  };

export async function listNotices({ db }: Platform, actor: Actor, asked: PageAsked) {
  const { where, orderBy, limit } = pageOf(notices.id, notices.id, true, asked);
  const rows = await db
    .select()
    .from(notices)
    .where(and(eq(notices.userId, actor.id), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ id }) => [id, String(id)]);
  const [count] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(notices)
    .where(and(eq(notices.userId, actor.id), isNull(notices.readAt)));
  return {
    unread: count!.n,
    next,
    items: items.map(({ readAt, at, ...row }) => ({ ...row, at: at.toISOString(), read: readAt !== null })),
  };
}

export async function readNotices({ db }: Platform, actor: Actor, upTo: number): Promise<void> {
  await db
    .update(notices)
    .set({ readAt: now() })
    .where(and(eq(notices.userId, actor.id), lte(notices.id, upTo), isNull(notices.readAt)));
}
