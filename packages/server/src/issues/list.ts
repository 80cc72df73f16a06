/** Lists of issues, and how many there are of what. */
import type { Issue, IssueFilters, IssueGroup, IssueGroupBy, IssueSort } from '@kindred/contract/issues/issues';
import { ISSUE_STATUSES } from '@kindred/core/issues/states';
import { and, getTableColumns, sql, type SQL } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { page, pageBy, type PageAsked } from '../platform/keyset.ts';
import { issuesFitting, orderOf } from './filter.ts';
import { answeringTeam } from './responsible.ts';
import { toIssues } from './rows.ts';
import { issues } from './schema.ts';
import { settingsOf } from './settings.ts';

type Asked = PageAsked & IssueFilters & { sort?: IssueSort; descending?: boolean };

/** The newest first where no order is asked for. */
export async function listIssues(
  { db }: { db: Db },
  actor: Member,
  { sort = 'number', descending = sort === 'number', limit, after, ...filters }: Asked,
): Promise<{ items: Issue[]; next: string | null }> {
  const settings = await settingsOf(db, actor.projectId);
  const asked = { ...(limit && { limit }), ...(after !== undefined && { after }) };
  const order = pageBy(orderOf(sort, descending, settings), issues.id, descending, asked);
  const rows = await db
    .select({ ...getTableColumns(issues), position: order.position })
    .from(issues)
    .where(and(issuesFitting(actor, filters), order.where))
    .orderBy(...order.orderBy)
    .limit(order.limit + 1);
  const { items, next } = page(rows, order.limit, (row) => [row.position, row.id]);
  return { items: await toIssues(db, items), next };
}

const GROUPED: Record<IssueGroupBy, { value: SQL; from?: SQL }> = {
  status: { value: sql`${issues.status}` },
  type: { value: sql`${issues.type}` },
  priority: { value: sql`${issues.priority}` },
  responsible: { value: sql`coalesce(${issues.assigneeId}, ${issues.assigneeTeamId}, ${issues.assigneeRoleId})::text` },
  team: { value: sql`(${answeringTeam})::text` },
  label: { value: sql`label`, from: sql`left join lateral unnest(${issues.labels}) label on true` },
  raisedBy: { value: sql`${issues.authorId}::text` },
};

/** The names of ids are those of people, teams and roles. */
export async function groupIssues(
  { db }: { db: Db },
  actor: Member,
  { by, ...filters }: IssueFilters & { by: IssueGroupBy },
): Promise<IssueGroup[]> {
  const { value, from = sql`` } = GROUPED[by];
  const { rows } = await db.execute(
    sql`select ${value} as value, count(*)::int as count from ${issues} ${from} where ${issuesFitting(actor, filters)} group by 1`,
  );
  const found = rows as { value: string | null; count: number }[];
  const names = ['responsible', 'team', 'raisedBy'].includes(by)
    ? await namesOf(
        db,
        found.flatMap(({ value }) => value ?? []),
      )
    : new Map();
  const order = await orderOfGroups(db, actor, by);
  return found
    .map(({ value, count }) => ({ value: value ?? '', label: String(names.get(value ?? '') ?? value ?? ''), count }))
    .sort((a, b) => order(a.value) - order(b.value) || a.label.localeCompare(b.label, 'en'));
}

async function namesOf(db: Db, ids: readonly string[]): Promise<Map<string, string>> {
  const persons = await personsById(db, ids);
  const { rows } = await db.execute(
    sql`select id, name from teams where id = any(${sql.param([...ids])}::uuid[]) union all select id, name from roles where id = any(${sql.param([...ids])}::uuid[])`,
  );
  const others = (rows as { id: string; name: string }[]).map(({ id, name }) => [id, name] as const);
  return new Map([...[...persons].map(([id, { name }]) => [id, name] as const), ...others]);
}

/** What stands for none comes last; the most pressing priority first. */
async function orderOfGroups(db: Db, { projectId }: Member, by: IssueGroupBy): Promise<(value: string) => number> {
  const { types, priorities, labels } = await settingsOf(db, projectId);
  const known: readonly string[] = {
    status: [...ISSUE_STATUSES],
    type: types.map(({ name }) => name),
    priority: priorities.map(({ name }) => name).reverse(),
    label: labels,
    responsible: [],
    team: [],
    raisedBy: [],
  }[by];
  return (value) => {
    if (value === '') return known.length + 1;
    const place = known.indexOf(value);
    return place < 0 ? known.length : place;
  };
}
