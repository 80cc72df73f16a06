import type { ReturnCodeRules } from '@kindred/core/review/rules';
import { date, index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';

const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

export interface RouteStep {
  name: string;
  /** Working days. */
  days: number;
  roleId: string | null;
}
export const reviewRoutes = pgTable('review_routes', {
  id: primaryId(),
  projectId: project(),
  name: text('name').notNull(),
  steps: jsonb('steps').$type<RouteStep[]>().notNull(),
});
export const returnCodes = pgTable(
  'return_codes',
  {
    id: primaryId(),
    projectId: project(),
    code: text('code').notNull(),
    meaning: text('meaning').notNull(),
    rules: jsonb('rules').$type<ReturnCodeRules>().notNull(),
  },
  (t) => [unique('return_codes_code').on(t.projectId, t.code)],
);
export const reviews = pgTable(
  'reviews',
  {
    id: primaryId(),
    projectId: project(),
    number: integer('number').notNull(),
    title: text('title').notNull(),
    status: text('status').$type<'under review' | 'finished' | 'withdrawn'>().notNull(),
    routeName: text('route_name').notNull(),
    steps: jsonb('steps').$type<RouteStep[]>().notNull(),
    originatorId: uuid('originator_id')
      .notNull()
      .references(() => users.id),
    startedAt: moment('started_at').notNull(),
    finishedAt: moment('finished_at'),
    code: text('code'),
  },
  (t) => [unique('reviews_number').on(t.projectId, t.number)],
);
export const reviewDocuments = pgTable(
  'review_documents',
  {
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
  },
  (t) => [primaryKey({ columns: [t.reviewId, t.versionId] }), index('review_documents_version').on(t.versionId)],
);
export const reviewers = pgTable(
  'reviewers',
  {
    id: primaryId(),
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id, { onDelete: 'cascade' }),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    step: integer('step').notNull(),
    dueOn: date('due_on'),
    code: text('code'),
    finishedAt: moment('finished_at'),
  },
  (t) => [unique('reviewers_person').on(t.reviewId, t.step, t.userId), index('reviewers_user').on(t.userId)],
);
export const reviewComments = pgTable(
  'review_comments',
  {
    id: primaryId(),
    reviewId: uuid('review_id')
      .notNull()
      .references(() => reviews.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('review_comments_review').on(t.reviewId, t.at)],
);
