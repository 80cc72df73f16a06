/** What charts of issues are drawn from, under the filters of the list. */
import { ISSUE_AGES, type IssueFigures } from '@kindred/contract/issues/figures';
import type { IssueFilters } from '@kindred/contract/issues/issues';
import { sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';
import { isOverdue, isPending, issuesFitting, today } from './filter.ts';
import { answeringTeam } from './responsible.ts';
import { issues } from './schema.ts';

const SHOWN_WEEKS = 12;

export async function showIssueFigures({ db }: Platform, actor: Member, filters: IssueFilters): Promise<IssueFigures> {
  const fitting = issuesFitting(actor, filters);
  const rows = async <T>(query: ReturnType<typeof sql>): Promise<T[]> => (await db.execute(query)).rows as T[];
  const teams = await rows<IssueFigures['teams'][number]>(sql`
    select t.id as "teamId", coalesce(t.name, '') as name, count(*) filter (where i.status = 'open')::int as open,
      count(*) filter (where i.status = 'in hand')::int as "inHand", count(*) filter (where i.status = 'answered')::int as answered,
      count(*) filter (where i.overdue)::int as overdue
    from (select ${answeringTeam} as team_id, ${issues.status} as status, ${isOverdue()} as overdue from ${issues} where ${fitting} and ${isPending}) i
    left join teams t on t.id = i.team_id group by t.id, t.name order by count(*) desc, t.name`);
  const ages = await rows<{ age: number; n: number }>(sql`
    select ${today()}::date - ${issues.createdAt}::date as age, count(*)::int as n from ${issues} where ${fitting} and ${isPending} group by 1`);
  const weeks = await rows<IssueFigures['weeks'][number]>(sql`
    with fitting as materialized (select ${issues.createdAt} as raised, case when ${issues.status} = 'void' then ${issues.updatedAt} else ${issues.closedAt} end as closed
      from ${issues} where ${fitting}),
    weeks as (select monday::date, (monday + interval '6 days')::date as sunday
      from generate_series(date_trunc('week', ${today()}::date) - interval '1 week' * ${SHOWN_WEEKS - 1}, date_trunc('week', ${today()}::date), interval '1 week') monday)
    select monday::text as "from", sunday::text as "to",
      (select count(*)::int from fitting where raised >= monday and raised < sunday + 1) as raised,
      (select count(*)::int from fitting where closed >= monday and closed < sunday + 1) as closed,
      (select count(*)::int from fitting where raised < sunday + 1 and (closed is null or closed >= sunday + 1)) as open
    from weeks order by monday`);
  const answers = await rows<IssueFigures['answers'][number]>(sql`
    select coalesce(p.name, '') as company, count(*)::int as issues,
      round(percentile_cont(0.5) within group (order by extract(epoch from i.answered - i.raised) / 86400)::numeric, 1)::float as "medianDays"
    from (select ${issues.answeredBy} as by, ${issues.answeredAt} as answered, ${issues.createdAt} as raised, ${issues.projectId} as project_id
      from ${issues} where ${fitting} and ${issues.answeredAt} is not null) i
    left join members m on m.user_id = i.by and m.project_id = i.project_id left join parties p on p.id = m.party_id
    group by 1 order by 3 desc`);
  return { teams, ages: grouped(ages), weeks, answers };
}

const dayBefore = (days: number): string =>
  new Date(Date.parse(today()) - days * 86_400_000).toISOString().slice(0, 10);

function grouped(found: readonly { age: number; n: number }[]): IssueFigures['ages'] {
  return ISSUE_AGES.map((days, i) => {
    const after = i ? ISSUE_AGES[i - 1]! : -1;
    const count = found
      .filter(({ age }) => age > after && (days === null || age <= days))
      .reduce((sum, { n }) => sum + n, 0);
    return {
      ...{ days, count },
      raisedFrom: days === null ? null : dayBefore(days),
      raisedTo: dayBefore(after + 1),
    };
  });
}
