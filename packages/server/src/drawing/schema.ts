import { boolean, index, integer, pgTable, real, text, unique, uuid } from 'drizzle-orm/pg-core';
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
    number: text('number').notNull().default(''),
    title: text('title').notNull().default(''),
    revision: text('revision').notNull().default(''),
    status: text('status').notNull().default(''),
    scale: text('scale').notNull().default(''),
    date: text('date').notNull().default(''),
    confirmed: boolean('confirmed').notNull().default(false),
    width: real('width').notNull(),
    height: real('height').notNull(),
  },
  (t) => [unique('sheets_page').on(t.versionId, t.page), index('sheets_number').on(t.number)],
);
