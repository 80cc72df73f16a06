/** Open markups go along to the next version of their drawing, at the same place. */
import { OPEN_MARKUP_STATUSES } from '@kindred/core/markup/shapes';
import { and, eq, inArray } from 'drizzle-orm';
import type { PreparedVersion } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { versionBefore } from '../register/neighbours.ts';
import { containers, sheets, versions } from '../register/schema.ts';
import { audience } from '../register/visibility.ts';
import { markupEditions, markups } from './schema.ts';

/** What still waits for somebody. */
const AT_ONCE = 1000;

export async function carryMarkups({ db, record }: Change, to: PreparedVersion): Promise<void> {
  if (to.kind !== 'drawing') return;
  const before = await versionBefore(db, to, to.number);
  if (!before) return;
  const open = await db
    .select()
    .from(markups)
    .where(
      and(
        eq(markups.versionId, before.id),
        eq(markups.draft, false),
        inArray(markups.status, [...OPEN_MARKUP_STATUSES]),
      ),
    );
  const pageOf = await samePages(db, before.id, to.id);
  const carried = open.flatMap((row) => {
    const page = pageOf(row.page);
    return page === undefined
      ? []
      : [
          {
            ...row,
            id: crypto.randomUUID(),
            page,
            versionId: to.id,
            carriedFrom: row.id,
            edition: 1,
            externalId: null,
            leftAt: null,
            fate: null,
            updatedAt: now(),
          },
        ];
  });
  const [place] = await db
    .select({ state: versions.state, teamId: containers.teamId })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(eq(versions.id, to.id));
  for (let i = 0; i < carried.length; i += AT_ONCE) {
    // A version that is prepared again has them already.
    const rows = await db
      .insert(markups)
      .values(carried.slice(i, i + AT_ONCE))
      .onConflictDoNothing()
      .returning();
    if (!rows.length) continue;
    await db.insert(markupEditions).values(
      rows.map(({ id, edition, shape, style, text, status, assigneeId, dueOn, authorId }) => ({
        ...{ markupId: id, edition, shape, style, text, status, assigneeId, dueOn, byId: authorId, at: now() },
      })),
    );
    for (const { id, number } of rows)
      await record({
        projectId: to.projectId,
        verb: 'markup carried',
        subjectType: 'markup',
        subjectId: id,
        after: { number, from: before.number, version: to.number },
        // Others may get less of the version than the team: they hear of it when they open it.
        teamId: place!.teamId ?? audience(place!, null),
      });
  }
}

/** Where a sheet of one version is in another: by its number, else by its page. */
async function samePages(db: Db, fromId: string, toId: string): Promise<(page: number) => number | undefined> {
  const rows = await db
    .select({ versionId: sheets.versionId, page: sheets.page, number: sheets.number })
    .from(sheets)
    .where(inArray(sheets.versionId, [fromId, toId]));
  const numberOf = new Map(
    rows.filter(({ versionId }) => versionId === fromId).map(({ page, number }) => [page, number]),
  );
  const there = rows.filter(({ versionId }) => versionId === toId);
  const pages = new Map<string, number[]>();
  for (const { number, page } of there) pages.set(number, [...(pages.get(number) ?? []), page]);
  const all = new Set(there.map(({ page }) => page));
  return (page) => {
    const number = numberOf.get(page);
    const alike = number ? pages.get(number) : undefined;
    if (alike?.length === 1) return alike[0];
    return all.has(page) && !alike ? page : undefined;
  };
}
