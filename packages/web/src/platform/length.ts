import { formatLength } from '@kindred/core/platform/length';
import { settings } from './settings.ts';

/** Metres as the project writes lengths. */
export function useLength(): (metres: number) => string {
  return (metres) => formatLength(metres, settings.units, settings.inchFraction);
}
