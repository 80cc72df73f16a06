import type { Recognition } from '@kindred/core/drawing/recognition';
import type { TaughtLayout } from '@kindred/core/drawing/taught-layout';
import type { TitleBlock } from '@kindred/core/drawing/title-block';
import type { VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import type { FileKind } from '@kindred/core/register/file-kind';
import type { Level, Subject } from '@kindred/core/register/folder-rights';
import type { Gates } from '@kindred/core/register/gates';
import type {
  Audience,
  ContainerState,
  DeliverySource,
  Preparation,
  Use,
  VersionSequence,
} from '@kindred/core/register/states';
import type { UploadPurpose } from '@kindred/contract/register/uploads';
import type { SavedViewDefinition, ViewedList } from '@kindred/contract/register/views';
import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { conventions } from '../naming/schema.ts';
import { teams } from '../people/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import type { Encoding } from '../platform/send-blob.ts';
import { projects } from '../portfolio/schema.ts';

const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' });
const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

/** What a version says of itself, beside its name. */
const metadata = () => ({
  title: text('title').notNull().default(''),
  status: text('status').notNull().default(''),
  revision: text('revision').notNull().default(''),
  classification: text('classification').notNull().default(''),
  description: text('description').notNull().default(''),
});

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
    /** Parts of the code by the field's name, while it has as many as its convention. */
    fields: jsonb('fields').$type<Record<string, string>>().notNull().default({}),
    atIntake: boolean('at_intake').notNull().default(false),
    /** Number that the last arrival got; the next gets one more. */
    lastNumber: integer('last_number').notNull().default(0),
    reservedBy: uuid('reserved_by').references(() => users.id),
    reservedAt: moment('reserved_at'),
    /** It lies in the bin since then: it has no entries, and its code is free for another. */
    removedAt: moment('removed_at'),
    removedBy: uuid('removed_by').references(() => users.id),
    removedReason: text('removed_reason').notNull().default(''),
  },
  (t) => [
    uniqueIndex('containers_code')
      .on(t.projectId, t.code)
      .where(sql`${t.removedAt} is null`),
    index('containers_folder').on(t.folderId),
    index('containers_removed')
      .on(t.projectId, t.removedAt)
      .where(sql`${t.removedAt} is not null`),
  ],
);

/** One arrival of one or several files. */
export const deliveries = pgTable(
  'deliveries',
  {
    id: primaryId(),
    projectId: project(),
    folderId: uuid('folder_id')
      .notNull()
      .references(() => folders.id),
    teamId: uuid('team_id').references(() => teams.id),
    deliveredBy: uuid('delivered_by')
      .notNull()
      .references(() => users.id),
    source: text('source').$type<DeliverySource>().notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('deliveries_project').on(t.projectId, t.at)],
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
    state: text('state').$type<ContainerState>().notNull(),
    sequence: text('sequence').$type<VersionSequence>().notNull().default('in sequence'),
    /** Number of the version that this one made current again. */
    restores: integer('restores'),
    deliveryId: uuid('delivery_id').references(() => deliveries.id),
    /** Whether its name conformed when it arrived. */
    conformed: boolean('conformed').notNull().default(true),
    shareSetId: uuid('share_set_id').references(() => shareSets.id),
    fileName: text('file_name').notNull(),
    mediaType: text('media_type').notNull(),
    kind: text('kind').$type<FileKind>().notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: text('sha256').notNull(),
    ...metadata(),
    preparation: text('preparation').$type<Preparation>().notNull(),
    preparationNote: text('preparation_note').notNull().default(''),
    sheets: integer('sheets').notNull().default(0),
    deliveredAt: moment('delivered_at').notNull(),
    deliveredBy: uuid('delivered_by')
      .notNull()
      .references(() => users.id),
  },
  (t) => [
    index('versions_sha256').on(t.sha256),
    unique('versions_number').on(t.containerId, t.number),
    index('versions_delivery').on(t.deliveryId),
    index('versions_project').on(t.projectId, t.deliveredAt),
    index('versions_on_their_way')
      .on(t.id)
      .where(sql`${t.preparation} in ('received', 'checking', 'preparing')`),
  ],
);

/** Files that belong to a version beside its own: what an authoring program works on. */
export const natives = pgTable(
  'natives',
  {
    id: primaryId(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    fileName: text('file_name').notNull(),
    mediaType: text('media_type').notNull(),
    size: bigint('size', { mode: 'number' }).notNull(),
    sha256: text('sha256').notNull(),
  },
  (t) => [index('natives_version').on(t.versionId), index('natives_sha256').on(t.sha256)],
);

/**
 * What the register shows of a container, derived from its versions by `refreshEntries`: its newest version for its own team,
 * the newest that is shared for the others, or one entry for all where these are the same. All that the register
 * sorts and filters by stands here, so that it reads one table.
 */
export const entries = pgTable(
  'entries',
  {
    containerId: uuid('container_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    audience: text('audience').$type<Audience>().notNull(),
    projectId: project(),
    folderId: uuid('folder_id').notNull(),
    teamId: uuid('team_id'),
    code: text('code').notNull(),
    fields: jsonb('fields').$type<Record<string, string>>().notNull(),
    atIntake: boolean('at_intake').notNull(),
    reservedBy: uuid('reserved_by'),
    reservedAt: moment('reserved_at'),
    /** Conflicting versions that wait for a decision. */
    conflicting: integer('conflicting').notNull(),
    versionId: uuid('version_id').notNull(),
    versionNumber: integer('version_number').notNull(),
    state: text('state').$type<ContainerState>().notNull(),
    kind: text('kind').$type<FileKind>().notNull(),
    fileName: text('file_name').notNull(),
    ...metadata(),
    preparation: text('preparation').$type<Preparation>().notNull(),
    preparationNote: text('preparation_note').notNull(),
    sheets: integer('sheets').notNull(),
    /** How many of its sheets others get; null: all of them. */
    sharedSheets: integer('shared_sheets'),
    size: bigint('size', { mode: 'number' }).notNull(),
    deliveredAt: moment('delivered_at').notNull(),
    deliveredBy: uuid('delivered_by').notNull(),
    words: tsvector('words').generatedAlwaysAs(
      sql`to_tsvector('simple', regexp_replace(code, '[-_.]', ' ', 'g') || ' ' || title || ' ' || description)`,
    ),
  },
  (t) => [
    primaryKey({ columns: [t.containerId, t.audience] }),
    index('entries_version').on(t.versionId),
    index('entries_by_code').on(t.projectId, t.code),
    index('entries_by_title').on(t.projectId, t.title, t.code),
    index('entries_by_date').on(t.projectId, t.deliveredAt, t.code),
    index('entries_by_status').on(t.projectId, t.status, t.code),
    index('entries_by_revision').on(t.projectId, t.revision, t.code),
    index('entries_by_state').on(t.projectId, t.state, t.code),
    index('entries_by_kind').on(t.projectId, t.kind, t.code),
    index('entries_by_classification').on(t.projectId, t.classification, t.code),
    index('entries_by_team').on(t.projectId, t.teamId, t.code),
    index('entries_by_folder').on(t.folderId, t.code),
    index('entries_fields').using('gin', sql`${t.fields} jsonb_path_ops`),
    index('entries_waiting')
      .on(t.projectId)
      .where(sql`${t.atIntake} or ${t.conflicting} > 0`),
    index('entries_words').using('gin', t.words),
    index('entries_trigrams').using('gin', sql`(code || ' ' || title) gin_trgm_ops`),
  ],
);

/** A way of looking at the register that somebody keeps, or offers to all. */
export const savedViews = pgTable(
  'saved_views',
  {
    id: primaryId(),
    projectId: project(),
    ownerId: uuid('owner_id')
      .notNull()
      .references(() => users.id),
    list: text('list').$type<ViewedList>().notNull().default('register'),
    name: text('name').notNull(),
    forAll: boolean('for_all').notNull().default(false),
    definition: jsonb('definition').$type<SavedViewDefinition>().notNull(),
    edition: edition(),
  },
  (t) => [uniqueIndex('saved_views_name').on(t.projectId, t.ownerId, t.list, sql`lower(${t.name})`)],
);
/** Who hears of what comes into a saved view. */
export const viewBells = pgTable(
  'view_bells',
  {
    viewId: uuid('view_id')
      .notNull()
      .references(() => savedViews.id, { onDelete: 'cascade' }),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
  },
  (t) => [primaryKey({ columns: [t.viewId, t.userId] })],
);

export const projectGates = pgTable('project_gates', {
  projectId: uuid('project_id')
    .primaryKey()
    .references(() => projects.id, { onDelete: 'cascade' }),
  gates: jsonb('gates').$type<Gates>().notNull(),
  edition: edition(),
});

/** Which sheets and viewpoints others see of what a team shares with it. */
export const shareSets = pgTable(
  'share_sets',
  {
    id: primaryId(),
    projectId: project(),
    teamId: uuid('team_id')
      .notNull()
      .references(() => teams.id),
    name: text('name').notNull(),
    /** Numbers of sheets, as in their title blocks. */
    sheetNumbers: text('sheet_numbers').array().notNull(),
    viewpointIds: uuid('viewpoint_ids').array().notNull(),
    edition: edition(),
  },
  (t) => [uniqueIndex('share_sets_name').on(t.projectId, t.teamId, sql`lower(${t.name})`)],
);

/** The last version of another team's container that a team has taken: opened, downloaded or got. */
export const uses = pgTable(
  'uses',
  {
    teamId: uuid('team_id')
      .notNull()
      .references(() => teams.id),
    containerId: uuid('container_id')
      .notNull()
      .references(() => containers.id, { onDelete: 'cascade' }),
    versionNumber: integer('version_number').notNull(),
    how: text('how').$type<Use>().notNull(),
    by: uuid('by')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.teamId, t.containerId] }), index('uses_container').on(t.containerId)],
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
    /** As it is stored; what is only sent is compressed once. */
    encoding: text('encoding').$type<Encoding>().notNull().default(''),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.product] }), index('products_sha256').on(t.sha256)],
);

/** Whoever writes to an upload, on whichever node; one that stopped renewing it has lost it. */
export const uploadLocks = pgTable('upload_locks', {
  id: text('id').primaryKey(),
  holder: uuid('holder').notNull(),
  until: moment('until').notNull(),
  /** Somebody else waits: the holder may be a connection that nobody is behind any more. */
  asked: boolean('asked').notNull().default(false),
});

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
    /** What it is sent for: `delivery` waits on the upload desk, all else for the place that asked for it. */
    purpose: text('purpose').$type<UploadPurpose>().notNull().default('delivery'),
    createdAt: moment('created_at').notNull(),
  },
  (t) => [index('uploads_user').on(t.userId)],
);

/** The sheets of a drawing, as preparation found them and people confirmed them: a share set chooses by their numbers. */
/** Title blocks that somebody corrected: sheets that have the same are read so from then on. */
export const titleBlockLayouts = pgTable(
  'title_block_layouts',
  {
    id: primaryId(),
    projectId: project(),
    layout: jsonb('layout').$type<TaughtLayout>().notNull(),
    /** The sheet from which it was taught. */
    sheet: text('sheet').notNull(),
    taughtBy: uuid('taught_by')
      .notNull()
      .references(() => users.id),
    taughtAt: moment('taught_at').notNull(),
  },
  (t) => [index('title_block_layouts_project').on(t.projectId, t.taughtAt)],
);

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
    recognition: text('recognition').$type<Recognition>().notNull().default('none'),
    /** What a recogniser takes the title block for: counts for nothing until somebody has looked at it. */
    proposed: jsonb('proposed').$type<TitleBlock>(),
    recognisedTexts: jsonb('recognised_texts').$type<VectorText[]>(),
    width: real('width').notNull(),
    height: real('height').notNull(),
    /** All words on the sheet, in the order of the file. */
    text: text('text').notNull().default(''),
    words: tsvector('words').generatedAlwaysAs(sql`to_tsvector('simple', text)`),
  },
  (t) => [
    unique('sheets_page').on(t.versionId, t.page),
    index('sheets_number').on(t.number),
    index('sheets_words').using('gin', t.words),
  ],
);
