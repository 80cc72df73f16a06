import type { MarkupShape, MarkupStatus, MarkupStyle } from '@kindred/core/markup/shapes';
import { boolean, doublePrecision, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { versions } from '../register/schema.ts';

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
    page: integer('page').notNull(),
    number: integer('number').notNull(),
    shape: jsonb('shape').$type<MarkupShape>().notNull(),
    style: jsonb('style').$type<MarkupStyle>().notNull().default({}),
    metresPerPoint: doublePrecision('metres_per_point'),
    text: text('text').notNull(),
    status: text('status').$type<MarkupStatus>().notNull(),
    draft: boolean('draft').notNull().default(true),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    edition: edition(),
    createdAt: moment('created_at').notNull(),
  },
  (t) => [index('markups_version').on(t.versionId)],
);
