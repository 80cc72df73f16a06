/** The audit trail: the one log of events, as administrators read it. */
import type { AuditEvent, TrailQuery } from '@kindred/contract/insight/insight';
import type { Happening } from '@kindred/contract/things/things';
import { csvLine } from '@kindred/core/platform/csv';
import { eventWords } from '@kindred/words/events';
import { and, eq, gte, ilike, lt, or, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { once } from 'node:events';
import type { Member } from '../platform/caller.ts';
import { containing } from '../platform/like.ts';
import { page, pageOf } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { events } from '../platform/schema.ts';
import type { Subjects } from '../platform/subjects.ts';
import { listHappenings } from '../things/history.ts';

function asked(subjects: Subjects, { projectId }: Member, query: TrailQuery) {
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

export async function listAuditTrail({ db, subjects }: Platform, member: Member, query: TrailQuery) {
  const { where, limit } = pageOf(events.id, events.id, true, query);
  const rows = await listHappenings(db, and(asked(subjects, member, query), where), limit);
  const { items, next } = page(rows, limit, ({ id }) => [id, id]);
  const happenings = items.map(({ json }) => JSON.parse(json) as Happening);
  const titles = await subjects.titles(
    db,
    member.projectId,
    happenings.map(({ subjectType, subjectId }) => ({ type: subjectType, id: subjectId })),
  );
  return {
    next,
    items: happenings.map((event): AuditEvent => ({
      ...event,
      subject: titles.get(`${event.subjectType}:${event.subjectId}`) ?? titleIn(event),
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
