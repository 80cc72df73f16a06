import type { Grid } from '@kindred/core/people/rights';
import type { WorkArea } from '@kindred/core/people/rights';
import { boolean, index, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import { users } from '../identity/schema.ts';
import { edition, moment, primaryId } from '../platform/columns.ts';
import { projects } from '../portfolio/schema.ts';

const project = () =>
  uuid('project_id')
    .notNull()
    .references(() => projects.id, { onDelete: 'cascade' });

export const parties = pgTable(
  'parties',
  { id: primaryId(), projectId: project(), name: text('name').notNull(), code: text('code').notNull() },
  (t) => [unique('parties_code').on(t.projectId, t.code)],
);
export const teams = pgTable(
  'teams',
  {
    id: primaryId(),
    projectId: project(),
    name: text('name').notNull(),
    discipline: text('discipline').notNull(),
    colour: text('colour').notNull(),
    leadId: uuid('lead_id').references(() => users.id),
    /** A folder of the register; the register's own table refers to teams, so no key can be declared here. */
    homeFolderId: uuid('home_folder_id'),
  },
  (t) => [unique('teams_name').on(t.projectId, t.name)],
);
export const roles = pgTable(
  'roles',
  {
    id: primaryId(),
    projectId: project(),
    name: text('name').notNull(),
    grid: jsonb('grid').$type<Grid>().notNull(),
    edition: edition(),
  },
  (t) => [unique('roles_name').on(t.projectId, t.name)],
);
export const members = pgTable(
  'members',
  {
    id: primaryId(),
    projectId: project(),
    userId: uuid('user_id')
      .notNull()
      .references(() => users.id),
    partyId: uuid('party_id').references(() => parties.id),
    teamId: uuid('team_id').references(() => teams.id),
    administrator: boolean('administrator').notNull().default(false),
    addedAt: moment('added_at').notNull(),
    /** The name that somebody was added with who has an account already: shown until they come, so that an address tells nobody whose it is. */
    addedAs: text('added_as'),
    lastVisitAt: moment('last_visit_at'),
    /** Stages that the person works in; null for all. */
    workAreas: jsonb('work_areas').$type<WorkArea[]>(),
    leftAt: moment('left_at'),
  },
  (t) => [unique('members_user').on(t.projectId, t.userId), index('members_by_user').on(t.userId)],
);
export const memberRoles = pgTable(
  'member_roles',
  {
    memberId: uuid('member_id')
      .notNull()
      .references(() => members.id, { onDelete: 'cascade' }),
    roleId: uuid('role_id')
      .notNull()
      .references(() => roles.id),
  },
  (t) => [primaryKey({ columns: [t.memberId, t.roleId] })],
);
