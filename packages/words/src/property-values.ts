/** Values of elements, as their author wrote them or in the units of whoever reads. */
import { saySpaceMeasure, type MeasureUnits } from './measures.ts';
import { formatLength } from '@kindred/core/platform/length';
import { AREAS, LENGTHS, VOLUMES } from '@kindred/core/scene/unit-values';

export interface PropertyValue {
  value: string | number | boolean | null;
  unit?: string;
}

/** `1130 mm`, `yes`, `none`: as it was written, four digits behind the point at most. */
export function sayValue({ value, unit }: PropertyValue): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value === null) return 'none';
  const text = typeof value === 'number' ? String(Math.round(value * 1e4) / 1e4) : value;
  return unit ? `${text} ${unit}` : text;
}

/** `1.13 m`, `0.04 m³`, `23.0°`, `20.0 °C`: lengths, areas, volumes, angles and temperatures; null for all that has no other unit here. */
export function sayConverted({ value, unit = '' }: PropertyValue, units: MeasureUnits): string | null {
  if (typeof value !== 'number') return null;
  const length = LENGTHS[unit];
  if (length !== undefined) return formatLength(value * length, units.units, units.inchFraction, 3);
  const area = AREAS[unit];
  if (area !== undefined) return saySpaceMeasure('area', value * area, units);
  const volume = VOLUMES[unit];
  if (volume !== undefined) return saySpaceMeasure('volume', value * volume, units);
  if (unit === 'rad') return saySpaceMeasure('angle', value, units);
  const celsius = unit === 'K' ? value - 273.15 : unit === '°C' ? value : unit === '°F' ? (value - 32) / 1.8 : null;
  if (celsius === null) return null;
  return units.units === 'feet and inches' ? `${(celsius * 1.8 + 32).toFixed(1)} °F` : `${celsius.toFixed(1)} °C`;
}
