import {
  bigint,
  bigserial,
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { moment, primaryId } from './columns.ts';

/** Who did what to which thing, before and after: the one log that history, notices and live updates read. */
export const events = pgTable(
  'events',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    projectId: uuid('project_id'),
    actorId: uuid('actor_id'),
    /** Which work of the application did it, where no person did. */
    system: text('system'),
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
    /** What a reply to it belongs to, as `type/id` within its project. */
    replyTo: text('reply_to'),
    projectId: uuid('project_id'),
    sentAt: moment('sent_at').notNull(),
  },
  (t) => [index('mails_to').on(t.to, t.id)],
);

/** Long work that somebody started: found again until its result is removed. */
export const longJobs = pgTable(
  'long_jobs',
  {
    id: primaryId(),
    projectId: uuid('project_id').notNull(),
    ownerId: uuid('owner_id').notNull(),
    kind: text('kind').notNull(),
    /** What people call it. */
    name: text('name').notNull(),
    /** The page where it was started, below the project. */
    path: text('path').notNull(),
    data: jsonb('data').notNull(),
    status: text('status').$type<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
    /** From 0 to 1. */
    progress: doublePrecision('progress').notNull().default(0),
    cancelAsked: boolean('cancel_asked').notNull().default(false),
    /** Why it failed, as people are told. */
    note: text('note').notNull().default(''),
    /** A file that it made. */
    sha256: text('sha256'),
    fileName: text('file_name'),
    mediaType: text('media_type'),
    createdAt: moment('created_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [index('long_jobs_owner').on(t.ownerId, t.createdAt)],
);

/** Web nodes that are running, for what goes between them without the database. */
export const nodes = pgTable('nodes', {
  id: uuid('id').primaryKey(),
  url: text('url').notNull(),
  /** What its peers show to be let in. */
  secret: text('secret').notNull(),
  seenAt: moment('seen_at').notNull(),
});

/** Who is in which project, by which connection of which node. */
export const presences = pgTable(
  'presences',
  {
    nodeId: uuid('node_id')
      .notNull()
      .references(() => nodes.id, { onDelete: 'cascade' }),
    socketId: text('socket_id').notNull(),
    projectId: uuid('project_id').notNull(),
    personId: uuid('person_id').notNull(),
  },
  (t) => [unique('presences_socket').on(t.nodeId, t.socketId), index('presences_project').on(t.projectId)],
);

/** Tries that are counted, as the limiter keeps them. */
export const rateLimits = pgTable('rate_limits', {
  key: text('key').primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
});
