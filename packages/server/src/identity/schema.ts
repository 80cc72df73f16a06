import type { MailChoices } from '@kindred/core/platform/notices';
import { sql } from 'drizzle-orm';
import { bigserial, boolean, index, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { moment, primaryId } from '../platform/columns.ts';

export const users = pgTable('users', {
  id: primaryId(),
  name: text('name').notNull(),
  /** Absent for guests. */
  email: text('email').unique(),
  /** Known by the name that they gave, without an account: what they write is theirs all the same. */
  guest: boolean('guest').notNull().default(false),
  initials: text('initials').notNull(),
  colour: text('colour').notNull(),
  passwordHash: text('password_hash'),
  /** Whom the installation's OpenID Connect provider knows as this person: issuer and subject. */
  providerSubject: text('provider_subject').unique(),
  /** Base32 secret of the second factor (RFC 6238); `secondFactorOn` once a first code was right. */
  secondFactorSecret: text('second_factor_secret'),
  secondFactorOn: boolean('second_factor_on').notNull().default(false),
  /** The last step of time that a code was used for: none is good twice. */
  secondFactorStep: integer('second_factor_step').notNull().default(0),
  /** Hashes of codes for who has lost the device; each is good once. */
  recoveryHashes: text('recovery_hashes')
    .array()
    .notNull()
    .default(sql`'{}'`),
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
    createdAt: moment('created_at')
      .notNull()
      .default(sql`now()`),
    lastUsedAt: moment('last_used_at')
      .notNull()
      .default(sql`now()`),
    /** Browser and system, as the browser names them. */
    device: text('device').notNull().default(''),
  },
  (t) => [index('sessions_user').on(t.userId)],
);

/** Links that were sent by mail: each is good once, until it expires. One does not end another. */
export const mailKeys = pgTable(
  'mail_keys',
  {
    /** SHA-256 of the secret in the link. */
    hash: text('hash').primaryKey(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    purpose: text('purpose').$type<'invitation' | 'password' | 'address'>().notNull(),
    /** The address that is to be confirmed. */
    address: text('address'),
    /** The project that somebody was invited to. */
    projectId: uuid('project_id'),
    expiresAt: moment('expires_at').notNull(),
  },
  (t) => [index('mail_keys_user').on(t.userId)],
);

/** Failed sign-ins by address of the account and of the caller: each makes the next wait longer. */
export const failedSignIns = pgTable('failed_sign_ins', {
  key: text('key').primaryKey(),
  failures: integer('failures').notNull(),
  lastAt: moment('last_at').notNull(),
});

/** Programs that may ask people to act in their names. */
export const programs = pgTable('programs', {
  id: primaryId(),
  name: text('name').notNull(),
  secretHash: text('secret_hash').notNull(),
  redirectUris: text('redirect_uris').array().notNull(),
  createdAt: moment('created_at').notNull(),
});

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
    /** The program that it was given to; null for a person's own. */
    programId: uuid('program_id').references(() => programs.id, { onDelete: 'cascade' }),
    /** Null for one that is good until it is removed. */
    expiresAt: moment('expires_at'),
    /** SHA-256 of what another one is given for, and until when. */
    refreshHash: text('refresh_hash').unique(),
    refreshUntil: moment('refresh_until'),
  },
  (t) => [index('tokens_user').on(t.userId), index('tokens_program').on(t.programId)],
);

/** Codes with which programs fetch tokens, each good once. */
export const programCodes = pgTable('program_codes', {
  /** SHA-256 of the code. */
  hash: text('hash').primaryKey(),
  programId: uuid('program_id')
    .notNull()
    .references(() => programs.id, { onDelete: 'cascade' }),
  userId: uuid('user_id')
    .notNull()
    .references(() => users.id, { onDelete: 'cascade' }),
  redirectUri: text('redirect_uri').notNull(),
  /** S256 of the program's verifier. */
  challenge: text('challenge'),
  expiresAt: moment('expires_at').notNull(),
});

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

/** How people like things; what a key means only the interface knows. */
export const preferences = pgTable(
  'preferences',
  {
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    value: jsonb('value').notNull(),
    changedAt: moment('changed_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.userId, t.key] })],
);
