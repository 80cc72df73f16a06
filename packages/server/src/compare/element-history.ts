/** One element over all versions of its model: who changed it, when, and how. */
import type { ElementMoment } from '@kindred/contract/compare/compare';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';
import { containers, versions } from '../register/schema.ts';
import { visibleVersion } from '../register/versions.ts';
import { versionVisibleTo } from '../register/visibility.ts';
import { changedElements, comparisons } from './schema.ts';

/** `globalId`: as the element is called in that version; before and after it may have had another one. */
export async function listElementHistory(
  { db }: Platform,
  actor: Member,
  versionId: string,
  globalId: string,
): Promise<ElementMoment[]> {
  const seen = await visibleVersion(db, actor, versionId);
  const line = await db
    .select({ version: versions })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(and(versionVisibleTo(actor), eq(versions.containerId, seen.containerId), eq(versions.kind, 'model')))
    .orderBy(asc(versions.number));
  const ids = line.map(({ version }) => version.id);
  const known = await db
    .select()
    .from(comparisons)
    .where(and(inArray(comparisons.beforeId, ids), inArray(comparisons.afterId, ids), eq(comparisons.status, 'ready')));
  const between = (before: string | undefined, after: string) =>
    known.find(({ beforeId, afterId }) => beforeId === before && afterId === after)?.id;
  const steps = line.map(({ version }, i) => ({
    version,
    before: line[i - 1]?.version.number ?? null,
    comparisonId: between(line[i - 1]?.version.id, version.id),
  }));
  const at = ids.indexOf(versionId);
  const changeOf = async (comparisonId: string | undefined, side: 'globalId' | 'formerId', id: string) => {
    if (!comparisonId) return undefined;
    const rows = await db
      .select({ change: changedElements.change })
      .from(changedElements)
      .where(and(eq(changedElements.comparisonId, comparisonId), eq(changedElements[side], id)))
      .limit(1);
    return rows[0]?.change;
  };
  const found = new Map<number, ElementMoment['change']>();
  // Back to where it began, then on to where it ends.
  let id = globalId;
  for (let i = at; i >= 0; i--) {
    const change = await changeOf(steps[i]!.comparisonId, 'globalId', id);
    found.set(i, change ?? null);
    if (change?.kind === 'added') break;
    id = change?.formerId ?? id;
  }
  id = globalId;
  for (let i = at + 1; i < steps.length; i++) {
    const { comparisonId } = steps[i]!;
    const change =
      (await changeOf(comparisonId, 'formerId', id)) ?? (await changeOf(comparisonId, 'globalId', id)) ?? null;
    found.set(i, change);
    if (change?.kind === 'removed') break;
    id = change?.globalId ?? id;
  }
  const persons = await personsById(
    db,
    steps.map(({ version }) => version.deliveredBy),
  );
  return [...found.keys()]
    .sort((a, b) => b - a)
    .map((i) => {
      const { version, before, comparisonId } = steps[i]!;
      return {
        ...{ versionId: version.id, number: version.number, revision: version.revision, before },
        deliveredAt: version.deliveredAt.toISOString(),
        deliveredBy: persons.get(version.deliveredBy)!,
        compared: comparisonId !== undefined,
        change: found.get(i) ?? null,
      };
    });
}
