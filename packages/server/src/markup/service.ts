import { allows } from '@kindred/core/people/rights';
import type * as contract from '@kindred/contract/markup/markup';
import type { Markup } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import { and, eq, inArray, or, type SQL } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { pagesFor, sharedPages } from '../register/shared-sheets.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, requireRow, notAllowed, notFound, refused } from '../platform/errors.ts';
import { nextNumber } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { audience } from '../register/visibility.ts';
import { markups } from './schema.ts';

type Row = typeof markups.$inferSelect;

/** Drafts are their author's alone. */
const published = (actor: Member): SQL | undefined => or(eq(markups.draft, false), eq(markups.authorId, actor.id));

async function toMarkups(db: Db, rows: Row[], version: VisibleVersion): Promise<Markup[]> {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map(({ authorId, createdAt, projectId, ...row }) => {
    void projectId;
    return {
      ...row,
      author: persons.get(authorId)!,
      containerId: version.containerId,
      versionNumber: version.number,
      createdAt: createdAt.toISOString(),
    };
  });
}

export async function listMarkups({ db }: Platform, actor: Member, versionId: string): Promise<Markup[]> {
  const version = await visibleVersion(db, actor, versionId);
  const rows = await db
    .select()
    .from(markups)
    .where(and(eq(markups.versionId, versionId), published(actor)))
    .orderBy(markups.number);
  const gets = await pagesFor(db, actor, [version]);
  return toMarkups(
    db,
    rows.filter(({ page }) => gets(versionId, page)),
    version,
  );
}

export async function addMarkup(
  platform: Platform,
  actor: Member,
  versionId: string,
  wanted: Body<typeof contract.addMarkup>,
): Promise<Markup> {
  return change(platform, actor, async ({ db }) => {
    const version = await visibleVersion(db, actor, versionId);
    await requirePage(db, actor, version, wanted.page);
    const number = await nextNumber(db, markups, actor.projectId);
    const [row] = await db
      .insert(markups)
      .values({
        ...wanted,
        projectId: actor.projectId,
        versionId,
        number,
        authorId: actor.id,
        createdAt: now(),
      })
      .onConflictDoNothing()
      .returning();
    if (!row) throw refused('markup-there', 'This markup is there already. Nothing was changed.');
    return (await toMarkups(db, [row], version))[0]!;
  });
}

async function visibleMarkup(
  db: Db,
  actor: Member,
  markupId: string,
): Promise<{ row: Row; version: Awaited<ReturnType<typeof visibleVersion>> }> {
  const row = requireRow(
    await db
      .select()
      .from(markups)
      .where(and(eq(markups.projectId, actor.projectId), eq(markups.id, markupId), published(actor))),
    'markup',
  );
  const version = await visibleVersion(db, actor, row.versionId);
  await requirePage(db, actor, version, row.page);
  return { row, version };
}

/** A page that others do not get does not exist for them, nor does anything on it. */
async function requirePage(db: Db, actor: Member, version: VisibleVersion, page: number): Promise<void> {
  const gets = await pagesFor(db, actor, [version]);
  if (!gets(version.id, page)) throw notFound('sheet');
}

/** Who may hear of a markup: the team alone where others get no such page. */
async function audienceOf(db: Db, version: VisibleVersion, page: number): Promise<string | null> {
  const { teamId } = version.container;
  if (version.shareSetId === null || version.kind !== 'drawing') return audience(version, teamId);
  const shared = (await sharedPages(db, [version.id])).get(version.id)!;
  return shared.includes(page) ? audience(version, teamId) : teamId;
}

export async function changeMarkup(
  platform: Platform,
  actor: Member,
  markupId: string,
  { edition, ...wanted }: Body<typeof contract.changeMarkup>,
): Promise<Markup> {
  return change(platform, actor, async ({ db, record }) => {
    const { row, version } = await visibleMarkup(db, actor, markupId);
    const own = row.authorId === actor.id || allows(actor.standing, { kind: 'markup', action: 'change' });
    if (!own && Object.keys(wanted).some((part) => part !== 'status'))
      throw notAllowed('Only its author changes the words or shape of a markup; you may set its status.');
    const [after] = await db
      .update(markups)
      .set({ ...wanted, edition: edition + 1 })
      .where(and(eq(markups.id, markupId), eq(markups.edition, edition)))
      .returning();
    if (!after) throw conflict('Someone else changed this markup meanwhile. Reload to see it, then change it again.');
    if (!row.draft)
      await record({
        projectId: actor.projectId,
        verb: 'markup changed',
        subjectType: 'markup',
        subjectId: markupId,
        before: { text: row.text, status: row.status },
        after: { text: after.text, status: after.status },
        teamId: await audienceOf(db, version, row.page),
      });
    return (await toMarkups(db, [after], version))[0]!;
  });
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
  return change(platform, actor, async ({ db, record }) => {
    const version = await visibleVersion(db, actor, versionId);
    const rows = await db
      .update(markups)
      .set({ draft: false })
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
    for (const row of rows)
      await record({
        projectId: actor.projectId,
        verb: 'markup published',
        subjectType: 'markup',
        subjectId: row.id,
        after: { number: row.number, text: row.text, status: row.status, container: version.container.code },
        teamId: await audienceOf(db, version, row.page),
      });
    return toMarkups(db, rows, version);
  });
}
