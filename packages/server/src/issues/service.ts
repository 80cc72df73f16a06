import { actionsIn, next } from '@kindred/core/platform/machine';
import {
  issueTransitions,
  PENDING_ISSUE_STATUSES,
  type IssueAction,
  type IssuePriority,
  type IssueStatus,
  type IssueType,
} from '@kindred/core/issues/states';
import type { Issue, IssueComment, IssueView } from '@kindred/contract/issues/issues';
import { and, desc, eq, ilike, inArray, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { contacts, type Contact } from '../people/service.ts';
import type { Member } from '../platform/actor.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, found, refused } from '../platform/errors.ts';
import { keyset, page, positionOf } from '../platform/keyset.ts';
import { nextNumber } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { visibleVersion } from '../register/lineage.ts';
import { showViewpoint, viewpointIfVisible } from '../scene/service.ts';
import { issueComments, issues } from './schema.ts';

type Row = typeof issues.$inferSelect;

async function views(db: Db, rows: Row[]): Promise<Issue[]> {
  const persons = await personsById(
    db,
    rows.flatMap(({ assigneeId, authorId }) => [assigneeId, authorId]),
  );
  return rows.map(
    ({ projectId, assigneeId, authorId, placeVersionId, placePage, placeX, placeY, createdAt, updatedAt, ...row }) => {
      void projectId;
      return {
        ...row,
        assignee: (assigneeId && persons.get(assigneeId)) || null,
        author: persons.get(authorId)!,
        place: placeVersionId
          ? { versionId: placeVersionId, page: placePage ?? 1, x: placeX ?? 0, y: placeY ?? 0 }
          : null,
        createdAt: createdAt.toISOString(),
        updatedAt: updatedAt.toISOString(),
      };
    },
  );
}

export interface IssueQuery {
  after?: string;
  limit?: number;
  q?: string;
  status?: IssueStatus;
  assigneeId?: string;
  versionId?: string;
}

const titled = (words: string) => ilike(issues.title, `%${words.replace(/[\\%_]/g, '\\$&')}%`);

export async function listIssues({ db }: Platform, actor: Member, query: IssueQuery) {
  const { limit = 100 } = query;
  const position = keyset(
    issues.number,
    issues.id,
    true,
    query.after ? positionOf(issues.number, issues.id, query.after) : undefined,
  );
  const rows = await db
    .select()
    .from(issues)
    .where(
      and(
        eq(issues.projectId, actor.projectId),
        query.status ? eq(issues.status, query.status) : undefined,
        query.assigneeId ? eq(issues.assigneeId, query.assigneeId) : undefined,
        query.versionId ? eq(issues.placeVersionId, query.versionId) : undefined,
        query.q ? titled(query.q) : undefined,
        position.where,
      ),
    )
    .orderBy(...position.orderBy)
    .limit(limit + 1);
  const { items, next: after } = page(rows, limit, (row) => [row.number, row.id]);
  return { items: await views(db, items), next: after };
}

export interface IssueToRaise {
  title: string;
  description?: string;
  type: IssueType;
  priority: IssuePriority;
  assigneeId?: string | null;
  dueOn?: string | null;
  viewpointId?: string | null;
  place?: { versionId: string; page: number; x: number; y: number } | null;
}

async function memberOrRefuse(db: Db, actor: Member, personId: string): Promise<Contact> {
  const [contact] = await contacts(db, actor.projectId, [personId]);
  if (!contact)
    throw refused(
      'not-a-member',
      'The person who shall answer is not in this project. Add them first; nothing was saved.',
    );
  return contact;
}

export async function raiseIssue(platform: Platform, actor: Member, wanted: IssueToRaise): Promise<Issue> {
  const { projectId } = actor;
  const { place, ...fields } = wanted;
  return change(platform, actor.id, async (unit) => {
    const { db, record } = unit;
    if (wanted.viewpointId) await showViewpoint({ ...platform, db: db as Platform['db'] }, actor, wanted.viewpointId);
    if (place) await visibleVersion(db, actor, place.versionId);
    const assignee = wanted.assigneeId ? await memberOrRefuse(db, actor, wanted.assigneeId) : null;
    const number = await nextNumber(db, 'issues', projectId);
    const [row] = await db
      .insert(issues)
      .values({
        ...fields,
        projectId,
        number,
        status: 'open',
        authorId: actor.id,
        placeVersionId: place?.versionId ?? null,
        placePage: place?.page ?? null,
        placeX: place?.x ?? null,
        placeY: place?.y ?? null,
        createdAt: now(),
        updatedAt: now(),
      })
      .returning();
    await record({
      projectId,
      verb: 'raised',
      subjectType: 'issue',
      subjectId: row!.id,
      after: { number, title: row!.title, priority: row!.priority },
    });
    if (assignee) await tellAssignee(unit, actor, row!, assignee);
    return (await views(db, [row!]))[0]!;
  });
}

const linkTo = (row: Row): string => `/projects/${row.projectId}/issues/${row.id}`;

async function tellAssignee({ tell }: Change, actor: Member, row: Row, to: Contact): Promise<void> {
  await tell({
    to: [to],
    projectId: row.projectId,
    kind: 'issue',
    text: `${actor.name} asks you: issue ${row.number}, ${row.title}`,
    link: linkTo(row),
    letter: `${row.title}\n\n${row.description}\n\nPriority ${row.priority}${row.dueOn ? `, due ${row.dueOn}` : ''}. The link opens the issue at its place.`,
  });
}

async function issueRow(db: Db, actor: Member, issueId: string): Promise<Row> {
  return found(
    await db
      .select()
      .from(issues)
      .where(and(eq(issues.projectId, actor.projectId), eq(issues.id, issueId))),
    'issue',
  );
}

export async function showIssue(platform: Platform, actor: Member, issueId: string): Promise<IssueView> {
  const { db } = platform;
  const row = await issueRow(db, actor, issueId);
  const comments = await db
    .select()
    .from(issueComments)
    .where(eq(issueComments.issueId, issueId))
    .orderBy(issueComments.at);
  const [issue] = await views(db, [row]);
  return {
    issue: issue!,
    comments: await commentViews(db, comments),
    viewpoint: await viewpointIfVisible(platform, actor, row.viewpointId),
  };
}

async function commentViews(db: Db, rows: (typeof issueComments.$inferSelect)[]): Promise<IssueComment[]> {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map(({ id, authorId, text, at }) => ({ id, text, author: persons.get(authorId)!, at: at.toISOString() }));
}

export interface IssueChange {
  edition: number;
  title?: string;
  description?: string;
  priority?: IssuePriority;
  assigneeId?: string | null;
  dueOn?: string | null;
  action?: IssueAction;
  reason?: string;
}

export async function changeIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  { edition, action, reason, ...fields }: IssueChange,
): Promise<Issue> {
  const { projectId } = actor;
  return change(platform, actor.id, async (unit) => {
    const { db, record, tell } = unit;
    const before = await issueRow(db, actor, issueId);
    const status = action ? next(issueTransitions, before.status, action) : before.status;
    if (!status)
      throw refused(
        'no-such-step',
        `An issue that is ${before.status} cannot “${action}”. Possible: ${actionsIn(issueTransitions, before.status).join(', ')}.`,
      );
    const assignee =
      fields.assigneeId && fields.assigneeId !== before.assigneeId
        ? await memberOrRefuse(db, actor, fields.assigneeId)
        : null;
    const [after] = await db
      .update(issues)
      .set({ ...fields, status, edition: edition + 1, updatedAt: now() })
      .where(and(eq(issues.id, issueId), eq(issues.edition, edition)))
      .returning();
    if (!after)
      throw conflict(
        'Someone else changed this issue meanwhile. What you typed is still here; reload to see theirs, then save again.',
      );
    const changed = Object.keys(fields).filter((key) => before[key as keyof Row] !== after[key as keyof Row]);
    const pick = (row: Row) =>
      Object.fromEntries(
        [...(status !== before.status ? ['status'] : []), ...changed].map((key) => [key, row[key as keyof Row]]),
      );
    await record({
      projectId,
      verb: action ?? 'changed',
      subjectType: 'issue',
      subjectId: issueId,
      before: pick(before),
      after: { ...pick(after), ...(reason && { reason }) },
    });
    if (assignee) await tellAssignee(unit, actor, after, assignee);
    if (action)
      await tell({
        to: await contacts(
          db,
          projectId,
          [before.authorId, after.assigneeId].filter((id) => id !== null),
        ),
        projectId,
        kind: 'issue',
        text: `${actor.name}: issue ${after.number} is ${status}`,
        link: linkTo(after),
        letter: `${after.title}\n\n${reason ?? ''}`,
      });
    return (await views(db, [after]))[0]!;
  });
}

export async function commentIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  text: string,
): Promise<IssueComment> {
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record, tell }) => {
    const row = await issueRow(db, actor, issueId);
    const [comment] = await db
      .insert(issueComments)
      .values({ issueId, authorId: actor.id, text, at: now() })
      .returning();
    await db
      .update(issues)
      .set({ comments: sql`${issues.comments} + 1`, updatedAt: now() })
      .where(eq(issues.id, issueId));
    await record({ projectId, verb: 'commented', subjectType: 'issue', subjectId: issueId, after: { text } });
    await tell({
      to: await contacts(
        db,
        projectId,
        [row.authorId, row.assigneeId].filter((id) => id !== null),
      ),
      projectId,
      kind: 'issue',
      text: `${actor.name} commented on issue ${row.number}, ${row.title}`,
      link: linkTo(row),
      letter: text,
    });
    return (await commentViews(db, [comment!]))[0]!;
  });
}

export interface Pending {
  count: number;
  dates: string[];
}

/** What waits for a person: issues to answer, and answers to their own issues to close. */
export async function pendingIssues(db: Db, personId: string, projectIds: string[]): Promise<Map<string, Pending>> {
  if (!projectIds.length) return new Map();
  const rows = await db
    .select({ projectId: issues.projectId, dueOn: issues.dueOn })
    .from(issues)
    .where(
      and(
        inArray(issues.projectId, projectIds),
        inArray(issues.status, [...PENDING_ISSUE_STATUSES]),
        sql`((${issues.assigneeId} = ${personId} and ${issues.status} <> 'answered') or (${issues.authorId} = ${personId} and ${issues.status} = 'answered'))`,
      ),
    );
  return collectPending(rows);
}

export function collectPending(rows: { projectId: string; dueOn: string | null }[]): Map<string, Pending> {
  const map = new Map<string, Pending>();
  for (const { projectId, dueOn } of rows) {
    const pending = map.get(projectId) ?? { count: 0, dates: [] };
    pending.count++;
    if (dueOn) pending.dates.push(dueOn);
    map.set(projectId, pending);
  }
  return map;
}

export async function findIssues(db: Db, projectId: string, words: string): Promise<Row[]> {
  const number = /^#?(\d+)$/.exec(words)?.[1];
  return db
    .select()
    .from(issues)
    .where(and(eq(issues.projectId, projectId), number ? eq(issues.number, Number(number)) : titled(words)))
    .orderBy(desc(issues.number))
    .limit(8);
}

/** Issues raised at viewpoints or on versions. */
export async function issuesOf(
  db: Db,
  projectId: string,
  viewpointIds: string[],
  versionIds: string[],
): Promise<Row[]> {
  const byViewpoint = viewpointIds.length ? inArray(issues.viewpointId, viewpointIds) : sql`false`;
  const byVersion = versionIds.length ? inArray(issues.placeVersionId, versionIds) : sql`false`;
  return db
    .select()
    .from(issues)
    .where(and(eq(issues.projectId, projectId), sql`(${byViewpoint} or ${byVersion})`));
}
export { issueRow };

/** Open issues of someone who leaves pass to a successor, or wait for nobody; answers how many. */
export async function passOnIssues(
  { db, record, tell }: Change,
  projectId: string,
  fromId: string,
  toId: string | null,
): Promise<number> {
  const rows = await db
    .update(issues)
    .set({ assigneeId: toId, updatedAt: now(), edition: sql`${issues.edition} + 1` })
    .where(
      and(
        eq(issues.projectId, projectId),
        eq(issues.assigneeId, fromId),
        inArray(issues.status, [...PENDING_ISSUE_STATUSES]),
      ),
    )
    .returning({ id: issues.id });
  for (const { id } of rows)
    await record({
      projectId,
      verb: 'passed on',
      subjectType: 'issue',
      subjectId: id,
      before: { assigneeId: fromId },
      after: { assigneeId: toId },
    });
  if (toId && rows.length)
    await tell({
      to: await contacts(db, projectId, [toId]),
      projectId,
      kind: 'issue',
      text: `${rows.length} open ${rows.length === 1 ? 'issue was' : 'issues were'} passed on to you`,
      link: `/projects/${projectId}/issues`,
    });
  return rows.length;
}

/** Numbers of the issues of priority “blocking” that are open on each of these versions: on a sheet of it, or in a viewpoint with it. */
export async function blockingIssues(db: Db, versionIds: string[]): Promise<Map<string, number[]>> {
  if (!versionIds.length) return new Map();
  const { rows } = await db.execute(sql`
    select v.id, array_agg(i.number order by i.number) as numbers
    from unnest(${`{${versionIds.join()}}`}::uuid[]) v(id)
    join issues i on i.priority = 'blocking' and i.status = any(${`{${PENDING_ISSUE_STATUSES.map((one) => `"${one}"`).join()}}`}::text[])
     and (i.place_version_id = v.id or exists (select 1 from viewpoints p where p.id = i.viewpoint_id and v.id = any(p.version_ids)))
    group by v.id`);
  return new Map((rows as unknown as { id: string; numbers: number[] }[]).map(({ id, numbers }) => [id, numbers]));
}
