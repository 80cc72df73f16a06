/** Plans that are linked with models: made by a person, seen by whoever sees both. */
import type { linkPlan as operation, PlanLink } from '@kindred/contract/plan/plan-links';
import type { Body } from '@kindred/contract/platform/operation';
import { metresPerPointOf, placeMap } from '@kindred/core/plan/plan-map';
import { pointAt, type Placing } from '@kindred/core/scene/placing';
import { and, eq, inArray } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { entries } from '../register/schema.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleEntries, visibleVersion, visibleVersions } from '../register/versions.ts';
import { audience, visibleTo } from '../register/visibility.ts';
import { planLinks } from './schema.ts';

type Row = typeof planLinks.$inferSelect;

async function toLinks(db: Db, actor: Member, rows: readonly Row[]): Promise<PlanLink[]> {
  if (!rows.length) return [];
  const seen = await db
    .select({ containerId: entries.containerId, versionId: entries.versionId })
    .from(entries)
    .where(
      and(
        visibleTo(actor),
        inArray(
          entries.containerId,
          rows.flatMap(({ containerId, modelId }) => [containerId, modelId]),
        ),
      ),
    );
  const current = new Map(seen.map(({ containerId, versionId }) => [containerId, versionId]));
  const known = rows.filter(({ containerId, modelId }) => current.has(containerId) && current.has(modelId));
  const drawings = await visibleVersions(
    db,
    actor,
    known.map(({ containerId }) => current.get(containerId)!),
  );
  const gets = await pagesFor(db, actor, drawings);
  const persons = await personsById(
    db,
    known.map(({ madeBy }) => madeBy),
  );
  return known
    .filter(({ containerId, page }) => gets(current.get(containerId)!, page))
    .map(({ projectId: _project, madeBy, madeAt, ...row }) => ({
      ...(void _project, row),
      versionId: current.get(row.containerId)!,
      modelVersionId: current.get(row.modelId)!,
      madeBy: persons.get(madeBy)!,
      madeAt: madeAt.toISOString(),
    }));
}

export async function listPlanLinks(
  { db }: Platform,
  actor: Member,
  { containerId, modelId }: { containerId?: string; modelId?: string },
): Promise<PlanLink[]> {
  const rows = await db
    .select()
    .from(planLinks)
    .where(
      and(
        eq(planLinks.projectId, actor.projectId),
        containerId ? eq(planLinks.containerId, containerId) : undefined,
        modelId ? eq(planLinks.modelId, modelId) : undefined,
      ),
    )
    .orderBy(planLinks.containerId, planLinks.page);
  return toLinks(db, actor, rows);
}

export const linkPlan = (platform: Platform, actor: Member, wanted: Body<typeof operation>): Promise<PlanLink> =>
  change(platform, actor, async ({ db, record }) => {
    const { containerId, modelId, page, storey } = wanted;
    const found = await visibleEntries(db, actor, [containerId, modelId]);
    const [drawing, model] = [containerId, modelId].map((id) => found.find((entry) => entry.containerId === id)!);
    if (drawing!.kind !== 'drawing' || model!.kind !== 'model')
      throw refused('no-plan-or-model', 'A page of a drawing is linked with a model. Nothing was linked.');
    if (!(metresPerPointOf(wanted.map) > 0))
      throw refused(
        'points-too-close',
        'The points are too close together to say where the plan lies. Nothing was linked.',
      );
    const version = await visibleVersion(db, actor, drawing!.versionId);
    if (!(await pagesFor(db, actor, [version]))(version.id, page)) throw notFound('sheet');
    const values = { ...wanted, projectId: actor.projectId, madeBy: actor.id, madeAt: now() };
    const [row] = await db
      .insert(planLinks)
      .values(values)
      .onConflictDoUpdate({ target: [planLinks.containerId, planLinks.page], set: values })
      .returning();
    await record({
      projectId: actor.projectId,
      verb: 'plan linked',
      subjectType: 'container',
      subjectId: containerId,
      after: { page, model: model!.code, storey },
      teamId: audience(version, version.container.teamId),
    });
    return (await toLinks(db, actor, [row!]))[0]!;
  });

export const unlinkPlan = (platform: Platform, actor: Member, linkId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const rows = await db
      .select()
      .from(planLinks)
      .where(and(eq(planLinks.projectId, actor.projectId), eq(planLinks.id, linkId)));
    const [link] = await toLinks(db, actor, rows);
    if (!link) throw notFound('plan link');
    await db.delete(planLinks).where(eq(planLinks.id, linkId));
    const version = await visibleVersion(db, actor, link.versionId);
    await record({
      projectId: actor.projectId,
      verb: 'plan unlinked',
      subjectType: 'container',
      subjectId: link.containerId,
      before: { page: link.page, storey: link.storey },
      teamId: audience(version, version.container.teamId),
    });
  });

/** Plans go with their model. */
export async function moveLinks({ db }: Change, modelId: string, by: Placing): Promise<void> {
  const rows = await db.select().from(planLinks).where(eq(planLinks.modelId, modelId)).for('update');
  const up = by.shift[2];
  for (const { id, map, elevation, top, pairs } of rows)
    await db
      .update(planLinks)
      .set({
        map: placeMap(map, by),
        elevation: elevation + up,
        top: top === null ? null : top + up,
        pairs: pairs.map(({ plan, model: [x, y] }) => {
          const [e, n] = pointAt([x, y, 0], by);
          return { plan, model: [e, n] };
        }),
      })
      .where(eq(planLinks.id, id));
}
