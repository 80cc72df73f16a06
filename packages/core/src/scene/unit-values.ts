/** Values in units that stand for the same, whichever of them an author chose. */

const INCH = 0.0254;
const FOOT = 0.3048;
/** Metres, by symbol. */
export const LENGTHS: Readonly<Record<string, number>> = {
  mm: 1e-3,
  cm: 1e-2,
  dm: 0.1,
  m: 1,
  km: 1e3,
  in: INCH,
  ft: FOOT,
  yd: 3 * FOOT,
};
const powers = (n: 2 | 3, mark: string): Record<string, number> =>
  Object.fromEntries(Object.entries(LENGTHS).map(([unit, metres]) => [unit + mark, metres ** n]));
/** Square metres and cubic metres, by symbol. */
export const AREAS: Readonly<Record<string, number>> = powers(2, '²');
export const VOLUMES: Readonly<Record<string, number>> = { ...powers(3, '³'), l: 1e-3 };
const ANGLES: Readonly<Record<string, number>> = { rad: 1, '°': Math.PI / 180 };

/** Of like kind in like units: `[2.4, 'm']` for 2400 mm; as it is where the unit is none of these. */
export function inBaseUnit(value: number, unit = ''): [value: number, unit: string] {
  for (const [units, base] of [
    [LENGTHS, 'm'],
    [AREAS, 'm²'],
    [VOLUMES, 'm³'],
    [ANGLES, 'rad'],
  ] as const) {
    const factor = units[unit];
    if (factor !== undefined) return [value * factor, base];
  }
  return [value, unit];
}
