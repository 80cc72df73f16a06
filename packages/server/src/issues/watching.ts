import type { Person } from '@kindred/contract/identity/identity';
import { mayChangeField } from '@kindred/core/issues/may-change';
import { and, eq, inArray } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { requireMembers } from './requirements.ts';
import { concernsOf } from './responsible.ts';
import { issueRow } from './rows.ts';
import { issueWatchers } from './schema.ts';

export async function watchersOf(db: Db, issueId: string): Promise<Person[]> {
  const rows = await db.select().from(issueWatchers).where(eq(issueWatchers.issueId, issueId));
  const persons = await personsById(
    db,
    rows.map(({ userId }) => userId),
  );
  return [...persons.values()].sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

/** Everybody watches for themselves; whoever may change an issue decides it for others too. */
export const watchIssue = (
  platform: Platform,
  actor: Member,
  issueId: string,
  { add = [], remove = [] }: { add?: string[]; remove?: string[] },
): Promise<Person[]> =>
  change(platform, actor, async ({ db, record }) => {
    const row = await issueRow(db, actor, issueId);
    const others = [...add, ...remove].some((id) => id !== actor.id);
    if (others && !mayChangeField(await concernsOf(db, actor, row), 'title'))
      throw notAllowed(
        'Whoever raised this issue, or has the right “change” for issues, decides who else watches it. Nothing was changed.',
      );
    await requireMembers(db, actor, add);
    if (add.length)
      await db
        .insert(issueWatchers)
        .values(add.map((userId) => ({ issueId, userId })))
        .onConflictDoNothing();
    if (remove.length)
      await db
        .delete(issueWatchers)
        .where(and(eq(issueWatchers.issueId, issueId), inArray(issueWatchers.userId, remove)));
    const names = await personsById(db, [...add, ...remove]);
    const named = (ids: string[]) => ids.flatMap((id) => names.get(id)?.name ?? []);
    await record({
      ...{ projectId: actor.projectId, verb: 'watchers changed', subjectType: 'issue', subjectId: issueId },
      after: { added: named(add), removed: named(remove) },
    });
    return watchersOf(db, issueId);
  });
