/** Units as a file names them: each value has its own, else that which the project assigned to its measure. */
import { argsOf, enumeration, instances, reference, references, text } from './ifc-structure.ts';
import { readInstance, type StepFile } from './step-reader.ts';

/** Symbols of the SI (ISO 80000-1), by the name in IfcSIUnitName; what a prefix stands before is the first part. */
const SI: Record<string, string> = {
  METRE: 'm',
  SQUARE_METRE: 'm²',
  CUBIC_METRE: 'm³',
  GRAM: 'g',
  SECOND: 's',
  AMPERE: 'A',
  KELVIN: 'K',
  DEGREE_CELSIUS: '°C',
  MOLE: 'mol',
  CANDELA: 'cd',
  RADIAN: 'rad',
  STERADIAN: 'sr',
  HERTZ: 'Hz',
  NEWTON: 'N',
  PASCAL: 'Pa',
  JOULE: 'J',
  WATT: 'W',
  COULOMB: 'C',
  VOLT: 'V',
  FARAD: 'F',
  OHM: 'Ω',
  SIEMENS: 'S',
  WEBER: 'Wb',
  TESLA: 'T',
  HENRY: 'H',
  LUMEN: 'lm',
  LUX: 'lx',
  BECQUEREL: 'Bq',
  GRAY: 'Gy',
  SIEVERT: 'Sv',
};
const PREFIXES: Record<string, string> = {
  EXA: 'E',
  PETA: 'P',
  TERA: 'T',
  GIGA: 'G',
  MEGA: 'M',
  KILO: 'k',
  HECTO: 'h',
  DECA: 'da',
  DECI: 'd',
  CENTI: 'c',
  MILLI: 'm',
  MICRO: 'µ',
  NANO: 'n',
  PICO: 'p',
  FEMTO: 'f',
  ATTO: 'a',
};
/** Names of conversion based units (IFC4, IfcConversionBasedUnit), upper-case. */
const CONVERSIONS: Record<string, string> = {
  INCH: 'in',
  FOOT: 'ft',
  YARD: 'yd',
  MILE: 'mi',
  'SQUARE INCH': 'in²',
  'SQUARE FOOT': 'ft²',
  'SQUARE YARD': 'yd²',
  ACRE: 'ac',
  'SQUARE MILE': 'mi²',
  'CUBIC INCH': 'in³',
  'CUBIC FOOT': 'ft³',
  'CUBIC YARD': 'yd³',
  LITRE: 'l',
  DEGREE: '°',
  OUNCE: 'oz',
  POUND: 'lb',
  'POUND-FORCE': 'lbf',
  MINUTE: 'min',
  HOUR: 'h',
  DAY: 'd',
  FAHRENHEIT: '°F',
  BTU: 'Btu',
};
/** Measures that are measured in the unit of another one. */
const MEASURED_AS: Record<string, string> = {
  POSITIVELENGTH: 'LENGTH',
  NONNEGATIVELENGTH: 'LENGTH',
  POSITIVEPLANEANGLE: 'PLANEANGLE',
  WEIGHT: 'MASS',
};
/** Units of a file that assigns none: those of the SI. */
const UNASSIGNED: Record<string, string> = {
  LENGTH: 'm',
  AREA: 'm²',
  VOLUME: 'm³',
  MASS: 'kg',
  TIME: 's',
  PLANEANGLE: 'rad',
  SOLIDANGLE: 'sr',
  THERMODYNAMICTEMPERATURE: 'K',
  ELECTRICCURRENT: 'A',
  ELECTRICVOLTAGE: 'V',
  ELECTRICRESISTANCE: 'Ω',
  POWER: 'W',
  FORCE: 'N',
  PRESSURE: 'Pa',
  ENERGY: 'J',
  FREQUENCY: 'Hz',
  ILLUMINANCE: 'lx',
  LUMINOUSFLUX: 'lm',
  LUMINOUSINTENSITY: 'cd',
  VOLUMETRICFLOWRATE: 'm³/s',
  MASSFLOWRATE: 'kg/s',
  MASSDENSITY: 'kg/m³',
  LINEARVELOCITY: 'm/s',
  ACCELERATION: 'm/s²',
  THERMALTRANSMITTANCE: 'W/(m²·K)',
  THERMALCONDUCTIVITY: 'W/(m·K)',
  THERMALRESISTANCE: 'm²·K/W',
  HEATFLUXDENSITY: 'W/m²',
  TORQUE: 'N·m',
  MOMENTOFINERTIA: 'm⁴',
};
const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

export class Units {
  /** Symbols by measure: `LENGTH`, `THERMALTRANSMITTANCE`. */
  private readonly assigned = new Map<string, string>();
  private readonly symbols = new Map<number, string>();

  constructor(private readonly file: StepFile) {
    for (const id of instances(file, 'IFCUNITASSIGNMENT').flatMap((list) => references(argsOf(file, list)[0]))) {
      const measure = measureOf(file, id);
      const symbol = this.symbolOf(id);
      if (measure && symbol && !this.assigned.has(measure)) this.assigned.set(measure, symbol);
    }
  }

  /** Of a measure or quantity as STEP names it, `IFCAREAMEASURE` or `IFCQUANTITYAREA`; none for what is only counted or said. */
  of(type: string): string | undefined {
    const measure = /^IFC(?:QUANTITY(\w+)|(\w+?)MEASURE)$/.exec(type);
    const name = measure?.[1] ?? measure?.[2];
    if (!name) return undefined;
    const own = MEASURED_AS[name] ?? name;
    return this.assigned.get(own) ?? UNASSIGNED[own];
  }

  /** Of any IfcUnit, `kN/m²`; none where it names nothing that is one. */
  symbolOf(id: number, depth = 0): string | undefined {
    const known = this.symbols.get(id);
    if (known !== undefined) return known || undefined;
    const symbol = depth > 4 ? '' : this.read(id, depth);
    this.symbols.set(id, symbol);
    return symbol || undefined;
  }

  private read(id: number, depth: number): string {
    const unit = readInstance(this.file, id);
    if (!unit) return '';
    const { type, args } = unit;
    if (type === 'IFCSIUNIT') return `${PREFIXES[enumeration(args[2])] ?? ''}${SI[enumeration(args[3])] ?? ''}`;
    if (type.startsWith('IFCCONVERSIONBASEDUNIT') || type === 'IFCCONTEXTDEPENDENTUNIT') {
      const name = text(args[2]);
      return CONVERSIONS[name.toUpperCase().replaceAll('_', ' ')] ?? name.toLowerCase();
    }
    if (type === 'IFCMONETARYUNIT') return text(args[0]) || enumeration(args[0]);
    return type === 'IFCDERIVEDUNIT' ? this.derived(references(args[0]), depth) : '';
  }

  private derived(elements: readonly number[], depth: number): string {
    const above: string[] = [];
    const below: string[] = [];
    for (const id of elements) {
      const [unit, exponent] = argsOf(this.file, id);
      const symbol = this.symbolOf(reference(unit), depth + 1);
      if (!symbol || typeof exponent !== 'number' || exponent === 0) continue;
      (exponent > 0 ? above : below).push(raised(symbol, Math.abs(exponent)));
    }
    if (!below.length) return above.join('·');
    return `${above.join('·') || '1'}/${below.length > 1 ? `(${below.join('·')})` : below[0]}`;
  }
}

/** “m” to the second power is “m²”; “m²” is put in brackets. */
function raised(symbol: string, exponent: number): string {
  if (exponent === 1) return symbol;
  const power = [...String(exponent)].map((digit) => RAISED[Number(digit)] ?? digit).join('');
  return /[²³⁴-⁹/·]/.test(symbol) ? `(${symbol})${power}` : `${symbol}${power}`;
}

/** `LENGTHUNIT` → `LENGTH`; of money `MONETARY`. */
function measureOf(file: StepFile, id: number): string | undefined {
  const unit = readInstance(file, id);
  if (!unit) return undefined;
  if (unit.type === 'IFCMONETARYUNIT') return 'MONETARY';
  const kind = enumeration(unit.args[1]);
  return /^(\w+)UNIT$/.exec(kind)?.[1];
}
