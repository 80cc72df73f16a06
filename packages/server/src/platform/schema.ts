import { bigserial, bigint, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { moment } from './columns.ts';

/** Who did what to which thing, before and after: the one log that history, notices and live updates read. */
export const events = pgTable(
  'events',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    projectId: uuid('project_id'),
    actorId: uuid('actor_id'),
    at: moment('at').notNull(),
    verb: text('verb').notNull(),
    subjectType: text('subject_type').notNull(),
    subjectId: text('subject_id').notNull(),
    /** Only this team may know; everybody who sees the subject when null. */
    teamId: uuid('team_id'),
    before: jsonb('before'),
    after: jsonb('after'),
  },
  (t) => [
    index('events_subject').on(t.projectId, t.subjectType, t.subjectId, t.id),
    index('events_project').on(t.projectId, t.id),
  ],
);

/** Files by content. */
export const blobs = pgTable('blobs', {
  sha256: text('sha256').primaryKey(),
  size: bigint('size', { mode: 'number' }).notNull(),
  createdAt: moment('created_at').notNull(),
});

/** The simulated outbox. */
export const mails = pgTable(
  'mails',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    to: text('to').notNull(),
    subject: text('subject').notNull(),
    text: text('text').notNull(),
    link: text('link'),
    sentAt: moment('sent_at').notNull(),
  },
  (t) => [index('mails_to').on(t.to, t.id)],
);
