import { date, pgTable, text } from 'drizzle-orm/pg-core';
import { edition, moment, primaryId } from '../platform/columns.ts';

export const projects = pgTable('projects', {
  id: primaryId(),
  number: text('number').notNull().default(''),
  name: text('name').notNull(),
  kind: text('kind').notNull(),
  address: text('address').notNull().default(''),
  timeZone: text('time_zone').notNull().default('UTC'),
  startsOn: date('starts_on'),
  finishesOn: date('finishes_on'),
  edition: edition(),
  createdAt: moment('created_at').notNull(),
});
