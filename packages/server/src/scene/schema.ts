import type { ViewpointState } from '@kindred/contract/scene/scene';
import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';

export const viewpoints = pgTable(
  'viewpoints',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
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
    index('viewpoints_versions').using('gin', t.versionIds),
  ],
);
