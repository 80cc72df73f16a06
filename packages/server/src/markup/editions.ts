/** What a published markup was, edition by edition. */
import type { Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { markupEditions, type markups } from './schema.ts';

const AT_ONCE = 1000;

/** `writtenBy`: whoever changed them in another program. */
export async function keepEditions(
  db: Db,
  by: Member,
  rows: readonly (typeof markups.$inferSelect)[],
  writtenBy: string | null,
): Promise<void> {
  const kept = rows.map(({ id, edition, shape, style, text, status, assigneeId, dueOn, writtenBy: author }) => ({
    ...{ markupId: id, edition, shape, style, text, status, assigneeId, dueOn },
    ...{ byId: by.id, writtenBy: writtenBy ?? (edition === 1 ? author : null), at: now() },
  }));
  for (let i = 0; i < kept.length; i += AT_ONCE)
    await db
      .insert(markupEditions)
      .values(kept.slice(i, i + AT_ONCE))
      .onConflictDoNothing();
}
