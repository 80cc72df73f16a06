/** Issues as they are kept, and as they go out. */
import type { Issue } from '@kindred/contract/issues/issues';
import { and, eq } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { requireRow } from '../platform/errors.ts';
import { responsibleNames, toResponsible } from './responsible.ts';
import { issues } from './schema.ts';
import { issueVisibleTo } from './visibility.ts';

export type IssueRow = typeof issues.$inferSelect;

export async function toIssues(db: Db, rows: readonly IssueRow[]): Promise<Issue[]> {
  const persons = await personsById(
    db,
    rows.flatMap(({ assigneeId, authorId, verifierId }) => [assigneeId, authorId, verifierId]),
  );
  const names = await responsibleNames(db, rows);
  return rows.map((row) => {
    const { id, number, title, description, type, priority, status, dueOn, labels, viewpointId, markupId } = row;
    const { placeVersionId, placePage, placeX, placeY, placeZoom, pictures, comments, edition, writtenBy } = row;
    return {
      ...{ id, number, title, description, type, priority, status, dueOn, labels, viewpointId, markupId },
      ...{ pictures, comments, edition, writtenBy },
      responsible: toResponsible(row, persons, names),
      verifier: (row.verifierId && persons.get(row.verifierId)) || null,
      author: persons.get(row.authorId)!,
      place: placeVersionId
        ? { versionId: placeVersionId, page: placePage, x: placeX ?? 0, y: placeY ?? 0, zoom: placeZoom }
        : null,
      createdAt: row.createdAt.toISOString(),
      updatedAt: row.updatedAt.toISOString(),
      answeredAt: row.answeredAt?.toISOString() ?? null,
      closedAt: row.closedAt?.toISOString() ?? null,
    };
  });
}

export const toIssue = async (db: Db, row: IssueRow): Promise<Issue> => (await toIssues(db, [row]))[0]!;

/** One that the actor may see. */
export async function issueRow(db: Db, actor: Member, issueId: string): Promise<IssueRow> {
  return requireRow(
    await db
      .select()
      .from(issues)
      .where(and(eq(issues.projectId, actor.projectId), eq(issues.id, issueId), issueVisibleTo(actor))),
    'issue',
  );
}

export const linkTo = ({ projectId, id }: Pick<IssueRow, 'projectId' | 'id'>): string =>
  `/projects/${projectId}/issues/${id}`;
