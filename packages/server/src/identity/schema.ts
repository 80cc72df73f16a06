import type { MailChoices } from '@kindred/core/platform/notices';
import { bigserial, boolean, index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { moment, primaryId } from '../platform/columns.ts';

export const users = pgTable('users', {
  id: primaryId(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  initials: text('initials').notNull(),
  colour: text('colour').notNull(),
  passwordHash: text('password_hash'),
  invitationHash: text('invitation_hash'),
  installationAdministrator: boolean('installation_administrator').notNull().default(false),
  createdAt: moment('created_at').notNull(),
});

export const sessions = pgTable(
  'sessions',
  {
    /** SHA-256 of the cookie's secret. */
    id: text('id').primaryKey(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    csrfToken: text('csrf_token').notNull(),
    expiresAt: moment('expires_at').notNull(),
  },
  (t) => [index('sessions_user').on(t.userId)],
);

export const tokens = pgTable(
  'tokens',
  {
    id: primaryId(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    hash: text('hash').notNull().unique(),
    createdAt: moment('created_at').notNull(),
    lastUsedAt: moment('last_used_at'),
  },
  (t) => [index('tokens_user').on(t.userId)],
);

/** How mail comes for each kind of notice; what is absent comes as at the start. */
export const mailChoices = pgTable('mail_choices', {
  userId: uuid('user_id')
    .primaryKey()
    .references(() => users.id, { onDelete: 'cascade' }),
  choices: jsonb('choices').$type<MailChoices>().notNull(),
});

/** Letters that wait for the daily one. */
export const waitingLetters = pgTable(
  'waiting_letters',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    text: text('text').notNull(),
    link: text('link').notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('waiting_letters_user').on(t.userId, t.id)],
);

export const notices = pgTable(
  'notices',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    projectId: uuid('project_id').notNull(),
    text: text('text').notNull(),
    link: text('link').notNull(),
    at: moment('at').notNull(),
    readAt: moment('read_at'),
  },
  (t) => [index('notices_user').on(t.userId, t.id)],
);
