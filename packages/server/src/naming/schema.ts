import type { Convention } from '@kindred/core/naming/convention';
import type { RevisionScheme } from '@kindred/core/register/revision';
import type { Code } from '@kindred/contract/naming/naming';
import { boolean, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';

export const conventions = pgTable(
  'conventions',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    definition: jsonb('definition').$type<Convention>().notNull(),
    /** Holds where no folder names another. */
    isDefault: boolean('is_default').notNull().default(false),
    edition: edition(),
  },
  (t) => [
    uniqueIndex('conventions_default')
      .on(t.projectId)
      .where(sql`${t.isDefault}`),
    uniqueIndex('conventions_name').on(t.projectId, sql`lower(${t.definition}->>'name')`),
  ],
);

/** Every edition of a convention as it was, with who made it and why. */
export const conventionEditions = pgTable(
  'convention_editions',
  {
    conventionId: uuid('convention_id')
      .notNull()
      .references(() => conventions.id, { onDelete: 'cascade' }),
    edition: integer('edition').notNull(),
    definition: jsonb('definition').$type<Convention>().notNull(),
    reason: text('reason').notNull().default(''),
    authorId: uuid('author_id').references(() => users.id),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.conventionId, t.edition] })],
);

/** Codes that are kept beside names, never in them. */
export const namingSchemes = pgTable('naming_schemes', {
  projectId: uuid('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  statuses: jsonb('statuses').$type<Code[]>().notNull(),
  revisions: jsonb('revisions').$type<RevisionScheme>().notNull(),
  classifications: jsonb('classifications').$type<Code[]>().notNull(),
  edition: edition(),
});
