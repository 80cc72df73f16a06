import type { PlanMap, PlanPair } from '@kindred/core/plan/plan-map';
import { doublePrecision, index, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { containers } from '../register/schema.ts';

/** Pages of drawings that are plans of a storey of a model. */
export const planLinks = pgTable(
  'plan_links',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    containerId: uuid('container_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    page: integer('page').notNull(),
    modelId: uuid('model_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    storey: text('storey').notNull(),
    elevation: doublePrecision('elevation').notNull(),
    top: doublePrecision('top'),
    map: jsonb('map').$type<PlanMap>().notNull(),
    error: doublePrecision('error').notNull(),
    pairs: jsonb('pairs').$type<PlanPair[]>().notNull(),
    madeBy: uuid('made_by')
      .notNull()
      .references(() => users.id),
    madeAt: moment('made_at').notNull(),
  },
  (t) => [
    unique('plan_links_page').on(t.containerId, t.page),
    index('plan_links_model').on(t.modelId),
    index('plan_links_project').on(t.projectId),
  ],
);
