import type { IssuePriority, IssueStatus, IssueType } from '@kindred/core/issues/states';
import { sql } from 'drizzle-orm';
import { date, doublePrecision, index, integer, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { markups } from '../markup/schema.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';
import { viewpoints } from '../scene/schema.ts';

export const issues = pgTable(
  'issues',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    title: text('title').notNull(),
    description: text('description').notNull().default(''),
    type: text('type').$type<IssueType>().notNull(),
    priority: text('priority').$type<IssuePriority>().notNull(),
    status: text('status').$type<IssueStatus>().notNull(),
    assigneeId: uuid('assignee_id').references(() => users.id),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    dueOn: date('due_on'),
    viewpointId: uuid('viewpoint_id').references(() => viewpoints.id),
    placeVersionId: uuid('place_version_id').references(() => versions.id),
    placePage: integer('place_page'),
    placeX: doublePrecision('place_x'),
    placeY: doublePrecision('place_y'),
    /** The markup that it was raised from. */
    markupId: uuid('markup_id').references(() => markups.id, { onDelete: 'set null' }),
    comments: integer('comments').notNull().default(0),
    edition: edition(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [
    unique('issues_number').on(t.projectId, t.number),
    index('issues_markup').on(t.markupId),
    index('issues_assignee').on(t.assigneeId, t.status),
    index('issues_trigrams').using('gin', sql`${t.title} gin_trgm_ops`),
  ],
);

/** What it looked like where it was raised, in order. */
export const issuePictures = pgTable(
  'issue_pictures',
  {
    issueId: uuid('issue_id')
      .notNull()
      .references(() => issues.id, { onDelete: 'cascade' }),
    /** From 1. */
    position: integer('position').notNull(),
    caption: text('caption').notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.position] })],
);

export const issueComments = pgTable(
  'issue_comments',
  {
    id: primaryId(),
    issueId: uuid('issue_id')
      .notNull()
      .references(() => issues.id, { onDelete: 'cascade' }),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('issue_comments_issue').on(t.issueId, t.at)],
);
