import type * as contract from '@kindred/contract/markup/markup';
import type { Markup } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import { allows } from '@kindred/core/people/rights';
import { and, eq, inArray } from 'drizzle-orm';
import { contacts } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, refused } from '../platform/errors.ts';
import { nextNumber } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { calloutTags } from './callouts.ts';
import { keepEditions } from './editions.ts';
import { pictureOf } from './pictures.ts';
import { markups } from './schema.ts';
import { tellOf } from './telling.ts';
import { later, toMarkups } from './threads.ts';
import { audienceOf, requirePage, rowsOn, visibleMarkup } from './visibility.ts';

type Row = typeof markups.$inferSelect;

export async function listMarkups({ db }: { db: Db }, actor: Member, versionId: string): Promise<Markup[]> {
  const version = await visibleVersion(db, actor, versionId);
  const rows = await rowsOn(db, actor, version);
  return toMarkups(db, actor, rows, version);
}

export async function addMarkup(
  platform: Platform,
  actor: Member,
  versionId: string,
  { uploadId, stampId, ...wanted }: Body<typeof contract.addMarkup>,
): Promise<Markup> {
  const pictureSha256 = await pictureOf(platform, actor, { uploadId, stampId });
  return change(platform, actor, async ({ db }) => {
    const version = await visibleVersion(db, actor, versionId);
    await requirePage(db, actor, version, wanted.page);
    const number = await nextNumber(db, markups, actor.projectId);
    const id = wanted.id ?? crypto.randomUUID();
    const tag = wanted.shape.kind === 'callout' ? (await calloutTags(db, version))(wanted.page) : null;
    const [row] = await db
      .insert(markups)
      .values({
        ...wanted,
        ...{ id, threadId: id, projectId: actor.projectId, versionId, number, tag, pictureSha256 },
        ...{ authorId: actor.id, createdAt: now(), updatedAt: now() },
      })
      .onConflictDoNothing()
      .returning();
    if (!row) throw refused('markup-there', 'This markup is there already. Nothing was changed.');
    return (await toMarkups(db, actor, [row], version))[0]!;
  });
}

/** Whoever wrote it, or changes those of others, changes its words and its place; status, responsible and due are everybody's. */
export const mayRedraw = (actor: Member, row: Pick<Row, 'authorId'>): boolean =>
  row.authorId === actor.id || allows(actor.standing, { kind: 'markup', action: 'change' });
const EVERYBODYS = new Set(['status', 'assigneeId', 'dueOn']);
/** What goes on to the versions that a markup was carried to without whoever changes it here seeing them. */
const CARRIED = ['text', 'status', 'assigneeId', 'dueOn'] as const;

export async function changeMarkup(
  platform: Platform,
  actor: Member,
  markupId: string,
  { edition, ...wanted }: Body<typeof contract.changeMarkup>,
): Promise<Markup> {
  return change(platform, actor, async (unit) => {
    const { row, version } = await visibleMarkup(unit.db, actor, markupId);
    if (!mayRedraw(actor, row) && Object.keys(wanted).some((part) => !EVERYBODYS.has(part)))
      throw notAllowed(
        'Only its author changes the words or shape of a markup; you may set its status, who is responsible and when it is due.',
      );
    if (wanted.assigneeId) await requireMember(unit.db, actor, wanted.assigneeId);
    const after = await changeRow(unit, actor, { row, version }, edition, wanted);
    return (await toMarkups(unit.db, actor, [after], version))[0]!;
  });
}

async function requireMember(db: Db, actor: Member, personId: string): Promise<void> {
  if (!(await contacts(db, actor.projectId, [personId])).length)
    throw refused('not-a-member', 'The person who shall see to it is not in this project. Nothing was changed.');
}

type Changed = Partial<
  Pick<Row, 'text' | 'status' | 'shape' | 'page' | 'style' | 'metresPerPoint' | 'assigneeId' | 'dueOn'>
>;

/** `writtenBy`: whoever changed it in another program. */
export async function changeRow(
  unit: Change,
  actor: Member,
  { row, version }: { row: Row; version: VisibleVersion },
  edition: number,
  wanted: Changed,
  writtenBy: string | null = null,
): Promise<Row> {
  const { db, record } = unit;
  const others = row.draft ? [] : await later(db, actor, row);
  const seen = others.find(({ visible }) => visible);
  if (seen)
    throw refused(
      'carried-on',
      `This markup was carried on to version ${seen.versionNumber}: open it there to change it. Nothing was changed.`,
    );
  const [after] = await db
    .update(markups)
    .set({ ...wanted, edition: edition + 1, updatedAt: now() })
    .where(and(eq(markups.id, row.id), eq(markups.edition, edition)))
    .returning();
  if (!after) throw conflict('Someone else changed this markup meanwhile. Reload to see it, then change it again.');
  if (row.draft) return after;
  await keepEditions(db, actor, [after], writtenBy);
  const carried = Object.fromEntries(CARRIED.flatMap((part) => (part in wanted ? [[part, after[part]]] : [])));
  if (others.length && Object.keys(carried).length) {
    const ids = others.map(({ id }) => id);
    for (const one of await db.select().from(markups).where(inArray(markups.id, ids))) {
      const [moved] = await db
        .update(markups)
        .set({ ...carried, edition: one.edition + 1, updatedAt: now() })
        .where(eq(markups.id, one.id))
        .returning();
      await keepEditions(db, actor, [moved!], writtenBy);
    }
  }
  const teamId = await audienceOf(db, version, row.page);
  await record({
    projectId: actor.projectId,
    verb: 'markup changed',
    subjectType: 'markup',
    subjectId: row.id,
    before: { text: row.text, status: row.status },
    after: { text: after.text, status: after.status, ...(writtenBy && { writtenBy }) },
    teamId,
  });
  if (after.assigneeId && after.assigneeId !== row.assigneeId)
    await tellOf(unit, actor, version, teamId, [after.assigneeId], {
      text: `${actor.name} asks you to see to markup ${after.number} on ${version.container.code}`,
      letter: after.text,
      row: after,
    });
  else if (after.status !== row.status)
    await tellOf(unit, actor, version, teamId, [after.authorId, after.assigneeId], {
      text: `${actor.name}: markup ${after.number} on ${version.container.code} is ${after.status}`,
      letter: after.text,
      row: after,
    });
  return after;
}

export async function deleteMarkup(platform: Platform, actor: Member, markupId: string): Promise<void> {
  await change(platform, actor, async ({ db }) => {
    const { row } = await visibleMarkup(db, actor, markupId);
    if (!row.draft)
      throw refused('published', 'A published markup stays; set its status to declined or settled instead.');
    await db.delete(markups).where(eq(markups.id, markupId));
  });
}

export async function publishMarkups(
  platform: Platform,
  actor: Member,
  versionId: string,
  markupIds: string[],
): Promise<Markup[]> {
  return change(platform, actor, async (unit) => {
    const { db } = unit;
    const version = await visibleVersion(db, actor, versionId);
    const rows = await db
      .update(markups)
      .set({ draft: false, updatedAt: now() })
      .where(
        and(
          eq(markups.versionId, versionId),
          eq(markups.authorId, actor.id),
          eq(markups.draft, true),
          inArray(markups.id, markupIds),
        ),
      )
      .returning();
    if (rows.length !== new Set(markupIds).size)
      throw refused(
        'not-a-draft',
        'Some of these are not drafts of yours any more. Nothing was published; reload and try again.',
      );
    await recordPublished(unit, actor, version, rows);
    return toMarkups(db, actor, rows, version);
  });
}

/** What is published is an edition to come back to, an event, and news to whoever delivered the version or has to see to it. */
export async function recordPublished(
  unit: Change,
  actor: Member,
  version: VisibleVersion,
  rows: Row[],
): Promise<void> {
  await keepEditions(unit.db, actor, rows, null);
  const concerned = new Map<string, Row[]>();
  for (const row of rows) {
    const teamId = await audienceOf(unit.db, version, row.page);
    await unit.record({
      projectId: actor.projectId,
      verb: 'markup published',
      subjectType: 'markup',
      subjectId: row.id,
      after: { number: row.number, text: row.text, status: row.status, container: version.container.code },
      teamId,
    });
    for (const id of new Set([version.deliveredBy, row.assigneeId]))
      if (id) concerned.set(id, [...(concerned.get(id) ?? []), row]);
  }
  for (const [id, own] of concerned) {
    const [first] = own;
    const teamId = await audienceOf(unit.db, version, first!.page);
    const what = own.length === 1 ? `markup ${first!.number}` : `${own.length} markups`;
    await tellOf(unit, actor, version, teamId, [id], {
      text: `${actor.name} published ${what} on ${version.container.code}`,
      letter: own.map(({ number, status, text }) => `${number} (${status}) ${text}`).join('\n'),
      row: first!,
    });
  }
}
