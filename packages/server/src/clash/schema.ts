import type { ClashCounts, RUN_STATUSES } from '@kindred/contract/clash/clashes';
import type { ClashKind, ClashRule, TakenPart } from '@kindred/core/clash/rule';
import type { ClashElement, RuledClash } from '@kindred/core/clash/run-rule';
import type { ClashState } from '@kindred/core/clash/states';
import type { Point } from '@kindred/core/scene/pick';
import {
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { federations } from '../federation/schema.ts';
import { users } from '../identity/schema.ts';
import { issues } from '../issues/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';
import { containers, versions } from '../register/schema.ts';

const rule = () =>
  uuid('rule_id')
    .notNull()
    .references(() => clashRules.id, { onDelete: 'cascade' });
const version = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => versions.id, { onDelete: 'cascade' });
const container = (name: string) =>
  uuid(name)
    .notNull()
    .references(() => containers.id, { onDelete: 'cascade' });

export const clashRules = pgTable(
  'clash_rules',
  {
    id: primaryId(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    federationId: uuid('federation_id')
      .notNull()
      .references(() => federations.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    definition: jsonb('definition').$type<ClashRule>().notNull(),
    /** Numbers that its clashes, groups and runs got. */
    lastClash: integer('last_clash').notNull().default(0),
    lastGroup: integer('last_group').notNull().default(0),
    lastRun: integer('last_run').notNull().default(0),
    byId: uuid('by_id')
      .notNull()
      .references(() => users.id),
    at: moment('at').notNull(),
    edition: edition(),
  },
  (t) => [unique('clash_rules_name').on(t.federationId, t.name), index('clash_rules_project').on(t.projectId)],
);

export const clashRuns = pgTable(
  'clash_runs',
  {
    id: primaryId(),
    ruleId: rule(),
    /** The later, the higher. */
    number: integer('number').notNull(),
    status: text('status').$type<(typeof RUN_STATUSES)[number]>().notNull(),
    /** Of the models that took part. */
    versionIds: uuid('version_ids').array().notNull().default([]),
    pairs: integer('pairs').notNull().default(0),
    done: integer('done').notNull().default(0),
    note: text('note').notNull().default(''),
    counts: jsonb('counts').$type<ClashCounts>(),
    askedAt: moment('asked_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [unique('clash_runs_number').on(t.ruleId, t.number)],
);

/** What a rule found in two models, or in one: as long as neither changes, it is not looked for again. */
export const clashPairs = pgTable(
  'clash_pairs',
  {
    ruleId: rule(),
    /** Of the rule: another rule finds something else. */
    fingerprint: text('fingerprint').notNull(),
    aVersionId: version('a_version_id'),
    bVersionId: version('b_version_id'),
    clashes: jsonb('clashes').$type<RuledClash[]>().notNull(),
    /** Of the two models, or of the one. */
    taken: jsonb('taken').$type<TakenPart[]>().notNull().default([]),
    at: moment('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.ruleId, t.fingerprint, t.aVersionId, t.bVersionId] })],
);

/** Clashes that have one cause. */
export const clashGroups = pgTable(
  'clash_groups',
  {
    id: primaryId(),
    ruleId: rule(),
    number: integer('number').notNull(),
    name: text('name').notNull(),
  },
  (t) => [unique('clash_groups_number').on(t.ruleId, t.number)],
);

export const clashes = pgTable(
  'clashes',
  {
    id: primaryId(),
    ruleId: rule(),
    number: integer('number').notNull(),
    groupId: uuid('group_id')
      .notNull()
      .references(() => clashGroups.id, { onDelete: 'cascade' }),
    state: text('state').$type<ClashState>().notNull(),
    kind: text('kind').$type<ClashKind>().notNull(),
    a: jsonb('a').$type<ClashElement>().notNull(),
    b: jsonb('b').$type<ClashElement>().notNull(),
    aContainerId: container('a_container_id'),
    bContainerId: container('b_container_id'),
    /** In which it was last found. */
    aVersionId: version('a_version_id'),
    bVersionId: version('b_version_id'),
    depth: doublePrecision('depth'),
    gap: doublePrecision('gap'),
    at: jsonb('at').$type<Point>().notNull(),
    since: moment('since').notNull(),
    /** Since when it is not there any more. */
    goneAt: moment('gone_at'),
    acceptedBy: uuid('accepted_by').references(() => users.id),
    acceptedAt: moment('accepted_at'),
    acceptedReason: text('accepted_reason').notNull().default(''),
    acceptedUntil: date('accepted_until'),
    assigneeId: uuid('assignee_id').references(() => users.id),
    issueId: uuid('issue_id').references(() => issues.id, { onDelete: 'set null' }),
  },
  (t) => [
    unique('clashes_number').on(t.ruleId, t.number),
    index('clashes_issue').on(t.issueId),
    index('clashes_group').on(t.groupId),
  ],
);
