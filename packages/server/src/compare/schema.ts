import type { COMPARISON_STATUSES, SheetOutcome } from '@kindred/contract/compare/compare';
import { NO_CHANGES, type ChangeCounts } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import type { NumberedChange, Place } from '@kindred/core/compare/numbered';
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { issues } from '../issues/schema.ts';
import { markups } from '../markup/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';

/** A change without its lines, which are in the file of its sheet. */
export type KeptChange = Omit<NumberedChange, 'ends'>;

const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });
const version = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => versions.id, { onDelete: 'cascade' });

export const comparisons = pgTable(
  'comparisons',
  {
    id: primaryId(),
    projectId: project(),
    beforeId: version('before_id'),
    afterId: version('after_id'),
    status: text('status').$type<(typeof COMPARISON_STATUSES)[number]>().notNull(),
    askedAt: moment('asked_at').notNull(),
    /** Of models: whatever is not told as changed is in both, under one GlobalId and where it was. */
    restStays: boolean('rest_stays').notNull().default(false),
  },
  (t) => [
    unique('comparisons_pair').on(t.beforeId, t.afterId),
    index('comparisons_after').on(t.afterId),
    index('comparisons_project').on(t.projectId, t.askedAt),
  ],
);

/** Pairs of sheets of a comparison; a model counts as one, without pages. */
export const comparedSheets = pgTable(
  'compared_sheets',
  {
    comparisonId: uuid('comparison_id')
      .notNull()
      .references(() => comparisons.id, { onDelete: 'cascade' }),
    /** From 1. */
    position: integer('position').notNull(),
    beforePage: integer('before_page'),
    afterPage: integer('after_page'),
    outcome: text('outcome').$type<SheetOutcome>().notNull(),
    note: text('note').notNull().default(''),
    /** The sheet before became several. */
    split: boolean('split').notNull().default(false),
    /** From the page before to the one after. */
    similarity: jsonb('similarity').$type<[number, number, number, number]>().notNull().default([1, 0, 0, 0]),
    changes: jsonb('changes').$type<KeptChange[]>().notNull().default([]),
    counts: jsonb('counts').$type<ChangeCounts>().notNull().default(NO_CHANGES),
    /** All of the answer, deflated. */
    fileSha256: text('file_sha256'),
  },
  (t) => [primaryKey({ columns: [t.comparisonId, t.position] })],
);

/** Elements that changed between two versions of a model. */
export const changedElements = pgTable(
  'changed_elements',
  {
    comparisonId: uuid('comparison_id')
      .notNull()
      .references(() => comparisons.id, { onDelete: 'cascade' }),
    /** Of its change, from 1. */
    number: integer('number').notNull(),
    globalId: text('global_id').notNull(),
    /** Null where it kept its GlobalId. */
    formerId: text('former_id'),
    change: jsonb('change').$type<ModelChange>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.comparisonId, t.number] }),
    index('changed_elements_element').on(t.globalId, t.comparisonId),
    index('changed_elements_former').on(t.formerId, t.comparisonId),
  ],
);

/** What was asked of a version. */
export const changeRequests = pgTable(
  'change_requests',
  {
    id: primaryId(),
    projectId: project(),
    versionId: version('version_id'),
    text: text('text').notNull(),
    page: integer('page'),
    place: jsonb('place').$type<Place>(),
    markupId: uuid('markup_id').references(() => markups.id, { onDelete: 'set null' }),
    issueId: uuid('issue_id').references(() => issues.id, { onDelete: 'set null' }),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
    edition: edition(),
  },
  (t) => [
    index('change_requests_version').on(t.versionId, t.at),
    unique('change_requests_markup').on(t.versionId, t.markupId),
    unique('change_requests_issue').on(t.versionId, t.issueId),
  ],
);

/** What people said of changes. */
export const changeJudgements = pgTable(
  'change_judgements',
  {
    comparisonId: uuid('comparison_id')
      .notNull()
      .references(() => comparisons.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    number: integer('number').notNull(),
    /** Null where only an issue was raised from it. */
    asked: boolean('asked'),
    requestIds: uuid('request_ids').array().notNull().default([]),
    issueId: uuid('issue_id').references(() => issues.id, { onDelete: 'set null' }),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.comparisonId, t.position, t.number] })],
);
