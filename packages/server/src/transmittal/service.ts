import { counted } from '@kindred/words/sentence';
import { allows } from '@kindred/core/people/rights';
import type { Transmittal } from '@kindred/contract/transmittal/transmittal';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { contacts, contactsOfParties } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, notAllowed, refused } from '../platform/errors.ts';
import { nextNumber } from '../platform/numbering.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { currentNumbers } from '../register/entries.ts';
import { noteSent } from '../register/exchange.ts';
import { isNarrowed } from '../register/files.ts';
import { allVisible } from '../register/versions.ts';
import { receipts, transmittalFiles, transmittals } from './schema.ts';
import { transmittalVisibleTo } from './visibility.ts';

type Row = typeof transmittals.$inferSelect;

const visible = (actor: Member) => and(eq(transmittals.projectId, actor.projectId), transmittalVisibleTo(actor));

async function toTransmittals(db: Db, actor: Member, rows: Row[]): Promise<Transmittal[]> {
  if (!rows.length) return [];
  const ids = rows.map(({ id }) => id);
  const files = await db
    .select()
    .from(transmittalFiles)
    .where(inArray(transmittalFiles.transmittalId, ids))
    .orderBy(transmittalFiles.code);
  const received = await db.select().from(receipts).where(inArray(receipts.transmittalId, ids));
  const persons = await personsById(db, [
    ...rows.map(({ senderId }) => senderId),
    ...received.map(({ userId }) => userId),
  ]);
  const current = await currentNumbers(
    db,
    actor,
    files.map(({ containerId }) => containerId),
  );
  const manages = allows(actor.standing, { kind: 'transmittal', action: 'manage' });
  return rows.map(({ projectId, senderId, sentAt, ...row }): Transmittal => {
    void projectId;
    const seesAll = senderId === actor.id || manages || row.recipientsSeeEachOther;
    return {
      ...row,
      sender: persons.get(senderId)!,
      sentAt: sentAt.toISOString(),
      files: files
        .filter(({ transmittalId }) => transmittalId === row.id)
        .map(({ transmittalId, ...file }) => {
          void transmittalId;
          return { ...file, superseded: (current.get(file.containerId) ?? 0) > file.versionNumber };
        }),
      receipts: received
        .filter(({ transmittalId, userId }) => transmittalId === row.id && (seesAll || userId === actor.id))
        .map(({ userId, party, ...at }) => ({
          person: persons.get(userId)!,
          party,
          receivedAt: at.receivedAt.toISOString(),
          openedAt: at.openedAt?.toISOString() ?? null,
          downloadedAt: at.downloadedAt?.toISOString() ?? null,
          acknowledgedAt: at.acknowledgedAt?.toISOString() ?? null,
        }))
        .sort((a, b) => a.person.name.localeCompare(b.person.name)),
    };
  });
}

export async function listTransmittals({ db }: Platform, actor: Member, asked: PageAsked) {
  const { where, orderBy, limit } = pageOf(transmittals.number, transmittals.id, true, asked);
  const rows = await db
    .select()
    .from(transmittals)
    .where(and(visible(actor), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.number, row.id]);
  return { items: await toTransmittals(db, actor, items), next };
}

async function visibleRow(db: Db, actor: Member, transmittalId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(transmittals)
      .where(and(visible(actor), eq(transmittals.id, transmittalId))),
    'transmittal',
  );
}

export interface TransmittalToSend {
  title: string;
  reason: Row['reason'];
  message?: string;
  versionIds: string[];
  personIds: string[];
  partyIds: string[];
  recipientsSeeEachOther: boolean;
}

export async function sendTransmittal(
  platform: Platform,
  actor: Member,
  wanted: TransmittalToSend,
): Promise<Transmittal> {
  const { projectId } = actor;
  const { title, reason, message, recipientsSeeEachOther } = wanted;
  return change(platform, actor, async ({ db, record, tell }) => {
    const people = await contacts(db, projectId, wanted.personIds);
    if (people.length !== new Set(wanted.personIds).size)
      throw refused('not-a-member', 'A recipient is not in this project. Nothing was sent.');
    const byId = new Map(
      [...people, ...(await contactsOfParties(db, projectId, wanted.partyIds))].map((contact) => [contact.id, contact]),
    );
    if (!byId.size)
      throw refused(
        'no-recipients',
        'There is nobody to send to: choose people, or a company with people in this project. Nothing was sent.',
      );
    const versions = await allVisible(db, actor, wanted.versionIds);
    const foreign = versions.find(
      ({ container, state }) => state === 'work in progress' && container.teamId !== actor.teamId,
    );
    if (foreign) throw notAllowed(`“${foreign.container.code}” is another team's work in progress. Nothing was sent.`);
    const unshared = versions.filter(({ state }) => state === 'work in progress');
    if (unshared.length && ![...byId.values()].every(({ teamId }) => teamId === actor.teamId))
      throw refused(
        'not-shared',
        `${unshared.length === 1 ? `“${unshared[0]!.container.code}” is` : `“${unshared[0]!.container.code}” and ${unshared.length - 1} more are`} work in progress: share it before it goes to people outside your team. Nothing was sent.`,
      );
    const part = versions.find((version) => isNarrowed(actor, version));
    if (part)
      throw notAllowed(
        `“${part.container.code}” is shared with you in part only. Ask its team to send it. Nothing was sent.`,
      );
    const number = await nextNumber(db, transmittals, projectId);
    const [row] = await db
      .insert(transmittals)
      .values({
        projectId,
        number,
        title,
        reason,
        message: message ?? '',
        recipientsSeeEachOther,
        senderId: actor.id,
        sentAt: now(),
      })
      .returning();
    await db.insert(transmittalFiles).values(
      versions.map(({ id, containerId, container, title, revision, status, number, fileName, size, sha256 }) => ({
        transmittalId: row!.id,
        versionId: id,
        containerId,
        code: container.code,
        title,
        revision,
        status,
        versionNumber: number,
        fileName,
        size,
        sha256,
      })),
    );
    await db
      .insert(receipts)
      .values(
        [...byId.values()].map(({ id, party }) => ({ transmittalId: row!.id, userId: id, party, receivedAt: now() })),
      );
    await noteSent(db, projectId, [...byId.keys()], versions, 'received');
    await record({
      projectId,
      verb: 'sent',
      subjectType: 'transmittal',
      subjectId: row!.id,
      after: { number, title, files: versions.length, recipients: byId.size },
    });
    await tell({
      to: [...byId.values()],
      projectId,
      kind: 'transmittal',
      text: `Transmittal ${number} from ${actor.name}: ${title}`,
      link: `/projects/${projectId}/transmittals/${row!.id}`,
      letter: `${message ?? ''}\n\n${counted(versions.length, 'file')}, ${reason}.`,
    });
    return (await toTransmittals(db, actor, [row!]))[0]!;
  });
}

type Mark = 'openedAt' | 'downloadedAt' | 'acknowledgedAt';
const VERBS: Record<Mark, string> = { openedAt: 'opened', downloadedAt: 'downloaded', acknowledgedAt: 'acknowledged' };

/** Records the first time that a recipient does something; others leave no trace. */
async function mark(platform: Platform, actor: Member, transmittalId: string, column: Mark): Promise<void> {
  await change(platform, actor, async ({ db, record }) => {
    const rows = await db
      .update(receipts)
      .set({ [column]: now() })
      .where(and(eq(receipts.transmittalId, transmittalId), eq(receipts.userId, actor.id), isNull(receipts[column])))
      .returning();
    if (rows.length)
      await record({
        projectId: actor.projectId,
        verb: VERBS[column],
        subjectType: 'transmittal',
        subjectId: transmittalId,
        after: { by: actor.name },
      });
  });
}

export async function showTransmittal(platform: Platform, actor: Member, transmittalId: string): Promise<Transmittal> {
  await visibleRow(platform.db, actor, transmittalId);
  await mark(platform, actor, transmittalId, 'openedAt');
  return (await toTransmittals(platform.db, actor, [await visibleRow(platform.db, actor, transmittalId)]))[0]!;
}

export async function acknowledgeTransmittal(
  platform: Platform,
  actor: Member,
  transmittalId: string,
): Promise<Transmittal> {
  await visibleRow(platform.db, actor, transmittalId);
  await mark(platform, actor, transmittalId, 'openedAt');
  await mark(platform, actor, transmittalId, 'acknowledgedAt');
  return (await toTransmittals(platform.db, actor, [await visibleRow(platform.db, actor, transmittalId)]))[0]!;
}

export async function transmittalToDownload(
  platform: Platform,
  actor: Member,
  transmittalId: string,
): Promise<Transmittal> {
  const row = await visibleRow(platform.db, actor, transmittalId);
  return (await toTransmittals(platform.db, actor, [row]))[0]!;
}

export const markDownloaded = (platform: Platform, actor: Member, transmittalId: string): Promise<void> =>
  mark(platform, actor, transmittalId, 'downloadedAt');
