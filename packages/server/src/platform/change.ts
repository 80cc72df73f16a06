import type { NoticeKind } from '@kindred/core/platform/notices';
import type { Caller } from './caller.ts';
import { now } from './clock.ts';
import type { Db } from './database.ts';
import type { LiveEvent } from './live.ts';
import type { Letter } from './mail.ts';
import { events } from './schema.ts';
import type { Platform } from './services.ts';

/** `verb`: a code; what it takes to say it in words stands in `before` and `after`. */
export interface Event extends LiveEvent {
  subjectId: string;
  verb: string;
  before?: unknown;
  after?: unknown;
}

export interface Telling {
  to: readonly { id: string; email: string }[];
  projectId: string;
  kind: NoticeKind;
  text: string;
  link: string;
  /** Body of the mail; the bell alone when absent. */
  letter?: string;
  /** What a reply to the mail belongs to, as `type/id`. */
  replyTo?: string;
}

/** Brings notices to people, each in the way that they chose. */
export type Tell = (db: Db, telling: Telling) => Promise<void>;

/** One change of state: everything in it happens in one transaction, or not at all; others hear of it after the commit. */
export interface Change {
  db: Db;
  record(event: Event): Promise<void>;
  tell(telling: Telling): Promise<void>;
  send(letters: Letter[]): Promise<void>;
  enqueue(queue: string, data: object): Promise<void>;
}

export async function change<T>(platform: Platform, by: Caller, run: (change: Change) => Promise<T>): Promise<T> {
  const announcements: LiveEvent[] = [];
  /** How long the line of whoever calls is in each queue. */
  const turns = new Map<string, number>();
  const asker = 'projectId' in by ? { projectId: by.projectId, personId: by.id } : undefined;
  const actorId = by.kind === 'system' ? null : by.id;
  const result = await platform.db.transaction(async (db) =>
    run({
      db,
      async record({ before, after, teamId, personIds, ...event }) {
        await db.insert(events).values({
          ...event,
          actorId,
          system: by.kind === 'system' ? by.name : null,
          at: now(),
          teamId: teamId ?? null,
          before: before ?? null,
          after: after ?? null,
        });
        const { projectId, subjectType } = event;
        announcements.push({
          projectId,
          subjectType,
          ...(teamId && { teamId }),
          ...(personIds && { personIds }),
          ...(subjectType === 'person' && { connectsAnew: event.subjectId }),
        });
      },
      async tell({ to, ...telling }) {
        const others = to.filter(({ id }) => id !== actorId);
        if (!others.length) return;
        await platform.tell(db, { ...telling, to: others });
        announcements.push({
          projectId: telling.projectId,
          subjectType: 'notice',
          personIds: others.map(({ id }) => id),
        });
      },
      send: (letters) => platform.outbox.send(db, letters),
      async enqueue(queue, data) {
        const turn = turns.get(queue) ?? (asker ? await platform.jobs.waitingOf(db, queue, asker) : 0);
        turns.set(queue, turn + 1);
        await platform.jobs.send(db, queue, { ...data, asker }, turn);
      },
    }),
  );
  for (const event of announcements) platform.live.announce(event);
  for (const queue of turns.keys()) platform.jobs.wake(queue);
  return result;
}
