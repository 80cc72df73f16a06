import type { KeptTopic } from './kept.ts';
import type { BcfCounts } from '@kindred/contract/bcf/bcf';
import type { BcfFields } from '@kindred/core/bcf/compare-topic';
import type { BcfNote, BcfVersion } from '@kindred/core/bcf/bcf-file';
import { index, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { issueComments, issues } from '../issues/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { longJobs } from '../platform/schema.ts';
import { projects } from '../portfolio/schema.ts';

const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

/** Issues that other programs know of. */
export const bcfTopics = pgTable(
  'bcf_topics',
  {
    issueId: uuid('issue_id')
      .primaryKey()
      .references(() => issues.id, { onDelete: 'cascade' }),
    projectId: project(),
    guid: uuid('guid').notNull(),
    /** What was written out or taken in of it, the newest last. */
    said: jsonb('said').$type<BcfFields[]>().notNull(),
    /** What others say of it and we have no place for. */
    kept: jsonb('kept').$type<KeptTopic>().notNull(),
    /** Hashes of the files that this names. */
    files: text('files').array().notNull(),
  },
  (t) => [unique('bcf_topics_guid').on(t.projectId, t.guid)],
);
/** Comments that came from other programs, by the GUIDs that they have there. */
export const bcfComments = pgTable(
  'bcf_comments',
  {
    commentId: uuid('comment_id')
      .primaryKey()
      .references(() => issueComments.id, { onDelete: 'cascade' }),
    issueId: uuid('issue_id')
      .notNull()
      .references(() => issues.id, { onDelete: 'cascade' }),
    guid: text('guid').notNull(),
  },
  (t) => [unique('bcf_comments_guid').on(t.issueId, t.guid)],
);

/** Files that were read and wait for somebody to choose. */
export const bcfReadings = pgTable('bcf_readings', {
  jobId: uuid('job_id')
    .primaryKey()
    .references(() => longJobs.id, { onDelete: 'cascade' }),
  projectId: project(),
  ownerId: uuid('owner_id')
    .notNull()
    .references(() => users.id),
  fileName: text('file_name').notNull(),
  version: text('version').$type<BcfVersion>().notNull(),
  /** Its topics, as JSON; their files are kept by their hashes. */
  topicsSha256: text('topics_sha256').notNull(),
  fileHashes: text('file_hashes').array().notNull(),
  notes: jsonb('notes').$type<BcfNote[]>().notNull(),
});

/** What left as a file, and what came in. */
export const bcfTransfers = pgTable(
  'bcf_transfers',
  {
    id: primaryId(),
    projectId: project(),
    way: text('way').$type<'out' | 'in'>().notNull(),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
    fileName: text('file_name').notNull(),
    version: text('version').$type<BcfVersion>().notNull(),
    /** The list of issues as it was narrowed; empty for all. */
    filter: jsonb('filter').$type<Record<string, unknown>>().notNull(),
    counts: jsonb('counts').$type<BcfCounts>().notNull(),
    notes: jsonb('notes').$type<BcfNote[]>().notNull(),
  },
  (t) => [index('bcf_transfers_project').on(t.projectId, t.at, t.id)],
);
