/** Which issues a list is narrowed to, and in which order they stand. */
import { IssueFilters, type IssueSort } from '@kindred/contract/issues/issues';
import type { IssueSettings } from '@kindred/core/issues/settings';
import { ISSUE_STATUSES, PENDING_ISSUE_STATUSES, type IssueStatus } from '@kindred/core/issues/states';
import { Type } from '@sinclair/typebox';
import { and, eq, gte, ilike, inArray, or, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import type { OrderedBy } from '../platform/keyset.ts';
import { containing } from '../platform/like.ts';
import { uuids } from '../platform/subjects.ts';
import { compileText } from '../platform/validation.ts';
import { answeringTeam, answersIssue, verifiesIssue } from './responsible.ts';
import { issues } from './schema.ts';
import { issueVisibleTo } from './visibility.ts';

const wrongFilters = compileText(Type.Object(IssueFilters));
/** The filters that stand in the address of a list; undefined where one of them says nothing that can be asked. */
export function filtersFrom(query: Readonly<Record<string, string>>): IssueFilters | undefined {
  const filters = Object.fromEntries(Object.entries(query).filter(([name]) => name in IssueFilters));
  return wrongFilters(filters) ? undefined : (filters as IssueFilters);
}

const several = (values: string | undefined): string[] | undefined => values?.split(',');
const oneOf = (column: PgColumn, values: string | undefined): SQL | undefined =>
  values === undefined ? undefined : inArray(column, several(values)!);

export const today = (): string => now().toISOString().slice(0, 10);
export const isPending: SQL = inArray(issues.status, [...PENDING_ISSUE_STATUSES]);
export const isOverdue = (): SQL => sql`(${issues.dueOn} < ${today()}::date and ${isPending})`;

/** Ids, `me` and `nobody`, each asked in its own way. */
function whom(values: string | undefined, ask: { me: SQL; nobody: SQL; ids: (ids: SQL) => SQL }): SQL | undefined {
  const wanted = several(values);
  if (!wanted) return undefined;
  const ids = wanted.filter((one) => one !== 'me' && one !== 'nobody');
  return or(
    wanted.includes('me') ? ask.me : undefined,
    wanted.includes('nobody') ? ask.nobody : undefined,
    ids.length ? ask.ids(uuids(ids)) : undefined,
  );
}

function labelled(values: string | undefined): SQL | undefined {
  const wanted = several(values);
  if (!wanted) return undefined;
  const named = wanted.filter((one) => one !== '-');
  return or(
    wanted.includes('-') ? sql`${issues.labels} = '{}'` : undefined,
    named.length ? sql`${issues.labels} && ${sql.param(named)}::text[]` : undefined,
  );
}

function withWords(q: string | undefined): SQL | undefined {
  const words = q?.trim();
  if (!words) return undefined;
  const number = /^#?(\d{1,9})$/.exec(words)?.[1];
  return or(
    number ? eq(issues.number, Number(number)) : undefined,
    ilike(issues.title, containing(words)),
    ilike(issues.description, containing(words)),
  );
}

const part = (actor: Member, wanted: IssueFilters['part']): SQL | undefined => {
  switch (wanted) {
    case 'answer':
      return and(inArray(issues.status, ['open', 'in hand']), answersIssue(actor));
    case 'verify':
      return and(eq(issues.status, 'answered'), verifiesIssue(actor));
    case 'watch':
      return sql`exists (select 1 from issue_watchers w where w.issue_id = ${issues.id} and w.user_id = ${actor.id})`;
    case undefined:
      return undefined;
  }
};

/** Its place lies on one of these versions, or in a viewpoint that shows one of them. */
const liesOn = (versionIds: SQL): SQL =>
  sql`(${issues.placeVersionId} = any((${versionIds})::uuid[])
    or exists (select 1 from viewpoints seen where seen.id = ${issues.viewpointId} and seen.version_ids && (${versionIds})::uuid[]))`;

/** Over issues: those that the actor sees and that fit. */
export const issuesFitting = (actor: Member, filters: IssueFilters): SQL =>
  and(
    eq(issues.projectId, actor.projectId),
    oneOf(issues.status, filters.status),
    oneOf(issues.type, filters.type),
    oneOf(issues.priority, filters.priority),
    labelled(filters.label),
    whom(filters.responsible, {
      me: answersIssue(actor),
      nobody: sql`num_nonnulls(${issues.assigneeId}, ${issues.assigneeTeamId}, ${issues.assigneeRoleId}) = 0`,
      ids: (ids) =>
        sql`coalesce(${issues.assigneeId}, ${issues.assigneeTeamId}, ${issues.assigneeRoleId}) = any(${ids})`,
    }),
    whom(filters.team, {
      me: sql`${answeringTeam} = ${actor.teamId}::uuid`,
      nobody: sql`${answeringTeam} is null`,
      ids: (ids) => sql`${answeringTeam} = any(${ids})`,
    }),
    whom(filters.raisedBy, {
      me: eq(issues.authorId, actor.id),
      nobody: sql`false`,
      ids: (ids) => sql`${issues.authorId} = any(${ids})`,
    }),
    whom(filters.verifier, {
      me: verifiesIssue(actor),
      nobody: sql`${issues.verifierId} is null`,
      ids: (ids) => sql`${issues.verifierId} = any(${ids})`,
    }),
    part(actor, filters.part),
    filters.dueFrom ? gte(issues.dueOn, filters.dueFrom) : undefined,
    filters.dueTo ? sql`${issues.dueOn} <= ${filters.dueTo}::date` : undefined,
    filters.overdue ? isOverdue() : undefined,
    filters.raisedFrom ? sql`${issues.createdAt} >= ${filters.raisedFrom}::date` : undefined,
    filters.raisedTo ? sql`${issues.createdAt} < ${filters.raisedTo}::date + 1` : undefined,
    filters.changedFrom ? sql`${issues.updatedAt} >= ${filters.changedFrom}::timestamptz` : undefined,
    filters.versionId ? liesOn(uuids([filters.versionId])) : undefined,
    filters.containerId
      ? liesOn(sql`(select coalesce(array_agg(id), '{}') from versions where container_id = ${filters.containerId})`)
      : undefined,
    filters.markupId
      ? sql`${issues.markupId} in (select id from markups where thread_id = (select thread_id from markups where id = ${filters.markupId}))`
      : undefined,
    withWords(filters.q),
    issueVisibleTo(actor),
  )!;

const rank = (column: PgColumn, order: readonly string[]): OrderedBy => ({
  value: sql`coalesce(array_position(${sql.param([...order])}::text[], ${column}), 0)`,
  type: 'integer',
});

/** What has no due day comes last either way. */
export function orderOf(sort: IssueSort, descending: boolean, { priorities, types }: IssueSettings): OrderedBy {
  switch (sort) {
    case 'number':
      return { value: sql`${issues.number}`, type: 'integer' };
    case 'title':
      return { value: sql`lower(${issues.title})`, type: 'text' };
    case 'type':
      return rank(
        issues.type,
        types.map(({ name }) => name),
      );
    case 'priority':
      return rank(
        issues.priority,
        priorities.map(({ name }) => name),
      );
    case 'status':
      return rank(issues.status, ISSUE_STATUSES satisfies readonly IssueStatus[]);
    case 'dueOn':
      return { value: sql`coalesce(${issues.dueOn}::text, ${descending ? '' : '9999-12-31'}::text)`, type: 'text' };
    case 'createdAt':
      return { value: sql`${issues.createdAt}`, type: 'timestamptz' };
    case 'updatedAt':
      return { value: sql`${issues.updatedAt}`, type: 'timestamptz' };
  }
}
