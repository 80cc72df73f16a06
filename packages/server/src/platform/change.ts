import type { NoticeKind } from '@kindred/core/platform/notices';
import { notices } from '../identity/schema.ts';
import { deliverMail } from '../identity/mail-choices.ts';
import { now } from './clock.ts';
import type { Db } from './database.ts';
import type { LiveEvent } from './live.ts';
import type { Letter } from './mail.ts';
import { events } from './schema.ts';
import type { Platform } from './services.ts';

export interface Event extends LiveEvent {
  before?: unknown;
  after?: unknown;
}

export interface Telling {
  /** Person id → e-mail address of those who are told. */
  to: readonly { id: string; email: string }[];
  projectId: string;
  kind: NoticeKind;
  text: string;
  link: string;
  /** Body of the mail; the bell alone when absent. */
  letter?: string;
}

/** One change of state: everything in it happens in one transaction, or not at all; others hear of it after the commit. */
export interface Change {
  db: Db;
  record(event: Event): Promise<void>;
  tell(telling: Telling): Promise<void>;
  send(letters: Letter[]): Promise<void>;
  enqueue(queue: string, data: object): Promise<void>;
}

export async function change<T>(
  platform: Platform,
  actorId: string | null,
  run: (change: Change) => Promise<T>,
): Promise<T> {
  const announcements: LiveEvent[] = [];
  const queues = new Set<string>();
  const result = await platform.db.transaction(async (db) =>
    run({
      db,
      async record({ before, after, teamId, personIds, ...event }) {
        await db.insert(events).values({
          ...event,
          actorId,
          at: now(),
          teamId: teamId ?? null,
          before: before ?? null,
          after: after ?? null,
        });
        announcements.push({ ...event, ...(teamId && { teamId }), ...(personIds && { personIds }) });
      },
      async tell({ to, projectId, kind, text, link, letter }) {
        const others = to.filter(({ id }) => id !== actorId);
        if (!others.length) return;
        await db.insert(notices).values(others.map(({ id }) => ({ userId: id, projectId, text, link, at: now() })));
        if (letter) await deliverMail(platform.outbox, db, others, { kind, text, letter, link });
        announcements.push({
          projectId,
          subjectType: 'notice',
          subjectId: '',
          verb: 'told',
          personIds: others.map(({ id }) => id),
        });
      },
      send: (letters) => platform.outbox.send(db, letters),
      async enqueue(queue, data) {
        await platform.jobs.send(db, queue, data);
        queues.add(queue);
      },
    }),
  );
  for (const event of announcements) platform.live.announce(event);
  for (const queue of queues) platform.jobs.wake(queue);
  return result;
}
