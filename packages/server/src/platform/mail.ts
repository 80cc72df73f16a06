import nodemailer from 'nodemailer';
import { mails } from './schema.ts';
import type { Db } from './database.ts';
import { now } from './clock.ts';

export interface Letter {
  to: string;
  subject: string;
  text: string;
  /** Path of the page that the letter leads to. */
  link?: string;
  /** What a reply to it belongs to, as `type/id` within a project. */
  replyTo?: string;
  projectId?: string;
}

/** The simulated outbox: letters are composed as real mail would be, checked that way, and kept in the database. */
export class Outbox {
  private readonly transport = nodemailer.createTransport({ streamTransport: true, buffer: true });
  constructor(private readonly publicUrl: string) {}

  addressOf(link: string): string {
    return `${this.publicUrl}${link}`;
  }

  async send(db: Db, letters: readonly Letter[]): Promise<void> {
    if (!letters.length) return;
    for (const { to, subject, text, link } of letters)
      await this.transport.sendMail({
        from: 'Kindred Sheet <no-reply@kindred.invalid>',
        to,
        subject,
        text: link ? `${text}\n\n${this.publicUrl}${link}\n` : text,
      });
    await db.insert(mails).values(letters.map((letter) => ({ ...letter, sentAt: now() })));
  }
}
