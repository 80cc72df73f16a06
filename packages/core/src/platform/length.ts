/** Lengths as a project writes them. */
export const LENGTH_UNITS = ['metric', 'millimetres', 'feet and inches'] as const;
export type LengthUnits = (typeof LENGTH_UNITS)[number];

const METRES_PER_INCH = 0.0254;
const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

/**
 * `metres` in the units of a project or a person: `12.35 m`, `12350 mm`, or feet and inches to the nearest `fraction`th of an inch: `40′ 6 1/4″`.
 * `fraction`: denominator of the smallest fraction of an inch, a power of two.
 */
export function formatLength(metres: number, units: LengthUnits, fraction = 16, decimals = 2): string {
  if (!Number.isFinite(metres)) return '–';
  if (units === 'millimetres') return `${Math.round(metres * 1000)} mm`;
  if (units === 'metric') return `${metres.toFixed(decimals).replace(/^-(0\.?0*)$/, '$1')} m`;
  const parts = Math.round((Math.abs(metres) / METRES_PER_INCH) * fraction);
  const feet = Math.floor(parts / (12 * fraction));
  const inches = Math.floor(parts / fraction) % 12;
  const rest = parts % fraction;
  const divisor = gcd(rest, fraction);
  const broken = rest ? ` ${rest / divisor}/${fraction / divisor}` : '';
  return `${metres < 0 && parts ? '−' : ''}${feet}′ ${inches}${broken}″`;
}
