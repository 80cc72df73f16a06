import type { Convention } from '@kindred/core/naming/convention';
import type { Code } from '@kindred/contract/naming/naming';
import { jsonb, pgTable, unique, uuid } from 'drizzle-orm/pg-core';
import { edition, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';

export const conventions = pgTable(
  'conventions',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    definition: jsonb('definition').$type<Convention>().notNull(),
    statuses: jsonb('statuses').$type<Code[]>().notNull(),
    classifications: jsonb('classifications').$type<Code[]>().notNull(),
    edition: edition(),
  },
  (t) => [unique('conventions_project').on(t.projectId)],
);
