/** The simulated inbox: what people write back to letters, and to projects. */
import { replyText } from '@kindred/core/platform/reply-text';
import { and, eq, isNotNull } from 'drizzle-orm';
import type { Actor, Member } from '../platform/caller.ts';
import { notFound, refused } from '../platform/errors.ts';
import { mails } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';

const nothingSaid = () =>
  refused('no-words', 'Below the quotation there is nothing. Write something above it; nothing was sent.');

/** As whoever the letter was sent to, with what they may do in its project now. */
export async function replyToMail(platform: Platform, actor: Actor, mailId: number, text: string) {
  const [mail] = await platform.db
    .select()
    .from(mails)
    .where(and(eq(mails.id, mailId), eq(mails.to, actor.email), isNotNull(mails.replyTo)));
  const [member] = mail?.projectId ? await platform.gate.members([actor.id], mail.projectId) : [];
  if (!mail || !member) throw notFound('letter that can be replied to');
  const said = replyText(text);
  if (!said) throw nothingSaid();
  const [type, id] = mail.replyTo!.split('/') as [string, string];
  const link = await platform.capabilities.received(platform, member, {
    ...{ about: { type, id }, subject: mail.subject, text: said },
  });
  if (link === undefined) throw notFound('letter that can be replied to');
  return { link };
}

export async function writeToProject(platform: Platform, actor: Member, letter: { subject: string; text: string }) {
  const text = replyText(letter.text);
  if (!text) throw nothingSaid();
  const link = await platform.capabilities.received(platform, actor, { about: null, subject: letter.subject, text });
  if (link === undefined) throw notFound('inbox of this project');
  return { link };
}
