/** What people say about a markup. */
import type { MarkupComment } from '@kindred/contract/markup/markup';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { markupComments } from './schema.ts';
import { tellOf } from './telling.ts';
import { audienceOf, visibleMarkup } from './visibility.ts';

export async function commentMarkup(
  platform: Platform,
  actor: Member,
  markupId: string,
  { text, mentions = [] }: { text: string; mentions?: string[] },
): Promise<MarkupComment> {
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const { row, version } = await visibleMarkup(db, actor, markupId);
    if (row.draft)
      throw refused(
        'draft',
        'A draft is yours alone: write it into its words, or publish it first. Nothing was changed.',
      );
    if (!text.trim()) throw refused('no-words', 'A comment without words says nothing. Nothing was changed.');
    const [comment] = await db
      .insert(markupComments)
      .values({ markupId, threadId: row.threadId, authorId: actor.id, text, at: now() })
      .returning();
    const teamId = await audienceOf(db, version, row.page);
    await record({
      projectId: actor.projectId,
      verb: 'commented',
      subjectType: 'markup',
      subjectId: markupId,
      after: { text },
      teamId,
    });
    const where = `markup ${row.number} on ${version.container.code}`;
    await tellOf(unit, actor, version, teamId, mentions, {
      text: `${actor.name} names you at ${where}`,
      letter: text,
      row,
    });
    const concerned = [row.authorId, row.assigneeId].filter((id) => id === null || !mentions.includes(id));
    await tellOf(unit, actor, version, teamId, concerned, {
      text: `${actor.name} commented on ${where}`,
      letter: text,
      row,
    });
    const persons = await personsById(db, [actor.id]);
    return {
      ...{ id: comment!.id, text, author: persons.get(actor.id)!, writtenBy: null },
      ...{ versionNumber: version.number, at: comment!.at.toISOString() },
    };
  });
}
