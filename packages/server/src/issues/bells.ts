/** Whoever rings a saved view of issues hears of what comes into it. */
import type { IssueFilters } from '@kindred/contract/issues/issues';
import { and, eq } from 'drizzle-orm';
import { contacts } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import type { Change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { membershipsWithin } from '../register/callers.ts';
import { savedViews, viewBells } from '../register/schema.ts';
import { filtersFrom, issuesFitting } from './filter.ts';
import { linkTo, type IssueRow } from './rows.ts';
import { issues } from './schema.ts';

interface Bell {
  viewId: string;
  name: string;
  member: Member;
  filters: IssueFilters;
}

/** The bells of a project, each with whoever hears it. */
export async function bellsOf(db: Db, projectId: string): Promise<Bell[]> {
  const rows = await db
    .select({
      viewId: savedViews.id,
      name: savedViews.name,
      definition: savedViews.definition,
      userId: viewBells.userId,
      ownerId: savedViews.ownerId,
      forAll: savedViews.forAll,
    })
    .from(viewBells)
    .innerJoin(savedViews, eq(savedViews.id, viewBells.viewId))
    .where(and(eq(savedViews.projectId, projectId), eq(savedViews.list, 'issues')));
  // A view that is offered to nobody any more rings for its owner alone.
  const heard = rows.filter(({ forAll, ownerId, userId }) => forAll || ownerId === userId);
  if (!heard.length) return [];
  const members = new Map(
    (await membershipsWithin(db, [...new Set(heard.map(({ userId }) => userId))], projectId)).map((one) => [
      one.id,
      one,
    ]),
  );
  return heard.flatMap(({ userId, viewId, name, definition }) => {
    const member = members.get(userId);
    const filters = filtersFrom(definition.filters);
    return member && filters ? [{ viewId, name, member, filters }] : [];
  });
}

const fits = async (db: Db, { member, filters }: Bell, issueId: string): Promise<boolean> =>
  (
    await db
      .select({ id: issues.id })
      .from(issues)
      .where(and(eq(issues.id, issueId), issuesFitting(member, filters)))
  ).length > 0;

/** Those in which the issue stands already: they do not ring for it again. */
export async function silentBells(db: Db, bells: readonly Bell[], issueId: string): Promise<Set<Bell>> {
  const silent = new Set<Bell>();
  for (const bell of bells) if (await fits(db, bell, issueId)) silent.add(bell);
  return silent;
}

export async function ring(
  { db, tell }: Change,
  bells: readonly Bell[],
  silent: ReadonlySet<Bell>,
  row: IssueRow,
): Promise<void> {
  for (const bell of bells) {
    if (silent.has(bell) || !(await fits(db, bell, row.id))) continue;
    await tell({
      to: await contacts(db, row.projectId, [bell.member.id]),
      ...{ projectId: row.projectId, kind: 'watching', link: linkTo(row) },
      text: `New in “${bell.name}”: issue ${row.number}, ${row.title}`,
      letter: `${row.title}\n\n${row.description}`,
    });
  }
}
