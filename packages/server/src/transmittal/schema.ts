import type { TRANSMITTAL_REASONS } from '@kindred/contract/transmittal/transmittal';
import { bigint, boolean, index, integer, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';

export const transmittals = pgTable(
  'transmittals',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    title: text('title').notNull(),
    reason: text('reason').$type<(typeof TRANSMITTAL_REASONS)[number]>().notNull(),
    message: text('message').notNull().default(''),
    senderId: uuid('sender_id')
      .notNull()
      .references(() => users.id),
    sentAt: moment('sent_at').notNull(),
    recipientsSeeEachOther: boolean('recipients_see_each_other').notNull(),
  },
  (t) => [unique('transmittals_number').on(t.projectId, t.number)],
);

/** What was sent, copied at that moment: later changes of the container do not reach it. */
export const transmittalFiles = pgTable(
  'transmittal_files',
  {
    transmittalId: uuid('transmittal_id')
      .notNull()
      .references(() => transmittals.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    containerId: uuid('container_id').notNull(),
    code: text('code').notNull(),
    title: text('title').notNull(),
    revision: text('revision').notNull(),
    status: text('status').notNull(),
    versionNumber: integer('version_number').notNull(),
    fileName: text('file_name').notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.transmittalId, t.versionId] }),
    index('transmittal_files_container').on(t.containerId),
  ],
);

export const receipts = pgTable(
  'receipts',
  {
    transmittalId: uuid('transmittal_id')
      .notNull()
      .references(() => transmittals.id, { onDelete: 'cascade' }),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    party: text('party'),
    receivedAt: moment('received_at').notNull(),
    openedAt: moment('opened_at'),
    downloadedAt: moment('downloaded_at'),
    acknowledgedAt: moment('acknowledged_at'),
  },
  (t) => [primaryKey({ columns: [t.transmittalId, t.userId] }), index('receipts_user').on(t.userId)],
);
