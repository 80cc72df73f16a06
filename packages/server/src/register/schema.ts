import type { FileKind } from '@kindred/core/register/file-kind';
import type { Level, Subject } from '@kindred/core/register/folder-rights';
import type { ContainerState, Preparation } from '@kindred/core/register/states';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { conventions } from '../naming/schema.ts';
import { teams } from '../people/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';

const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' });
const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

export const folders = pgTable(
  'folders',
  {
    id: primaryId(),
    projectId: project(),
    parentId: uuid('parent_id'),
    name: text('name').notNull(),
    /** Names from the root, joined by “ / ”. */
    path: text('path').notNull(),
    teamId: uuid('team_id').references(() => teams.id),
    /** Holds here and below; null to take it from above. */
    conventionId: uuid('convention_id').references(() => conventions.id),
    /** Numbers of the subtree, see the core's folder tree. */
    first: integer('first').notNull().default(0),
    last: integer('last').notNull().default(0),
    edition: edition(),
  },
  (t) => [
    uniqueIndex('folders_name').on(
      t.projectId,
      sql`coalesce(${t.parentId}, '00000000-0000-0000-0000-000000000000'::uuid)`,
      sql`lower(${t.name})`,
    ),
    index('folders_first').on(t.projectId, t.first),
  ],
);

export const folderPermissions = pgTable(
  'folder_permissions',
  {
    folderId: uuid('folder_id')
      .notNull()
      .references(() => folders.id, { onDelete: 'cascade' }),
    subject: text('subject').$type<Subject>().notNull(),
    /** A member, team, party or role of the project. */
    subjectId: uuid('subject_id').notNull(),
    level: text('level').$type<Level>().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.folderId, t.subject, t.subjectId] }),
    index('folder_permissions_subject').on(t.subjectId),
  ],
);

/** A container carries a copy of its current version's metadata, so that the register sorts and filters on one table. */
export const containers = pgTable(
  'containers',
  {
    id: primaryId(),
    projectId: project(),
    folderId: uuid('folder_id')
      .notNull()
      .references(() => folders.id),
    teamId: uuid('team_id').references(() => teams.id),
    code: text('code').notNull(),
    title: text('title').notNull().default(''),
    kind: text('kind').$type<FileKind>().notNull(),
    state: text('state').$type<ContainerState>().notNull(),
    atIntake: boolean('at_intake').notNull().default(false),
    versionId: uuid('version_id').notNull(),
    versionNumber: integer('version_number').notNull(),
    fileName: text('file_name').notNull(),
    status: text('status').notNull().default(''),
    revision: text('revision').notNull().default(''),
    classification: text('classification').notNull().default(''),
    description: text('description').notNull().default(''),
    preparation: text('preparation').$type<Preparation>().notNull(),
    preparationNote: text('preparation_note').notNull().default(''),
    sheets: integer('sheets').notNull().default(0),
    size: bigint('size', { mode: 'number' }).notNull(),
    deliveredAt: moment('delivered_at').notNull(),
    deliveredBy: uuid('delivered_by')
      .notNull()
      .references(() => users.id),
    words: tsvector('words').generatedAlwaysAs(
      sql`to_tsvector('simple', regexp_replace(code, '[-_.]', ' ', 'g') || ' ' || title || ' ' || description)`,
    ),
  },
  (t) => [
    uniqueIndex('containers_code').on(t.projectId, t.code),
    index('containers_by_code').on(t.projectId, t.code, t.id),
    index('containers_by_date').on(t.projectId, t.deliveredAt, t.id),
    index('containers_by_title').on(t.projectId, t.title, t.id),
    index('containers_by_folder').on(t.folderId, t.code, t.id),
    index('containers_by_status').on(t.projectId, t.status, t.id),
    index('containers_by_revision').on(t.projectId, t.revision, t.id),
    index('containers_words').using('gin', t.words),
    index('containers_trigrams').using('gin', sql`(code || ' ' || title) gin_trgm_ops`),
  ],
);

export const versions = pgTable(
  'versions',
  {
    id: primaryId(),
    projectId: project(),
    containerId: uuid('container_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    fileName: text('file_name').notNull(),
    mediaType: text('media_type').notNull(),
    kind: text('kind').$type<FileKind>().notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: text('sha256').notNull(),
    title: text('title').notNull().default(''),
    status: text('status').notNull().default(''),
    revision: text('revision').notNull().default(''),
    classification: text('classification').notNull().default(''),
    description: text('description').notNull().default(''),
    preparation: text('preparation').$type<Preparation>().notNull(),
    preparationNote: text('preparation_note').notNull().default(''),
    deliveredAt: moment('delivered_at').notNull(),
    deliveredBy: uuid('delivered_by')
      .notNull()
      .references(() => users.id),
  },
  (t) => [unique('versions_number').on(t.containerId, t.number)],
);

/** What preparation made of a version. */
export const products = pgTable(
  'products',
  {
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    product: text('product').notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.product] })],
);

/** Files on their way in: whole once `sha256` is set, gone once delivered. */
export const uploads = pgTable(
  'uploads',
  {
    id: text('id').primaryKey(),
    projectId: project(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    fileName: text('file_name').notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: text('sha256'),
    createdAt: moment('created_at').notNull(),
  },
  (t) => [index('uploads_user').on(t.userId)],
);
