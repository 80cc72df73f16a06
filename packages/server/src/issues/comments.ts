/** What is said about issues. What was said can be said otherwise or withdrawn; that it was there stays. */
import type { commentIssue as operation, IssueComment } from '@kindred/contract/issues/comments';
import type { Body } from '@kindred/contract/platform/operation';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, requireRow, refused } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { keepPictures, sendPicture } from '../preparation/pictures.ts';
import { allVisible, visibleVersions } from '../register/versions.ts';
import { issueRow } from './rows.ts';
import {
  issueCommentDocuments,
  issueCommentEditions,
  issueCommentPictures,
  issueComments,
  issues,
  issueWatchers,
} from './schema.ts';
import { tellOfIssue } from './telling.ts';

type Row = typeof issueComments.$inferSelect;

async function toComments(db: Db, actor: Member, rows: readonly Row[]): Promise<IssueComment[]> {
  const ids = rows.map(({ id }) => id);
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  const pictures = ids.length
    ? await db
        .select()
        .from(issueCommentPictures)
        .where(inArray(issueCommentPictures.commentId, ids))
        .orderBy(asc(issueCommentPictures.position))
    : [];
  const documents = ids.length
    ? await db.select().from(issueCommentDocuments).where(inArray(issueCommentDocuments.commentId, ids))
    : [];
  const seen = new Map(
    (
      await visibleVersions(
        db,
        actor,
        documents.map(({ versionId }) => versionId),
      )
    ).map((version) => [version.id, version]),
  );
  return rows.map(({ id, authorId, text, at, byMail, writtenBy, editedAt, withdrawnAt }) => {
    const shown = withdrawnAt === null;
    return {
      ...{ id, author: persons.get(authorId)!, text: shown ? text : '', at: at.toISOString(), byMail, writtenBy },
      ...{ editedAt: editedAt?.toISOString() ?? null, withdrawnAt: withdrawnAt?.toISOString() ?? null },
      pictures: shown
        ? pictures.filter(({ commentId }) => commentId === id).map(({ position, caption }) => ({ position, caption }))
        : [],
      documents: documents.flatMap(({ commentId, versionId }) => {
        const version = commentId === id && shown ? seen.get(versionId) : undefined;
        if (!version) return [];
        const { containerId, container, number } = version;
        return [{ containerId, versionId, code: container.code, versionNumber: number }];
      }),
    };
  });
}

/** The newest first. */
export async function listIssueComments(
  { db }: { db: Db },
  actor: Member,
  issueId: string,
  asked: PageAsked,
): Promise<{ items: IssueComment[]; next: string | null }> {
  await issueRow(db, actor, issueId);
  const { where, orderBy, limit } = pageOf(issueComments.at, issueComments.id, true, asked);
  const rows = await db
    .select()
    .from(issueComments)
    .where(and(eq(issueComments.issueId, issueId), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.at, row.id]);
  return { items: await toComments(db, actor, items), next };
}

export async function commentIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  wanted: Body<typeof operation>,
): Promise<IssueComment> {
  const { pictures = [] } = wanted;
  const kept = await keepPictures(
    platform,
    actor,
    'issue',
    pictures.map(({ uploadId }) => uploadId),
  );
  return change(platform, actor, async (unit) =>
    commentWithin(unit, actor, issueId, {
      ...wanted,
      pictures: kept.map((sha256, i) => ({ sha256, caption: pictures[i]!.caption })),
    }),
  );
}

interface Said {
  text: string;
  mentions?: string[];
  pictures?: { sha256: string; caption: string }[];
  versionIds?: string[];
  byMail?: boolean;
}

/** Within a change; whoever comments watches the issue from then on. */
export async function commentWithin(
  unit: Change,
  actor: Member,
  issueId: string,
  { text, mentions = [], pictures = [], versionIds = [], byMail = false }: Said,
): Promise<IssueComment> {
  const { db, record } = unit;
  const { projectId } = actor;
  const row = await issueRow(db, actor, issueId);
  await allVisible(db, actor, versionIds);
  const [comment] = await db
    .insert(issueComments)
    .values({ issueId, authorId: actor.id, text, byMail, at: now() })
    .returning();
  const commentId = comment!.id;
  if (pictures.length)
    await db
      .insert(issueCommentPictures)
      .values(pictures.map((picture, i) => ({ commentId, position: i + 1, ...picture })));
  if (versionIds.length)
    await db.insert(issueCommentDocuments).values(versionIds.map((versionId) => ({ commentId, versionId })));
  await db
    .update(issues)
    .set({ comments: sql`${issues.comments} + 1`, updatedAt: now() })
    .where(eq(issues.id, issueId));
  await db.insert(issueWatchers).values({ issueId, userId: actor.id }).onConflictDoNothing();
  // Without its words: they may be withdrawn, and a history cannot be.
  await record({ projectId, verb: 'commented', subjectType: 'issue', subjectId: issueId });
  await tellOfIssue(unit, actor, row, {
    text: `${actor.name} commented on issue ${row.number}, ${row.title}`,
    mentioned: `${actor.name} names you at issue ${row.number}, ${row.title}`,
    letter: text,
    mentions,
  });
  return (await toComments(db, actor, [comment!]))[0]!;
}

async function commentRow(db: Db, actor: Member, issueId: string, commentId: string): Promise<Row> {
  await issueRow(db, actor, issueId);
  return requireRow(
    await db
      .select()
      .from(issueComments)
      .where(and(eq(issueComments.issueId, issueId), eq(issueComments.id, commentId))),
    'comment',
  );
}

async function ownComment(db: Db, actor: Member, issueId: string, commentId: string): Promise<Row> {
  const row = await commentRow(db, actor, issueId, commentId);
  if (row.authorId !== actor.id)
    throw notAllowed('A comment is its author’s: nobody else changes or withdraws it. Nothing was changed.');
  if (row.withdrawnAt) throw refused('withdrawn', 'This comment was withdrawn. Nothing was changed.');
  return row;
}

export const changeIssueComment = (
  platform: Platform,
  actor: Member,
  issueId: string,
  commentId: string,
  text: string,
): Promise<IssueComment> =>
  change(platform, actor, async ({ db, record }) => {
    const before = await ownComment(db, actor, issueId, commentId);
    await db.insert(issueCommentEditions).values({ commentId, text: before.text, at: before.editedAt ?? before.at });
    const [after] = await db
      .update(issueComments)
      .set({ text, editedAt: now() })
      .where(eq(issueComments.id, commentId))
      .returning();
    await record({
      ...{ projectId: actor.projectId, verb: 'comment changed', subjectType: 'issue', subjectId: issueId },
    });
    return (await toComments(db, actor, [after!]))[0]!;
  });

export const withdrawIssueComment = (
  platform: Platform,
  actor: Member,
  issueId: string,
  commentId: string,
): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    await ownComment(db, actor, issueId, commentId);
    await db.update(issueComments).set({ withdrawnAt: now() }).where(eq(issueComments.id, commentId));
    await record({
      ...{ projectId: actor.projectId, verb: 'comment withdrawn', subjectType: 'issue', subjectId: issueId },
    });
  });

export async function listCommentEditions({ db }: Platform, actor: Member, issueId: string, commentId: string) {
  const { withdrawnAt } = await commentRow(db, actor, issueId, commentId);
  if (withdrawnAt) return [];
  const rows = await db
    .select({ text: issueCommentEditions.text, at: issueCommentEditions.at })
    .from(issueCommentEditions)
    .where(eq(issueCommentEditions.commentId, commentId))
    .orderBy(issueCommentEditions.at);
  return rows.map(({ text, at }) => ({ text, at: at.toISOString() }));
}

export async function sendCommentPicture(
  platform: Platform,
  actor: Member,
  { issueId, commentId, position }: { issueId: string; commentId: string; position: number },
  response: Response,
): Promise<void> {
  const { withdrawnAt } = await commentRow(platform.db, actor, issueId, commentId);
  const [picture] = await platform.db
    .select({ sha256: issueCommentPictures.sha256 })
    .from(issueCommentPictures)
    .where(and(eq(issueCommentPictures.commentId, commentId), eq(issueCommentPictures.position, position)));
  await sendPicture(platform, response, withdrawnAt ? null : (picture?.sha256 ?? null));
}
