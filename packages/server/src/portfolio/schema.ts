import type { CalloutNumbering, CalloutTag } from '@kindred/core/markup/callouts';
import type { TemplateContent } from '@kindred/contract/portfolio/templates';
import { boolean, date, doublePrecision, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';

export const projects = pgTable('projects', {
  id: primaryId(),
  number: text('number').notNull().default(''),
  name: text('name').notNull(),
  kind: text('kind').notNull(),
  address: text('address').notNull().default(''),
  /** Degrees, WGS 84. */
  latitude: doublePrecision('latitude'),
  longitude: doublePrecision('longitude'),
  timeZone: text('time_zone').notNull().default('UTC'),
  /** Days that are not worked, beside weekends: YYYY-MM-DD. */
  holidays: jsonb('holidays').$type<string[]>().notNull().default([]),
  startsOn: date('starts_on'),
  finishesOn: date('finishes_on'),
  value: doublePrecision('value'),
  currency: text('currency').notNull().default('EUR'),
  units: text('units').$type<'metric' | 'feet and inches'>().notNull().default('metric'),
  /** Denominator of the smallest fraction of an inch. */
  inchFraction: integer('inch_fraction').notNull().default(16),
  calloutNumbering: text('callout_numbering').$type<CalloutNumbering>().notNull().default('sheet'),
  calloutTag: text('callout_tag').$type<CalloutTag>().notNull().default('flag'),
  /** Where the project's origin lies in survey coordinates, metres. */
  easting: doublePrecision('easting'),
  northing: doublePrecision('northing'),
  height: doublePrecision('height'),
  /** Degrees that true north lies clockwise of project north. */
  trueNorth: doublePrecision('true_north'),
  edition: edition(),
  createdAt: moment('created_at').notNull(),
});

export const templates = pgTable('templates', {
  id: primaryId(),
  name: text('name').notNull(),
  description: text('description').notNull().default(''),
  content: jsonb('content').$type<TemplateContent>().notNull(),
  ownerId: uuid('owner_id')
    .notNull()
    .references(() => users.id),
  /** Offered to everybody of the installation, not to its owner alone. */
  forAll: boolean('for_all').notNull().default(false),
  createdAt: moment('created_at').notNull(),
});
