import { integer, pgTable, real, text, unique, uuid } from 'drizzle-orm/pg-core';
import { primaryId } from '../platform/columns.ts';
import { versions } from '../register/schema.ts';

export const sheets = pgTable(
  'sheets',
  {
    id: primaryId(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    page: integer('page').notNull(),
    label: text('label').notNull(),
    width: real('width').notNull(),
    height: real('height').notNull(),
  },
  (t) => [unique('sheets_page').on(t.versionId, t.page)],
);
