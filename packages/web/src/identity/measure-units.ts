/** The units in which somebody reads measures: their own, else those of the project. */
import type { LengthUnits } from '@kindred/core/platform/length';
import type { MeasureUnits } from '@kindred/words/measures';
import { computed } from 'vue';
import { settings } from '../platform/settings.ts';
import { usePreference } from './preferences.ts';

/** As the project measures, or as one likes it oneself. */
export type ChosenUnits = 'project' | LengthUnits;

export function useMeasureUnits() {
  const chosen = usePreference<ChosenUnits>('units-of-measures', 'project');
  const units = computed((): MeasureUnits => ({
    units: chosen.value === 'project' ? settings.units : chosen.value,
    inchFraction: settings.inchFraction,
  }));
  return { chosen, units };
}
