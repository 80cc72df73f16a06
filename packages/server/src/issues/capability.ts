import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { eq, ilike, sql, type SQL } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { waitingRows, type Subject, type WaitingRow } from '../platform/subjects.ts';
import { passOnIssues } from './passing-on.ts';
import { issueRoutes } from './routes.ts';
import { issues } from './schema.ts';
import { issueVisibleTo } from './visibility.ts';

const pending = sql.raw(`(${PENDING_ISSUE_STATUSES.map((status) => `'${status}'`).join()})`);

const waitingIssues = (member: Member, pile: WaitingRow['pile'], note: SQL, which: SQL): SQL =>
  waitingRows({
    pile,
    type: 'issue',
    id: sql`${issues.id}`,
    title: sql`${issues.number} || ' ' || ${issues.title}`,
    note,
    path: sql`'issues/' || ${issues.id}`,
    dueOn: sql`${issues.dueOn}`,
    at: sql`${issues.updatedAt}`,
    of: sql`from ${issues} where ${issues.projectId} = ${member.projectId} and ${issues.status} in ${pending} and ${which} and ${issueVisibleTo(member)}`,
  });

const issue: Subject = {
  type: 'issue',
  keeps: true,
  right: { kind: 'issues', action: 'see' },
  from: sql`${issues}`,
  id: sql`${issues.id}`,
  title: sql`${issues.number} || ' ' || ${issues.title}`,
  note: sql`'Issue, ' || ${issues.status}`,
  path: sql`'issues/' || ${issues.id}`,
  at: sql`${issues.updatedAt}`,
  inProject: (projectId) => sql`${issues.projectId} = ${projectId}`,
  visibleTo: issueVisibleTo,
  search(words) {
    const number = /^#?(\d{1,9})$/.exec(words)?.[1];
    return {
      where: number ? eq(issues.number, Number(number)) : ilike(issues.title, containing(words)),
      best: sql`${issues.number} desc`,
    };
  },
  links: [
    {
      to: 'markup',
      touches: (ids) => sql`${issues.markupId} = any(${ids})`,
      idsOf: (id) => sql`select markup_id from issues where id = ${id} and markup_id is not null`,
    },
    {
      to: 'viewpoint',
      touches: (ids) => sql`${issues.viewpointId} = any(${ids})`,
      idsOf: (id) => sql`select viewpoint_id from issues where id = ${id}`,
    },
    {
      to: 'version',
      touches: (ids) =>
        sql`(${issues.placeVersionId} = any(${ids}) or exists (select 1 from viewpoints seen where seen.id = ${issues.viewpointId} and seen.version_ids && ${ids}))`,
      idsOf: (id) => sql`select place_version_id from issues where id = ${id} and place_version_id is not null
        union all select unnest(p.version_ids) from issues i join viewpoints p on p.id = i.viewpoint_id where i.id = ${id}`,
    },
  ],
  /** Whoever is responsible has to answer; whoever raised it, to close what was answered. */
  waiting: (member) => [
    waitingIssues(
      member,
      'waiting for me',
      sql`${issues.priority} || ', ' || ${issues.status}`,
      sql`((${issues.assigneeId} = ${member.id} and ${issues.status} <> 'answered') or (${issues.authorId} = ${member.id} and ${issues.status} = 'answered'))`,
    ),
    waitingIssues(
      member,
      'mine',
      sql`'raised by me, ' || ${issues.status}`,
      sql`${issues.authorId} = ${member.id} and ${issues.assigneeId} is distinct from ${member.id} and ${issues.status} <> 'answered'`,
    ),
  ],
};

export const issuesCapability: Capability = {
  name: 'issues',
  routes: issueRoutes,
  blobs: [sql`select sha256 from issue_pictures`],
  subjects: [issue],
  passOn: async (unit, leaving) => ({ issues: await passOnIssues(unit, leaving) }),
  /** Open issues of priority “blocking” on a sheet of a version, or in a viewpoint with it. */
  blockers: (versionIds) => sql`
    select v.id as version_id, i.number from unnest(${versionIds}) v(id)
    join issues i on i.priority = 'blocking' and i.status in ${pending}
     and (i.place_version_id = v.id or exists (select 1 from viewpoints p where p.id = i.viewpoint_id and v.id = any(p.version_ids)))`,
};
