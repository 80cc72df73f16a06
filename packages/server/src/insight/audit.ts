/** The audit trail: the one log of events, as administrators read it. */
import type { AuditEvent, TrailQuery } from '@kindred/contract/insight/insight';
import { csvLine } from '@kindred/core/platform/csv';
import { eventWords } from '@kindred/words/events';
import { and, desc, eq, gte, ilike, lt, or, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { once } from 'node:events';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { page, positionOf } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { events } from '../platform/schema.ts';
import { selectHappenings, toHappening } from '../things/history.ts';

function where({ subjects }: Platform, { projectId }: Member, query: TrailQuery) {
  const { personId, subjectType, q, from, before } = query;
  const like = q && containing(q);
  return and(
    eq(events.projectId, projectId),
    personId ? eq(events.actorId, personId) : undefined,
    subjectType ? eq(events.subjectType, subjectType) : undefined,
    from ? gte(events.at, new Date(from)) : undefined,
    before ? lt(events.at, new Date(before)) : undefined,
    like
      ? or(
          ilike(events.verb, like),
          sql`coalesce(${events.after}, ${events.before}) ->> 'name' ilike ${like}`,
          sql`coalesce(${events.after}, ${events.before}) ->> 'code' ilike ${like}`,
          subjects.aboutTitled(projectId, like, sql`${events.subjectType}`, sql`${events.subjectId}`),
        )
      : undefined,
  );
}

/** What an event says itself of what it was about, where that is gone. */
function titleIn({ before, after }: { before: unknown; after: unknown }): string {
  const said = (after ?? before) as { code?: unknown; name?: unknown } | null;
  const title = said?.code ?? said?.name;
  return typeof title === 'string' ? title : '';
}

export async function listAuditTrail(platform: Platform, actor: Member, query: TrailQuery) {
  const { db, subjects } = platform;
  const { limit = 100, after } = query;
  const position = after ? lt(events.id, Number(positionOf(events.id, events.id, after).value)) : undefined;
  const rows = await selectHappenings(db)
    .where(and(where(platform, actor, query), position))
    .orderBy(desc(events.id))
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ id }) => [id, String(id)]);
  const titles = await subjects.titles(
    db,
    actor.projectId,
    items.map(({ subjectType, subjectId }) => ({ type: subjectType, id: subjectId })),
  );
  return {
    next,
    items: items.map((row): AuditEvent => ({
      ...toHappening(row),
      subject: titles.get(`${row.subjectType}:${row.subjectId}`) ?? titleIn(row),
    })),
  };
}

export async function exportAuditTrail(
  platform: Platform,
  actor: Member,
  query: TrailQuery,
  response: Response,
): Promise<void> {
  response.attachment(`Audit trail ${new Date().toISOString().slice(0, 10)}.csv`);
  response.write(`\ufeff${csvLine(['At', 'Who', 'Did', 'To', 'Which', 'Before', 'After'])}`);
  let after: string | null = null;
  do {
    const part: Awaited<ReturnType<typeof listAuditTrail>> = await listAuditTrail(platform, actor, {
      ...query,
      limit: 1000,
      ...(after && { after }),
    });
    for (const event of part.items) {
      const json = (value: unknown) => (value === null ? '' : JSON.stringify(value));
      const line = csvLine([
        event.at,
        event.actor?.name ?? 'the application',
        eventWords(event),
        event.subjectType,
        event.subject,
        json(event.before),
        json(event.after),
      ]);
      if (!response.write(line)) await once(response, 'drain');
    }
    after = part.next;
  } while (after);
  response.end();
}
