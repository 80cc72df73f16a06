/** Comparisons: a pair of versions of a drawing or a model, compared once and kept. */
import type { FileKind } from '@kindred/core/register/file-kind';
import { and, eq, inArray } from 'drizzle-orm';
import type { PreparedVersion } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { versionAfter, versionBefore } from '../register/neighbours.ts';
import { comparisons } from './schema.ts';

export const COMPARE = 'compare-versions';
export interface VersionPair {
  projectId: string;
  beforeId: string;
  afterId: string;
}

export const isCompared = (kind: FileKind): boolean => kind === 'drawing' || kind === 'model';

/** Begins what was never begun, and goes on with what was stopped; answers its id. */
export async function compareVersions({ db, enqueue }: Change, pair: VersionPair): Promise<string> {
  const [begun] = await db
    .insert(comparisons)
    .values({ ...pair, status: 'waiting', askedAt: now() })
    .onConflictDoNothing()
    .returning({ id: comparisons.id });
  const at = and(eq(comparisons.beforeId, pair.beforeId), eq(comparisons.afterId, pair.afterId));
  const [resumed] = begun
    ? [begun]
    : await db
        .update(comparisons)
        .set({ status: 'waiting' })
        .where(and(at, inArray(comparisons.status, ['cancelled', 'failed'])))
        .returning({ id: comparisons.id });
  if (resumed) {
    await enqueue(COMPARE, { comparisonId: resumed.id });
    return resumed.id;
  }
  const [kept] = await db.select({ id: comparisons.id }).from(comparisons).where(at);
  return kept!.id;
}

/** A version is ready: it is compared with its neighbours in the sequence that are. */
export async function compareWithNeighbours(unit: Change, version: PreparedVersion): Promise<void> {
  const { id, projectId, number, kind } = version;
  if (!isCompared(kind)) return;
  const before = await versionBefore(unit.db, version, number);
  const after = await versionAfter(unit.db, version, number);
  if (before?.preparation === 'ready') await compareVersions(unit, { projectId, beforeId: before.id, afterId: id });
  if (after?.preparation === 'ready') await compareVersions(unit, { projectId, beforeId: id, afterId: after.id });
}
