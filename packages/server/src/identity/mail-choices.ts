/** How mail reaches people: at once, in one letter a day, or not at all. */
import { STARTER_MAIL_CHOICES, type MailChoices, type NoticeKind } from '@kindred/core/platform/notices';
import { and, eq, inArray, lte, sql } from 'drizzle-orm';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { Outbox } from '../platform/mail.ts';
import { mailChoices, users, waitingLetters } from './schema.ts';

export async function showMailChoices(db: Db, personId: string): Promise<MailChoices> {
  const [row] = await db.select().from(mailChoices).where(eq(mailChoices.userId, personId));
  return { ...STARTER_MAIL_CHOICES, ...row?.choices };
}

export async function changeMailChoices(db: Db, personId: string, choices: MailChoices): Promise<MailChoices> {
  await db
    .insert(mailChoices)
    .values({ userId: personId, choices })
    .onConflictDoUpdate({ target: mailChoices.userId, set: { choices } });
  return choices;
}

interface Message {
  kind: NoticeKind;
  text: string;
  letter: string;
  link: string;
  replyTo?: string;
  projectId?: string;
}

export async function deliverMail(
  outbox: Outbox,
  db: Db,
  to: readonly { id: string; email: string }[],
  { kind, text, letter, ...about }: Message,
): Promise<void> {
  const ids = to.map(({ id }) => id);
  const rows = await db.select().from(mailChoices).where(inArray(mailChoices.userId, ids));
  const wayOf = new Map(rows.map(({ userId, choices }) => [userId, choices[kind]]));
  const way = (id: string) => wayOf.get(id) ?? STARTER_MAIL_CHOICES[kind];
  await outbox.send(
    db,
    to
      .filter(({ id }) => way(id) === 'at once')
      .map(({ email }) => ({ to: email, subject: text, text: letter, ...about })),
  );
  const daily = to.filter(({ id }) => way(id) === 'daily');
  if (daily.length)
    await db.insert(waitingLetters).values(daily.map(({ id }) => ({ userId: id, text, link: about.link, at: now() })));
}

/** Sends everybody what has waited for them as one letter; safe to run again, as what was sent waits no more. */
export async function sendDailyMail(outbox: Outbox, db: Db): Promise<number> {
  const until = now();
  const people = await db
    .selectDistinct({ id: users.id, email: sql<string>`coalesce(${users.email}, '')` })
    .from(waitingLetters)
    .innerJoin(users, eq(users.id, waitingLetters.userId))
    .where(lte(waitingLetters.at, until));
  for (const { id, email } of people)
    await db.transaction(async (unit) => {
      const letters = await unit
        .delete(waitingLetters)
        .where(and(eq(waitingLetters.userId, id), lte(waitingLetters.at, until)))
        .returning();
      if (!letters.length) return;
      const count = `${letters.length} ${letters.length === 1 ? 'thing' : 'things'}`;
      await outbox.send(unit, [
        {
          to: email,
          subject: `Your day: ${count}`,
          text: letters.map(({ text, link }) => `· ${text}\n  ${outbox.addressOf(link)}`).join('\n\n'),
          link: '/desk',
        },
      ]);
    });
  return people.length;
}
