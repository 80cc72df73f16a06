import type { SharedFilter } from '@kindred/contract/scene/element-filters';
import type { ViewpointState } from '@kindred/contract/scene/scene';
import type { Placing } from '@kindred/contract/scene/placings';
import { index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { containers, versions } from '../register/schema.ts';

export const viewpoints = pgTable(
  'viewpoints',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    folder: text('folder').notNull().default(''),
    /** Within its folder. */
    position: integer('position').notNull().default(0),
    state: jsonb('state').$type<ViewpointState>().notNull(),
    versionIds: uuid('version_ids').array().notNull(),
    pictureSha256: text('picture_sha256').notNull(),
    authorId: uuid('author_id')
      .notNull()
      .references(() => users.id),
    createdAt: moment('created_at').notNull(),
  },
  (t) => [
    index('viewpoints_project').on(t.projectId, t.createdAt),
    index('viewpoints_folder').on(t.projectId, t.folder, t.position),
    index('viewpoints_versions').using('gin', t.versionIds),
  ],
);

export const elementFilters = pgTable(
  'element_filters',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    ownerId: uuid('owner_id')
      .notNull()
      .references(() => users.id),
    name: text('name').notNull(),
    filter: jsonb('filter').$type<SharedFilter['filter']>().notNull(),
  },
  (t) => [uniqueIndex('element_filters_name').on(t.projectId, t.ownerId, t.name)],
);

/** Models that were put to the others. */
export const placings = pgTable(
  'placings',
  {
    containerId: uuid('container_id')
      .primaryKey()
      .references(() => containers.id, { onDelete: 'cascade' }),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    placing: jsonb('placing').$type<Placing>().notNull(),
    /** The one that was current to whoever did it. */
    versionId: uuid('version_id').references(() => versions.id, { onDelete: 'set null' }),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
  },
  (t) => [index('placings_project').on(t.projectId)],
);
