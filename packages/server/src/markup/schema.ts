import type { AnnotatedMark, PagePlace } from '@kindred/core/markup/annotations/compare';
import type { Fate } from '@kindred/core/markup/fate';
import type { MarkupShape, MarkupStatus, MarkupStyle } from '@kindred/core/markup/shapes';
import {
  boolean,
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
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { longJobs } from '../platform/schema.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';

/** What people change of a markup. */
const content = () => ({
  shape: jsonb('shape').$type<MarkupShape>().notNull(),
  style: jsonb('style').$type<MarkupStyle>().notNull().default({}),
  text: text('text').notNull(),
  status: text('status').$type<MarkupStatus>().notNull(),
  assigneeId: uuid('assignee_id').references(() => users.id),
  dueOn: date('due_on'),
});

export const markups = pgTable(
  'markups',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    /** The same through all versions that it is carried to: the id of the first. */
    threadId: uuid('thread_id').notNull(),
    carriedFrom: uuid('carried_from').references((): AnyPgColumn => markups.id, { onDelete: 'set null' }),
    /** Of what it points at since the version that it came from; null where that is not known. */
    fate: text('fate').$type<Fate>(),
    page: integer('page').notNull(),
    number: integer('number').notNull(),
    /** Of a callout, within its sheet or set; null for all others. */
    tag: integer('tag'),
    ...content(),
    metresPerPoint: doublePrecision('metres_per_point'),
    pictureSha256: text('picture_sha256'),
    draft: boolean('draft').notNull().default(true),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    /** Who wrote it in another program; the author brought it in. */
    writtenBy: text('written_by'),
    /** What a file calls it that it was brought in with. */
    externalId: text('external_id'),
    /** Its edition when it first left in a file; what others answer begins there. */
    leftAt: integer('left_at'),
    edition: edition(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [
    index('markups_version').on(t.versionId),
    unique('markups_thread').on(t.threadId, t.versionId),
    index('markups_assignee').on(t.assigneeId, t.status),
  ],
);

/** Each edition of a published markup, the last one too. */
export const markupEditions = pgTable(
  'markup_editions',
  {
    markupId: uuid('markup_id')
      .notNull()
      .references(() => markups.id, { onDelete: 'cascade' }),
    edition: integer('edition').notNull(),
    ...content(),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    writtenBy: text('written_by'),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.markupId, t.edition] })],
);

export const markupComments = pgTable(
  'markup_comments',
  {
    id: primaryId(),
    markupId: uuid('markup_id')
      .notNull()
      .references(() => markups.id, { onDelete: 'cascade' }),
    threadId: uuid('thread_id').notNull(),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    writtenBy: text('written_by'),
    externalId: text('external_id'),
    text: text('text').notNull(),
    at: moment('at').notNull(),
  },
  (t) => [
    index('markup_comments_thread').on(t.threadId, t.at),
    unique('markup_comments_external').on(t.threadId, t.externalId),
  ],
);

/** Markups of a file that was read, until somebody says which of them are taken; goes with its job. */
export const markupImports = pgTable('markup_imports', {
  jobId: uuid('job_id')
    .primaryKey()
    .references(() => longJobs.id, { onDelete: 'cascade' }),
  versionId: uuid('version_id')
    .notNull()
    .references(() => versions.id, { onDelete: 'cascade' }),
  ownerId: uuid('owner_id')
    .notNull()
    .references(() => users.id),
  marks: jsonb('marks').$type<AnnotatedMark[]>().notNull(),
  places: jsonb('places').$type<PagePlace[]>().notNull(),
  /** Annotations that cannot be taken over. */
  left: integer('left').notNull(),
});

/** Ready stamps of a project. */
export const stamps = pgTable(
  'stamps',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** Lines with fields in braces; empty for a picture. */
    text: text('text').notNull(),
    colour: text('colour').notNull(),
    pictureSha256: text('picture_sha256'),
    /** Points. */
    width: doublePrecision('width').notNull(),
    height: doublePrecision('height').notNull(),
    /** Roles whose holders place it; empty for everybody who may mark. */
    roleIds: uuid('role_ids').array().notNull().default([]),
    edition: edition(),
    createdAt: moment('created_at').notNull(),
  },
  (t) => [unique('stamps_name').on(t.projectId, t.name)],
);
