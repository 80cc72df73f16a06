/** Measures of markups, in words. */
import type { Measure } from '@kindred/core/markup/measure';
import type { MeasureKind } from '@kindred/core/scene/measure';
import type { Total } from '@kindred/core/markup/totals';
import { formatLength, type LengthUnits } from '@kindred/core/platform/length';

const CUBIC_METRES_PER_CUBIC_FOOT = 0.3048 ** 3;
const SQUARE_METRES_PER_SQUARE_FOOT = 0.3048 ** 2;

export interface MeasureUnits {
  units: LengthUnits;
  /** Denominator of the smallest fraction of an inch. */
  inchFraction: number;
}

/** `12.35 m`, `24.00 m² (20.00 m around)`, `90.0°`, `5 pieces`. */
export function sayMeasure(measure: Measure, { units, inchFraction }: MeasureUnits): string {
  const length = (metres: number): string => formatLength(metres, units, inchFraction);
  switch (measure.of) {
    case 'length':
      return length(measure.metres);
    case 'area':
      return `${sayArea(measure.squareMetres, units)} (${length(measure.around)} around)`;
    case 'angle':
      return `${measure.degrees.toFixed(1)}°`;
    case 'count':
      return `${measure.count} ${measure.count === 1 ? 'piece' : 'pieces'}`;
  }
}

/** `12.35 m`, `24.00 m²`, `5 pieces`. */
export function sayTotal({ sum, unit }: Pick<Total, 'sum' | 'unit'>, units: MeasureUnits): string {
  if (unit === 'area') return sayArea(sum, units.units);
  return sayMeasure(unit === 'length' ? { of: 'length', metres: sum } : { of: 'count', count: sum }, units);
}

/** What was measured in a scene: `2.70 m`, `90.0°`, `12.00 m²`, `0.84 m³`. */
export function saySpaceMeasure(kind: MeasureKind, value: number, { units, inchFraction }: MeasureUnits): string {
  if (kind === 'angle') return `${((value * 180) / Math.PI).toFixed(1)}°`;
  if (kind === 'area') return sayArea(value, units);
  if (kind === 'volume')
    return units === 'feet and inches'
      ? `${(value / CUBIC_METRES_PER_CUBIC_FOOT).toFixed(1)} cu ft`
      : `${value.toFixed(value < 1 ? 3 : 2)} m³`;
  return formatLength(value, units, inchFraction, 3);
}

const sayArea = (squareMetres: number, units: LengthUnits): string =>
  units === 'feet and inches'
    ? `${(squareMetres / SQUARE_METRES_PER_SQUARE_FOOT).toFixed(1)} sq ft`
    : `${squareMetres.toFixed(2)} m²`;
