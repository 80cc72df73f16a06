import type { IssueRelationKind } from '@kindred/contract/issues/ties';
import type { IssueSettings } from '@kindred/core/issues/settings';
import type { IssueStatus } from '@kindred/core/issues/states';
import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { markups } from '../markup/schema.ts';
import { roles, teams } from '../people/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';
import { viewpoints } from '../scene/schema.ts';

/** What a project decides about its issues; without a row the starter settings hold. */
export const issueSettings = pgTable('issue_settings', {
  projectId: uuid('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  settings: jsonb('settings').$type<IssueSettings>().notNull(),
  edition: edition(),
});

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
    type: text('type').notNull(),
    priority: text('priority').notNull(),
    status: text('status').$type<IssueStatus>().notNull(),
    /** A person, a team or a role: one of them at most. */
    assigneeId: uuid('assignee_id').references(() => users.id),
    assigneeTeamId: uuid('assignee_team_id').references(() => teams.id),
    assigneeRoleId: uuid('assignee_role_id').references(() => roles.id),
    verifierId: uuid('verifier_id').references(() => users.id),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    dueOn: date('due_on'),
    labels: text('labels')
      .array()
      .notNull()
      .default(sql`'{}'`),
    viewpointId: uuid('viewpoint_id').references(() => viewpoints.id),
    placeVersionId: uuid('place_version_id').references(() => versions.id),
    /** Null for a file as a whole. */
    placePage: integer('place_page'),
    placeX: doublePrecision('place_x'),
    placeY: doublePrecision('place_y'),
    placeZoom: doublePrecision('place_zoom'),
    /** The markup that it was raised from. */
    markupId: uuid('markup_id').references(() => markups.id, { onDelete: 'set null' }),
    pictures: integer('pictures').notNull().default(0),
    comments: integer('comments').notNull().default(0),
    edition: edition(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
    /** When it was answered first, and by whom. */
    answeredAt: moment('answered_at'),
    answeredBy: uuid('answered_by').references(() => users.id),
    closedAt: moment('closed_at'),
    /** Who wrote it in another program; whoever brought it in is its author here. */
    writtenBy: text('written_by'),
  },
  (t) => [
    unique('issues_number').on(t.projectId, t.number),
    index('issues_markup').on(t.markupId),
    index('issues_assignee').on(t.assigneeId, t.status),
    index('issues_team').on(t.assigneeTeamId, t.status),
    index('issues_updated').on(t.projectId, t.updatedAt),
    index('issues_trigrams').using('gin', sql`${t.title} gin_trgm_ops`),
    check('issues_responsible', sql`num_nonnulls(${t.assigneeId}, ${t.assigneeTeamId}, ${t.assigneeRoleId}) <= 1`),
  ],
);

const issue = () =>
  uuid('issue_id')
    .notNull()
    .references(() => issues.id, { onDelete: 'cascade' });

/** What it looked like where it was raised, in order. */
export const issuePictures = pgTable(
  'issue_pictures',
  {
    issueId: issue(),
    /** From 1. */
    position: integer('position').notNull(),
    caption: text('caption').notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.position] })],
);

export const issueWatchers = pgTable(
  'issue_watchers',
  {
    issueId: issue(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.userId] }), index('issue_watchers_user').on(t.userId)],
);

export const issueRelations = pgTable(
  'issue_relations',
  {
    id: primaryId(),
    issueId: issue(),
    kind: text('kind').$type<IssueRelationKind>().notNull(),
    otherId: uuid('other_id')
      .notNull()
      .references(() => issues.id, { onDelete: 'cascade' }),
  },
  (t) => [
    unique('issue_relations_once').on(t.issueId, t.kind, t.otherId),
    index('issue_relations_other').on(t.otherId),
  ],
);

/** Things of other kinds that an issue is about; kinds of later capabilities too, so no key can be declared here. */
export const issueThings = pgTable(
  'issue_things',
  {
    issueId: issue(),
    type: text('type').notNull(),
    thingId: uuid('thing_id').notNull(),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.type, t.thingId] }), index('issue_things_thing').on(t.thingId)],
);

export const issueElements = pgTable(
  'issue_elements',
  {
    issueId: issue(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    globalId: text('global_id').notNull(),
    name: text('name').notNull(),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.versionId, t.globalId] })],
);

/** Versions that were delivered as an answer. */
export const issueAnswers = pgTable(
  'issue_answers',
  {
    issueId: issue(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    note: text('note').notNull().default(''),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.issueId, t.versionId] }), index('issue_answers_version').on(t.versionId)],
);

export const issueComments = pgTable(
  'issue_comments',
  {
    id: primaryId(),
    issueId: issue(),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    byMail: boolean('by_mail').notNull().default(false),
    editedAt: moment('edited_at'),
    withdrawnAt: moment('withdrawn_at'),
    /** Who wrote it in another program; whoever brought it in is its author here. */
    writtenBy: text('written_by'),
  },
  (t) => [index('issue_comments_issue').on(t.issueId, t.at, t.id)],
);
const comment = () =>
  uuid('comment_id')
    .notNull()
    .references(() => issueComments.id, { onDelete: 'cascade' });

/** What a comment said before it was changed. */
export const issueCommentEditions = pgTable(
  'issue_comment_editions',
  { id: primaryId(), commentId: comment(), text: text('text').notNull(), at: moment('at').notNull() },
  (t) => [index('issue_comment_editions_comment').on(t.commentId, t.at)],
);
export const issueCommentPictures = pgTable(
  'issue_comment_pictures',
  {
    commentId: comment(),
    /** From 1. */
    position: integer('position').notNull(),
    caption: text('caption').notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [primaryKey({ columns: [t.commentId, t.position] })],
);
export const issueCommentDocuments = pgTable(
  'issue_comment_documents',
  {
    commentId: comment(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
  },
  (t) => [primaryKey({ columns: [t.commentId, t.versionId] })],
);
