/** The audit trail: the one log of events, as administrators read it. */
import type { AuditEvent, TrailQuery } from '@kindred/contract/insight/insight';
import { csvLine } from '@kindred/core/platform/csv';
import { and, desc, eq, gte, ilike, lt, or, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { once } from 'node:events';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';
import { page, positionOf } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { events } from '../platform/schema.ts';

/** Code, number or name of the thing that an event is about. */
const subject = sql<string>`coalesce(case ${events.subjectType}
  when 'container' then (select code from containers where id::text = ${events.subjectId})
  when 'version' then (select code from containers where id::text = ${events.subjectId})
  when 'issue' then (select number || ' ' || title from issues where id::text = ${events.subjectId})
  when 'review' then (select number || ' ' || title from reviews where id::text = ${events.subjectId})
  when 'transmittal' then (select number || ' ' || title from transmittals where id::text = ${events.subjectId})
  when 'person' then (select name from users where id::text = ${events.subjectId})
  when 'folder' then (select path from folders where id::text = ${events.subjectId})
  when 'project' then (select name from projects where id::text = ${events.subjectId})
  end, coalesce(${events.after}, ${events.before}) ->> 'code', coalesce(${events.after}, ${events.before}) ->> 'name', '')`;

function where(actor: Member, { personId, subjectType, q, from, before }: TrailQuery) {
  const like = q && `%${q.replace(/[\\%_]/g, '\\$&')}%`;
  return and(
    eq(events.projectId, actor.projectId),
    personId ? eq(events.actorId, personId) : undefined,
    subjectType ? eq(events.subjectType, subjectType) : undefined,
    from ? gte(events.at, new Date(from)) : undefined,
    before ? lt(events.at, new Date(before)) : undefined,
    like ? or(ilike(events.verb, like), sql`${subject} ilike ${like}`) : undefined,
  );
}

export async function listAuditTrail({ db }: { db: Db }, actor: Member, query: TrailQuery) {
  const { limit = 100, after } = query;
  const position = after ? lt(events.id, Number(positionOf(events.id, events.id, after).value)) : undefined;
  const rows = await db
    .select({ event: events, subject })
    .from(events)
    .where(and(where(actor, query), position))
    .orderBy(desc(events.id))
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ event }) => [event.id, String(event.id)]);
  const persons = await personsById(
    db,
    items.map(({ event }) => event.actorId),
  );
  return {
    next,
    items: items.map(({ event: { actorId, projectId, teamId, at, ...event }, subject: about }): AuditEvent => {
      void [projectId, teamId];
      return {
        ...event,
        subject: about,
        at: at.toISOString(),
        actor: (actorId && persons.get(actorId)) || null,
      };
    }),
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
        event.verb,
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
