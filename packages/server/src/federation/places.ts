/** Where the models of a federation lie, as their preparation kept it and as somebody put them. */
import type { ModelPlace } from '@kindred/contract/federation/federations';
import { judgePositions, type ModelPosition } from '@kindred/core/federation/positions';
import { and, eq, inArray } from 'drizzle-orm';
import { buffer } from 'node:stream/consumers';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';
import { products } from '../register/schema.ts';
import { visibleVersions } from '../register/versions.ts';
import { placingsOf } from '../scene/placings.ts';
import { showFederation } from './service.ts';

export async function listModelPlaces(platform: Platform, actor: Member, federationId: string): Promise<ModelPlace[]> {
  const { db } = platform;
  const { models } = await showFederation(platform, actor, federationId);
  const placed = await placingsOf(
    db,
    models.map(({ containerId }) => containerId),
  );
  const rows = [...placed.values()];
  const persons = await personsById(
    db,
    rows.map(({ byId }) => byId),
  );
  const setFor = await visibleVersions(
    db,
    actor,
    rows.flatMap(({ versionId }) => versionId ?? []),
  );
  const positions = await positionsOf(platform, [
    ...models.map(({ versionId }) => versionId),
    ...setFor.map(({ id }) => id),
  ]);
  const known = models.filter(({ versionId }) => positions.has(versionId));
  const judged = judgePositions(
    known.map(({ containerId, versionId }) => {
      const row = placed.get(containerId);
      const of = positions.get(row?.versionId ?? '')?.bounds ?? null;
      return { ...positions.get(versionId)!, set: row ? { placing: row.placing, of } : null };
    }),
  );
  const byVersion = new Map(known.map(({ versionId }, i) => [versionId, judged[i]!]));
  return models.map(({ containerId, versionId }) => {
    const row = placed.get(containerId);
    return {
      containerId,
      position: toPosition(positions.get(versionId)),
      ...(byVersion.get(versionId) ?? { findings: [], placing: null }),
      set: row
        ? {
            ...{ placing: row.placing, by: persons.get(row.byId)!, at: row.at.toISOString() },
            number: setFor.find(({ id }) => id === row.versionId)?.number ?? null,
          }
        : null,
    };
  });
}

function toPosition(position: ModelPosition | undefined): ModelPlace['position'] {
  if (!position) return null;
  const { lengthUnit, survey, bounds } = position;
  return { lengthUnit, survey, bounds };
}

/** By version; not known of those that were prepared before it was kept. */
async function positionsOf(
  { db, store }: Platform,
  versionIds: readonly string[],
): Promise<Map<string, ModelPosition>> {
  const rows = await db
    .select({ versionId: products.versionId, sha256: products.sha256 })
    .from(products)
    .where(and(eq(products.product, 'position'), inArray(products.versionId, [...new Set(versionIds)])));
  const found = new Map<string, ModelPosition>();
  for (const { versionId, sha256 } of rows)
    found.set(versionId, JSON.parse((await buffer(await store.read(sha256))).toString()) as ModelPosition);
  return found;
}
