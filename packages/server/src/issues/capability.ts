import { STARTER_ISSUE_SETTINGS } from '@kindred/core/issues/settings';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { eq, ilike, sql, type SQL } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { waitingRows, type Link, type Subject, type WaitingRow } from '../platform/subjects.ts';
import { receiveLetter } from './by-mail.ts';
import { passOnIssues, passTeamIssuesOn } from './passing-on.ts';
import { issueReport } from './report.ts';
import { answersIssue, verifiesIssue } from './responsible.ts';
import { issueRoutes } from './routes.ts';
import { issues } from './schema.ts';
import { issueTemplate } from './settings.ts';
import { answerByNumbers } from './ties.ts';
import { issueVisibleTo } from './visibility.ts';

/** Kinds of things that an issue may be about, beside those that it has places for. */
const SUBJECTS_TIED = ['container', 'clash rule', 'comparison', 'review', 'transmittal', 'federation', 'sheet'];

/** Over issues `i`: its priority is one that blocks, as its project has decided. */
const isBlocking = sql.raw(`case when exists (select 1 from issue_settings s where s.project_id = i.project_id)
  then exists (select 1 from issue_settings s, jsonb_array_elements(s.settings -> 'priorities') p
    where s.project_id = i.project_id and p ->> 'name' = i.priority and (p ->> 'blocks')::boolean)
  else i.priority in (${STARTER_ISSUE_SETTINGS.priorities.flatMap(({ name, blocks }) => (blocks ? `'${name}'` : [])).join()}) end`);

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
    ...SUBJECTS_TIED.map((to): Link => ({
      to,
      touches: (ids) =>
        sql`exists (select 1 from issue_things tied where tied.issue_id = ${issues.id} and tied.type = ${to}::text and tied.thing_id = any(${ids}))`,
      idsOf: (id) => sql`select thing_id from issue_things where issue_id = ${id} and type = ${to}::text`,
    })),
    {
      to: 'issue',
      touches: (ids) =>
        sql`exists (select 1 from issue_relations r where (r.issue_id = ${issues.id} and r.other_id = any(${ids})) or (r.other_id = ${issues.id} and r.issue_id = any(${ids})))`,
      idsOf: (id) =>
        sql`select other_id from issue_relations where issue_id = ${id} union all select issue_id from issue_relations where other_id = ${id}`,
    },
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
        sql`(${issues.placeVersionId} = any(${ids}) or exists (select 1 from viewpoints seen where seen.id = ${issues.viewpointId} and seen.version_ids && ${ids})
          or exists (select 1 from issue_answers a where a.issue_id = ${issues.id} and a.version_id = any(${ids}))
          or exists (select 1 from issue_elements e where e.issue_id = ${issues.id} and e.version_id = any(${ids}))
          or exists (select 1 from issue_comments c join issue_comment_documents d on d.comment_id = c.id where c.issue_id = ${issues.id} and d.version_id = any(${ids})))`,
      idsOf: (id) => sql`select place_version_id from issues where id = ${id} and place_version_id is not null
        union all select unnest(p.version_ids) from issues i join viewpoints p on p.id = i.viewpoint_id where i.id = ${id}
        union all select version_id from issue_answers where issue_id = ${id}
        union all select version_id from issue_elements where issue_id = ${id}
        union all select d.version_id from issue_comments c join issue_comment_documents d on d.comment_id = c.id where c.issue_id = ${id}`,
    },
  ],
  /** Whoever is responsible has to answer; whoever verifies it, to close what was answered. */
  waiting: (member) => [
    waitingIssues(
      member,
      'waiting for me',
      sql`${issues.priority} || ', ' || case when ${issues.status} = 'answered' then 'answered, to verify' else ${issues.status} end`,
      sql`((${answersIssue(member)} and ${issues.status} <> 'answered') or (${verifiesIssue(member)} and ${issues.status} = 'answered'))`,
    ),
    waitingIssues(
      member,
      'mine',
      sql`'raised by me, ' || ${issues.status}`,
      sql`${issues.authorId} = ${member.id} and not ${answersIssue(member)} and (${issues.status} <> 'answered' or not ${verifiesIssue(member)})`,
    ),
  ],
};

export const issuesCapability: Capability = {
  name: 'issues',
  routes: issueRoutes,
  blobs: [sql`select sha256 from issue_pictures`, sql`select sha256 from issue_comment_pictures`],
  template: issueTemplate,
  longJobs: [issueReport],
  subjects: [issue],
  received: receiveLetter,
  answered: answerByNumbers,
  passTeamOn: passTeamIssuesOn,
  passOn: async (unit, leaving) => ({ issues: await passOnIssues(unit, leaving) }),
  /** Open issues of a priority that blocks on a sheet of a version, or in a viewpoint with it. */
  blockers: (versionIds) => sql`
    select v.id as version_id, i.number from unnest(${versionIds}) v(id)
    join issues i on i.status in ${pending} and ${isBlocking}
     and (i.place_version_id = v.id or exists (select 1 from viewpoints p where p.id = i.viewpoint_id and v.id = any(p.version_ids)))`,
};
