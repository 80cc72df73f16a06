import type { LineUp } from '@kindred/contract/federation/federations';
import { boolean, index, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { containers, folders, versions } from '../register/schema.ts';

const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });
const person = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => users.id);

export const federations = pgTable(
  'federations',
  {
    id: primaryId(),
    projectId: project(),
    name: text('name').notNull(),
    /** All folders of the project. */
    whole: boolean('whole').notNull().default(false),
    /** Null where it is the whole project, or the folder was removed. */
    folderId: uuid('folder_id').references(() => folders.id, { onDelete: 'set null' }),
    byId: person('by_id'),
    at: moment('at').notNull(),
    edition: edition(),
  },
  (t) => [uniqueIndex('federations_name').on(t.projectId, t.name)],
);

/** Models that do not follow their newest version. */
export const federationPins = pgTable(
  'federation_pins',
  {
    federationId: uuid('federation_id')
      .notNull()
      .references(() => federations.id, { onDelete: 'cascade' }),
    containerId: uuid('container_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
  },
  (t) => [primaryKey({ columns: [t.federationId, t.containerId] })],
);

export const federationPictures = pgTable('federation_pictures', {
  federationId: uuid('federation_id')
    .primaryKey()
    .references(() => federations.id, { onDelete: 'cascade' }),
  /** Of what was drawn, and how it was put. */
  content: text('content').notNull(),
  versionIds: uuid('version_ids').array().notNull(),
  /** Null where there was nothing to draw. */
  sha256: text('sha256'),
  at: moment('at').notNull(),
});

export const lineUps = pgTable(
  'line_ups',
  {
    id: primaryId(),
    projectId: project(),
    ownerId: person('owner_id'),
    name: text('name').notNull(),
    shared: boolean('shared').notNull(),
    models: jsonb('models').$type<LineUp['models']>().notNull(),
    levels: jsonb('levels').$type<LineUp['levels']>().notNull(),
    hidden: jsonb('hidden').$type<LineUp['hidden']>().notNull(),
  },
  (t) => [
    uniqueIndex('line_ups_name').on(t.projectId, t.ownerId, t.name),
    index('line_ups_shared').on(t.projectId, t.shared),
  ],
);
