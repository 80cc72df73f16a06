/** A markup through the versions that it is carried to: what was said about it, and what was done to it. */
import type { Markup, MarkupComment, MarkupEdition } from '@kindred/contract/markup/markup';
import { and, asc, desc, eq, gt, inArray, ne, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';
import { versions } from '../register/schema.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleVersions, type VisibleVersion } from '../register/versions.ts';
import { markupComments, markupEditions, markups } from './schema.ts';
import { visibleMarkup } from './visibility.ts';

type Row = typeof markups.$inferSelect;

/** `rows`: of one version. */
export async function toMarkups(
  db: Db,
  actor: Member,
  rows: readonly Row[],
  version: VisibleVersion,
): Promise<Markup[]> {
  if (!rows.length) return [];
  const threadIds = rows.map(({ threadId }) => threadId);
  const persons = await personsById(
    db,
    rows.flatMap(({ authorId, assigneeId }) => [authorId, assigneeId]),
  );
  const from = await carriedFromNumbers(db, rows);
  const to = await carriedToNumbers(db, actor, threadIds, version);
  const comments = await commentsOf(db, actor, threadIds);
  return rows.map(
    ({
      projectId,
      carriedFrom,
      authorId,
      assigneeId,
      pictureSha256,
      externalId,
      leftAt,
      createdAt,
      updatedAt,
      ...row
    }) => {
      void [projectId, externalId, leftAt];
      return {
        ...row,
        containerId: version.containerId,
        versionNumber: version.number,
        author: persons.get(authorId)!,
        assignee: (assigneeId && persons.get(assigneeId)) || null,
        carriedFrom: (carriedFrom && from.get(carriedFrom)) || null,
        carriedTo: to.get(row.threadId) ?? null,
        comments: comments.get(row.threadId)?.length ?? 0,
        picture: pictureSha256 !== null,
        createdAt: createdAt.toISOString(),
        updatedAt: updatedAt.toISOString(),
      };
    },
  );
}

async function carriedFromNumbers(db: Db, rows: readonly Row[]): Promise<Map<string, number>> {
  const ids = rows.map(({ carriedFrom }) => carriedFrom).filter((id) => id !== null);
  if (!ids.length) return new Map();
  const found = await db
    .select({ id: markups.id, number: versions.number })
    .from(markups)
    .innerJoin(versions, eq(versions.id, markups.versionId))
    .where(inArray(markups.id, ids));
  return new Map(found.map(({ id, number }) => [id, number]));
}

/** The last version that the actor sees and a thread was carried to. */
async function carriedToNumbers(
  db: Db,
  actor: Member,
  threadIds: string[],
  version: VisibleVersion,
): Promise<Map<string, number>> {
  const found = await db
    .select({ threadId: markups.threadId, versionId: markups.versionId, number: versions.number })
    .from(markups)
    .innerJoin(versions, eq(versions.id, markups.versionId))
    .where(
      and(
        eq(versions.containerId, version.containerId),
        gt(versions.number, version.number),
        inArray(markups.threadId, threadIds),
      ),
    )
    .orderBy(asc(versions.number));
  const visible = new Set(
    (await visibleVersions(db, actor, [...new Set(found.map(({ versionId }) => versionId))])).map(({ id }) => id),
  );
  return new Map(
    found.filter(({ versionId }) => visible.has(versionId)).map(({ threadId, number }) => [threadId, number]),
  );
}

/** Where a markup went on to later versions, the last first. */
export async function later(
  db: Db,
  actor: Member,
  row: Row,
): Promise<{ id: string; versionNumber: number; visible: boolean }[]> {
  const found = await db
    .select({ id: markups.id, versionId: markups.versionId, versionNumber: versions.number })
    .from(markups)
    .innerJoin(versions, eq(versions.id, markups.versionId))
    .where(
      and(
        eq(markups.threadId, row.threadId),
        ne(markups.id, row.id),
        gt(versions.number, sql`(select number from versions where id = ${row.versionId})`),
      ),
    )
    .orderBy(desc(versions.number));
  const visible = new Set(
    (
      await visibleVersions(
        db,
        actor,
        found.map(({ versionId }) => versionId),
      )
    ).map(({ id }) => id),
  );
  return found.map(({ versionId, ...one }) => ({ ...one, visible: visible.has(versionId) }));
}

export async function showMarkup({ db }: Platform, actor: Member, markupId: string) {
  const { row, version } = await visibleMarkup(db, actor, markupId);
  const [markup] = await toMarkups(db, actor, [row], version);
  const stages = await stagesOf(db, actor, [row.threadId]);
  const ids = [...stages.keys()];
  const comments = (await commentsOf(db, actor, [row.threadId])).get(row.threadId) ?? [];
  const editions = await db
    .select()
    .from(markupEditions)
    .where(inArray(markupEditions.markupId, ids))
    .orderBy(markupEditions.at, markupEditions.edition);
  const persons = await personsById(db, [
    ...comments.map(({ authorId }) => authorId),
    ...editions.flatMap(({ byId, assigneeId }) => [byId, assigneeId]),
  ]);
  return {
    markup: markup!,
    comments: comments.map(({ id, text, authorId, writtenBy, versionNumber, at }): MarkupComment => ({
      ...{ id, text, author: persons.get(authorId)!, writtenBy, versionNumber, at: at.toISOString() },
    })),
    editions: editions.map((one, i): MarkupEdition => {
      const before = editions.slice(0, i).findLast(({ markupId: on }) => on === one.markupId);
      const drawn = ({ shape, style }: typeof one): string => JSON.stringify([shape, style]);
      return {
        ...{ edition: one.edition, versionNumber: stages.get(one.markupId)!, text: one.text, status: one.status },
        assignee: (one.assigneeId && persons.get(one.assigneeId)) || null,
        dueOn: one.dueOn,
        redrawn: before !== undefined && drawn(before) !== drawn(one),
        by: persons.get(one.byId)!,
        writtenBy: one.writtenBy,
        at: one.at.toISOString(),
      };
    }),
  };
}

/** Markups of threads on all versions and sheets that the actor gets: id → number of the version. */
async function stagesOf(db: Db, actor: Member, threadIds: readonly string[]): Promise<Map<string, number>> {
  if (!threadIds.length) return new Map();
  const found = await db
    .select({ id: markups.id, page: markups.page, versionId: markups.versionId, number: versions.number })
    .from(markups)
    .innerJoin(versions, eq(versions.id, markups.versionId))
    .where(inArray(markups.threadId, [...threadIds]));
  const visible = await visibleVersions(db, actor, [...new Set(found.map(({ versionId }) => versionId))]);
  const gets = await pagesFor(db, actor, visible);
  const seen = new Set(visible.map(({ id }) => id));
  return new Map(
    found
      .filter(({ versionId, page }) => seen.has(versionId) && gets(versionId, page))
      .map(({ id, number }) => [id, number]),
  );
}

type CommentRow = typeof markupComments.$inferSelect & { versionNumber: number };

/** What was said of each thread where the actor sees it, in the order of time. */
export async function commentsOf(
  db: Db,
  actor: Member,
  threadIds: readonly string[],
): Promise<Map<string, CommentRow[]>> {
  const stages = await stagesOf(db, actor, threadIds);
  const byThread = new Map<string, CommentRow[]>();
  if (!stages.size) return byThread;
  const rows = await db
    .select()
    .from(markupComments)
    .where(inArray(markupComments.threadId, [...threadIds]))
    .orderBy(asc(markupComments.at), asc(markupComments.id));
  for (const row of rows) {
    const versionNumber = stages.get(row.markupId);
    if (versionNumber === undefined) continue;
    const said = byThread.get(row.threadId) ?? [];
    said.push({ ...row, versionNumber });
    byThread.set(row.threadId, said);
  }
  return byThread;
}
