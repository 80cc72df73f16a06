/** Elements by level and discipline, over all models. */
import { isOnLevel, levelsOf } from '@kindred/core/scene/levels';
import { levelOfRows } from '@kindred/core/scene/rows-on-levels';
import { elementNumber } from './engine/element-numbers.ts';
import type { LoadedModel } from './models.ts';

export const NO_LEVEL = 'On no level';
export interface LevelChoice {
  /** Names; null for all of them. */
  levels: readonly string[] | null;
  disciplines: readonly string[] | null;
}

/** Made anew when models come or go; asked again and again. */
export class LevelFilter {
  /** `elevation`: null for what stands on no level. */
  readonly levels: { name: string; elevation: number | null; elements: number }[];
  private readonly ofRows: Int16Array[];

  constructor(private readonly models: readonly LoadedModel[]) {
    const found = levelsOf(models.map(({ table }) => table.nodes));
    this.ofRows = models.map(({ table }, i) => levelOfRows(table, found, i));
    const counts = new Uint32Array(found.length + 1);
    for (const rows of this.ofRows) for (const level of rows) counts[level < 0 ? found.length : level]!++;
    this.levels = [
      ...found.map(({ name, elevation }) => ({ name: name || `${elevation.toFixed(2)} m`, elevation })),
      { name: NO_LEVEL, elevation: null },
    ]
      .map((level, i) => ({ ...level, elements: counts[i]! }))
      .filter(({ elements }, i) => elements > 0 || i < found.length);
  }

  /** Numbers of elements that are chosen. `disciplineOf`: by version. O(elements). */
  elements({ levels, disciplines }: LevelChoice, disciplineOf: (versionId: string) => string): Float64Array {
    const names = this.levels.map(({ name }) => name);
    const wanted = names.map((name) => levels === null || levels.includes(name));
    const onNone = levels === null || levels.includes(NO_LEVEL);
    const chosen = new Float64Array(this.ofRows.reduce((sum, rows) => sum + rows.length, 0));
    let count = 0;
    this.models.forEach(({ slot, versionId }, i) => {
      if (disciplines !== null && !disciplines.includes(disciplineOf(versionId))) return;
      const first = elementNumber(slot, 0);
      this.ofRows[i]!.forEach((level, row) => {
        if (level < 0 ? onNone : wanted[level]) chosen[count++] = first + row;
      });
    });
    return chosen.subarray(0, count);
  }
}

/** Names of the levels that somebody kept, by elevation: another model may call them otherwise. */
export const levelsAmong = (
  levels: LevelFilter['levels'],
  kept: readonly { elevation: number | null; name: string }[],
): string[] =>
  levels
    .filter(({ name, elevation }) =>
      kept.some((one) =>
        one.elevation === null || elevation === null ? one.name === name : isOnLevel(elevation, [one.elevation]),
      ),
    )
    .map(({ name }) => name);
