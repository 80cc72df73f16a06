/** Models that were put to the others, for everyone; each version of such a model is. */
import type { Placing } from '@kindred/contract/scene/placings';
import { placedTwice, unplaced, type Placing as Way } from '@kindred/core/scene/placing';
import { eq, inArray } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { lockContainers, visibleEntries, visibleVersion } from '../register/versions.ts';
import { audience } from '../register/visibility.ts';
import { placings } from './schema.ts';

const AS_DELIVERED: Way = { turn: 0, shift: [0, 0, 0] };

export async function placingsOf(
  db: Db,
  containerIds: readonly string[],
): Promise<Map<string, typeof placings.$inferSelect>> {
  const rows = await db
    .select()
    .from(placings)
    .where(inArray(placings.containerId, [...containerIds]));
  return new Map(rows.map((row) => [row.containerId, row]));
}

export async function showPlacing(
  { db }: Platform,
  actor: Member,
  versionId: string,
): Promise<{ placing: Placing | null }> {
  const { containerId } = await visibleVersion(db, actor, versionId);
  return { placing: (await placingsOf(db, [containerId])).get(containerId)?.placing ?? null };
}

export const placeModel = (
  platform: Platform,
  actor: Member,
  containerId: string,
  placing: Placing | null,
): Promise<void> =>
  change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const { projectId } = actor;
    await lockContainers(db, [containerId]);
    const [entry] = await visibleEntries(db, actor, [containerId]);
    if (entry!.kind !== 'model') throw refused('no-model', 'Only models are put elsewhere. Nothing was changed.');
    const { versionId } = entry!;
    const before = (await placingsOf(db, [containerId])).get(containerId)?.placing ?? null;
    if (placing) {
      const values = { containerId, projectId, placing, versionId, byId: actor.id, at: now() };
      await db.insert(placings).values(values).onConflictDoUpdate({ target: placings.containerId, set: values });
    } else await db.delete(placings).where(eq(placings.containerId, containerId));
    const version = await visibleVersion(db, actor, versionId);
    await record({
      ...{ projectId, subjectType: 'container', subjectId: containerId },
      ...(placing ? { verb: 'model placed', after: placing } : { verb: 'placing taken back' }),
      ...(before && { before }),
      teamId: audience(version, version.container.teamId),
    });
    await platform.capabilities.placed(
      unit,
      containerId,
      placedTwice(unplaced(before ?? AS_DELIVERED), placing ?? AS_DELIVERED),
    );
  });
