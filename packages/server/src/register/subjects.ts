/** What the register says of its things to those who list things of all kinds. */
import { sql, type SQL } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { hasWords } from './sheets.ts';
import { waitingRows, type Subject } from '../platform/subjects.ts';
import { matches } from './entries.ts';
import { rangesWith } from './levels.ts';
import { containers, entries, folders, shareSets, sheets, versions } from './schema.ts';
import { manages, seesPage, versionVisibleTo, visibleTo } from './visibility.ts';

const SEE = { kind: 'register', action: 'see' } as const;

const container: Subject = {
  type: 'container',
  right: SEE,
  from: sql`${entries}`,
  id: sql`${entries.containerId}`,
  title: sql`${entries.code}`,
  note: sql`case when ${entries.atIntake} then ${entries.title} || ' (at the intake)' else ${entries.title} end`,
  path: sql`'containers/' || ${entries.containerId}`,
  at: sql`${entries.deliveredAt}`,
  inProject: (projectId) => sql`${entries.projectId} = ${projectId}`,
  visibleTo,
  search: (words) => ({
    where: matches(words),
    best: sql`similarity(${entries.code} || ' ' || ${entries.title}, ${words}) desc, ${entries.code}`,
  }),
  waiting: (member) => [reservedBy(member), atIntakeBy(member), ...conflictsOf(member), ...intakeOf(member)],
};

const inRegister = ({ projectId }: Member): SQL =>
  sql`from entries e where e.project_id = ${projectId} and e.audience <> 'others'`;
const toContainer = sql`'containers/' || e.container_id`;

const reservedBy = (member: Member): SQL =>
  waitingRows({
    pile: 'mine',
    type: 'reservation',
    id: sql`e.container_id`,
    title: sql`e.code`,
    note: sql`'reserved by me'`,
    path: toContainer,
    at: sql`e.reserved_at`,
    of: sql`${inRegister(member)} and e.reserved_by = ${member.id}`,
  });

const atIntakeBy = (member: Member): SQL =>
  waitingRows({
    pile: 'mine',
    type: 'intake',
    id: sql`e.container_id`,
    title: sql`e.code`,
    note: sql`'at the intake: its name does not conform'`,
    path: toContainer,
    at: sql`e.delivered_at`,
    of: sql`${inRegister(member)} and e.at_intake and e.delivered_by = ${member.id}`,
  });

/** Conflicting versions wait for the team that delivered them. */
const conflictsOf = (member: Member): SQL[] =>
  member.teamId
    ? [
        waitingRows({
          pile: 'waiting for me',
          type: 'decision',
          id: sql`e.container_id`,
          title: sql`e.code`,
          note: sql`'two versions, one to go on with'`,
          path: toContainer,
          at: sql`e.delivered_at`,
          of: sql`${inRegister(member)} and e.conflicting > 0 and e.team_id = ${member.teamId}`,
        }),
      ]
    : [];

/** Files at the intake wait for whoever manages the register, all in one line. */
const intakeOf = (member: Member): SQL[] =>
  manages(member)
    ? [
        waitingRows({
          pile: 'waiting for me',
          type: 'intake',
          id: sql`${member.projectId}`,
          title: sql`count(*) || case when count(*) = 1 then ' file' else ' files' end || ' at the intake'`,
          note: sql`'names to repair'`,
          path: sql`'intake'`,
          at: sql`max(e.delivered_at)`,
          things: sql`count(*)`,
          of: sql`${inRegister(member)} and e.at_intake having count(*) > 0`,
        }),
      ]
    : [];

const version: Subject = {
  type: 'version',
  right: SEE,
  from: sql`${versions} join ${containers} on ${containers.id} = ${versions.containerId} join ${users} on ${users.id} = ${versions.deliveredBy}`,
  id: sql`${versions.id}`,
  title: sql`${containers.code}`,
  note: sql`concat_ws(' · ', 'version ' || ${versions.number}, nullif(${versions.revision}, ''), nullif(${versions.title}, ''))`,
  path: sql`'containers/' || ${versions.containerId} || '?version=' || ${versions.number}`,
  at: sql`${versions.deliveredAt}`,
  inProject: (projectId) => sql`${versions.projectId} = ${projectId}`,
  visibleTo: versionVisibleTo,
  asPart: {
    of: 'container',
    title: sql`concat_ws(' · ', 'Version ' || ${versions.number}, nullif(${versions.revision}, ''))`,
    note: sql`'Delivered by ' || ${users.name}`,
  },
  links: [
    {
      to: 'container',
      touches: (ids) => sql`${versions.containerId} = any(${ids})`,
      idsOf: (id) => sql`select container_id from versions where id = ${id}`,
    },
  ],
};

const sheet: Subject = {
  type: 'sheet',
  right: SEE,
  from: sql`${sheets} join ${entries} on ${entries.versionId} = ${sheets.versionId}`,
  id: sql`${sheets.id}`,
  title: sql`${sheets.label}`,
  note: sql`${entries.code}`,
  path: sql`'sheets/' || ${entries.containerId} || '?page=' || ${sheets.page}`,
  at: sql`${entries.deliveredAt}`,
  inProject: (projectId) => sql`${entries.projectId} = ${projectId}`,
  visibleTo: (member) =>
    sql`${visibleTo(member)} and ${seesPage(member, sql`${sheets.versionId}`, sql`${sheets.page}`)}`,
  search: (words) => ({
    where: sql`(${sheets.confirmed} and ${sheets.label} ilike ${containing(words)} or ${hasWords(words)})`,
    best: sql`${sheets.label} ilike ${containing(words)} desc, ${entries.code}, ${sheets.page}`,
  }),
};

const folder: Subject = {
  type: 'folder',
  right: SEE,
  from: sql`${folders}`,
  id: sql`${folders.id}`,
  title: sql`${folders.path}`,
  note: sql`''`,
  path: sql`'folders/' || ${folders.id}`,
  at: sql`now()`,
  inProject: (projectId) => sql`${folders.projectId} = ${projectId}`,
  visibleTo: (member) => sql`not ${folders.first} <@ ${rangesWith(member, 'hidden')}::int4multirange`,
};

const shareSet: Subject = {
  type: 'share set',
  right: { kind: 'register', action: 'change' },
  from: sql`${shareSets}`,
  id: sql`${shareSets.id}`,
  title: sql`${shareSets.name}`,
  note: sql`''`,
  path: sql`'share-sets'`,
  at: sql`now()`,
  inProject: (projectId) => sql`${shareSets.projectId} = ${projectId}`,
  visibleTo: (member) => (manages(member) ? undefined : sql`${shareSets.teamId} = ${member.teamId}::uuid`),
};

export const registerSubjects: readonly Subject[] = [container, version, sheet, folder, shareSet];
