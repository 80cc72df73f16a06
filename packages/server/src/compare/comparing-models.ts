/** What changed between two versions of a model, found in a process of its own and kept whole or not at all. */
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { sayMotion } from '@kindred/words/model-changes';
import { eq } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { ProblemError } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { keptModel } from '../preparation/kept-models.ts';
import type { FoundModelChanges } from '../preparation/messages.ts';
import type { Ask } from '../preparation/once.ts';
import { changedElements, comparedSheets, comparisons, type KeptChange } from './schema.ts';

/** A model counts as one sheet. */
const WHOLE = 1;
/** Rows of one insert: PostgreSQL takes so many parameters. */
const ROWS = 5000;

/** False where the two could not be compared, which is said. */
export async function compareModelsOf(
  { db }: Platform,
  ask: Ask,
  comparisonId: string,
  beforeId: string,
  afterId: string,
): Promise<boolean> {
  const [before, after] = [await keptModel(db, beforeId), await keptModel(db, afterId)];
  const found = before && after ? await foundIn(() => ask([before, after], {}, 'not-compared')) : NOT_KEPT;
  const sheet = { comparisonId, position: WHOLE };
  await db.transaction(async (unit) => {
    await unit.delete(comparedSheets).where(eq(comparedSheets.comparisonId, comparisonId));
    await unit.delete(changedElements).where(eq(changedElements.comparisonId, comparisonId));
    if (typeof found === 'string') {
      await unit.insert(comparedSheets).values({ ...sheet, outcome: 'failed', note: found });
      return;
    }
    const { motion, counts, changes } = found;
    await unit.insert(comparedSheets).values({
      ...{ ...sheet, outcome: 'compared', counts, changes: changes.map(inShort) },
      note: motion ? `${sayMotion(motion)}: changes of elements are told against that.` : '',
    });
    await insertElements(unit, comparisonId, changes);
    const restStays = motion === null && found.renamed === 0;
    await unit.update(comparisons).set({ restStays }).where(eq(comparisons.id, comparisonId));
  });
  return typeof found !== 'string';
}

const NOT_KEPT = 'What these models hold is not known: prepare them again.';

/** The changes, or the sentence that says why there are none. */
async function foundIn(ask: () => Promise<FoundModelChanges>): Promise<FoundModelChanges | string> {
  try {
    return await ask();
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return error.detail;
  }
}

async function insertElements(db: Db, comparisonId: string, changes: readonly ModelChange[]): Promise<void> {
  for (let from = 0; from < changes.length; from += ROWS)
    await db.insert(changedElements).values(
      changes.slice(from, from + ROWS).map((change) => ({
        ...{ comparisonId, number: change.number, globalId: change.globalId, formerId: change.formerId, change },
      })),
    );
}

/** As a brief needs it: by what words a request may name it. */
const inShort = ({ number, kind, name, globalId }: ModelChange): KeptChange => ({
  ...{ number, kind, box: [0, 0, 0, 0], place: [0, 0, 0, 0] },
  before: globalId,
  after: name,
});
