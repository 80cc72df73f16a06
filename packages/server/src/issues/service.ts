import { allows } from '@kindred/core/people/rights';
import { actionsIn, next } from '@kindred/core/platform/machine';
import {
  issueTransitions,
  type IssueAction,
  type IssuePriority,
  type IssueStatus,
  type IssueType,
} from '@kindred/core/issues/states';
import { mayChangeIssue, type IssuePart } from '@kindred/core/issues/may-change';
import type { Issue, IssueComment, IssueView } from '@kindred/contract/issues/issues';
import { and, eq, ilike, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { personsById } from '../identity/persons.ts';
import { visibleMarkup } from '../markup/visibility.ts';
import { contacts, type Contact } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, requireRow, refused, unlessMissing } from '../platform/errors.ts';
import { page, pageOf } from '../platform/keyset.ts';
import { containing } from '../platform/like.ts';
import { nextNumber } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { keepPictures, sendPicture } from '../preparation/pictures.ts';
import { visibleVersion, visibleVersions } from '../register/versions.ts';
import { showViewpoint, viewpointIfVisible } from '../scene/service.ts';
import { issueComments, issuePictures, issues } from './schema.ts';
import { issueVisibleTo } from './visibility.ts';

type Row = typeof issues.$inferSelect;

async function toIssues(db: Db, rows: Row[]): Promise<Issue[]> {
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
  markupId?: string;
}

export async function listIssues({ db }: Platform, actor: Member, query: IssueQuery) {
  const { where, orderBy, limit } = pageOf(issues.number, issues.id, true, query);
  const rows = await db
    .select()
    .from(issues)
    .where(
      and(
        eq(issues.projectId, actor.projectId),
        query.status ? eq(issues.status, query.status) : undefined,
        query.assigneeId ? eq(issues.assigneeId, query.assigneeId) : undefined,
        query.versionId ? eq(issues.placeVersionId, query.versionId) : undefined,
        query.markupId
          ? sql`${issues.markupId} in (select id from markups where thread_id = (select thread_id from markups where id = ${query.markupId}))`
          : undefined,
        query.q ? ilike(issues.title, containing(query.q)) : undefined,
        issueVisibleTo(actor),
        where,
      ),
    )
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next: after } = page(rows, limit, (row) => [row.number, row.id]);
  return { items: await toIssues(db, items), next: after };
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
  markupId?: string | null;
  pictures?: { uploadId: string; caption: string }[];
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
  const { place, pictures = [], ...fields } = wanted;
  const kept = await keepPictures(
    platform,
    actor,
    'issue',
    pictures.map(({ uploadId }) => uploadId),
  );
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    if (wanted.viewpointId) await showViewpoint({ ...platform, db: db as Platform['db'] }, actor, wanted.viewpointId);
    if (place) await visibleVersion(db, actor, place.versionId);
    if (wanted.markupId) await requirePublished(db, actor, wanted.markupId);
    const assignee = wanted.assigneeId ? await memberOrRefuse(db, actor, wanted.assigneeId) : null;
    const number = await nextNumber(db, issues, projectId);
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
    if (kept.length)
      await db
        .insert(issuePictures)
        .values(
          kept.map((sha256, i) => ({ issueId: row!.id, position: i + 1, caption: pictures[i]!.caption, sha256 })),
        );
    await record({
      projectId,
      verb: 'raised',
      subjectType: 'issue',
      subjectId: row!.id,
      after: { number, title: row!.title, priority: row!.priority },
    });
    if (assignee) await tellAssignee(unit, actor, row!, assignee);
    return (await toIssues(db, [row!]))[0]!;
  });
}

/** Others see the issue: a draft is nobody's but its author's. */
async function requirePublished(db: Db, actor: Member, markupId: string): Promise<void> {
  const { row } = await visibleMarkup(db, actor, markupId);
  if (row.draft) throw refused('draft', 'This markup is a draft of yours. Publish it first; nothing was saved.');
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
  return requireRow(
    await db
      .select()
      .from(issues)
      .where(and(eq(issues.projectId, actor.projectId), eq(issues.id, issueId), issueVisibleTo(actor))),
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
  const [issue] = await toIssues(db, [row]);
  return {
    issue: issue!,
    comments: await toComments(db, comments),
    viewpoint: await viewpointIfVisible(platform, actor, row.viewpointId),
    sheet: await sheetIfVisible(db, actor, row.placeVersionId),
    markup: await markupIfVisible(db, actor, row.markupId),
    pictures: await db
      .select({ position: issuePictures.position, caption: issuePictures.caption })
      .from(issuePictures)
      .where(eq(issuePictures.issueId, issueId))
      .orderBy(issuePictures.position),
  };
}

export async function sendIssuePicture(
  platform: Platform,
  actor: Member,
  issueId: string,
  position: number,
  response: Response,
): Promise<void> {
  await issueRow(platform.db, actor, issueId);
  const [picture] = await platform.db
    .select({ sha256: issuePictures.sha256 })
    .from(issuePictures)
    .where(and(eq(issuePictures.issueId, issueId), eq(issuePictures.position, position)));
  await sendPicture(platform, response, picture?.sha256 ?? null);
}

async function sheetIfVisible(db: Db, actor: Member, versionId: string | null): Promise<IssueView['sheet']> {
  const [version] = versionId ? await visibleVersions(db, actor, [versionId]) : [];
  return version
    ? { containerId: version.containerId, code: version.container.code, versionNumber: version.number }
    : null;
}

async function markupIfVisible(db: Db, actor: Member, markupId: string | null): Promise<IssueView['markup']> {
  if (!markupId || !allows(actor.standing, { kind: 'markup', action: 'see' })) return null;
  const found = await unlessMissing(visibleMarkup(db, actor, markupId), () => null);
  return found && { id: markupId, number: found.row.number, text: found.row.text };
}

async function toComments(db: Db, rows: (typeof issueComments.$inferSelect)[]): Promise<IssueComment[]> {
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

function requireOwnIssue(actor: Member, issue: Row, { action, ...fields }: Partial<IssueChange>): void {
  const changesAll = allows(actor.standing, { kind: 'issues', action: 'change' });
  const named = Object.entries(fields).flatMap(([part, value]) => (value === undefined ? [] : [part as IssuePart]));
  const parts = action ? [action, ...named] : named;
  if (parts.every((part) => mayChangeIssue(issue, actor.id, changesAll, part))) return;
  throw notAllowed(
    'Only whoever raised this issue, or has the right “change” for issues, may do this; whoever is responsible answers it or passes it on. Nothing was changed.',
  );
}

export async function changeIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  { edition, action, reason, ...fields }: IssueChange,
): Promise<Issue> {
  const { projectId } = actor;
  return change(platform, actor, async (unit) => {
    const { db, record, tell } = unit;
    const before = await issueRow(db, actor, issueId);
    requireOwnIssue(actor, before, { action, ...fields });
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
    return (await toIssues(db, [after]))[0]!;
  });
}

export async function commentIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  text: string,
): Promise<IssueComment> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record, tell }) => {
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
    return (await toComments(db, [comment!]))[0]!;
  });
}
