/** Where the models of a federation lie, as their preparation kept it. */
import type { ModelPlace } from '@kindred/contract/federation/federations';
import { judgePositions, type ModelPosition } from '@kindred/core/federation/positions';
import { and, eq, inArray } from 'drizzle-orm';
import { buffer } from 'node:stream/consumers';
import type { Member } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';
import { products } from '../register/schema.ts';
import { showFederation } from './service.ts';

export async function listModelPlaces(platform: Platform, actor: Member, federationId: string): Promise<ModelPlace[]> {
  const { models } = await showFederation(platform, actor, federationId);
  const rows = await platform.db
    .select({ versionId: products.versionId, sha256: products.sha256 })
    .from(products)
    .where(
      and(
        eq(products.product, 'position'),
        inArray(
          products.versionId,
          models.map(({ versionId }) => versionId),
        ),
      ),
    );
  const known: { versionId: string; position: ModelPosition }[] = [];
  for (const { versionId, sha256 } of rows) {
    const position = JSON.parse((await buffer(await platform.store.read(sha256))).toString()) as ModelPosition;
    known.push({ versionId, position });
  }
  const judged = judgePositions(known.map(({ position }) => position));
  const byVersion = new Map(known.map(({ versionId, position }, i) => [versionId, { position, ...judged[i]! }]));
  return models.map(({ containerId, versionId }) => ({
    containerId,
    ...(byVersion.get(versionId) ?? { position: null, findings: [], placing: null }),
  }));
}
