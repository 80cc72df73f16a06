/** What is said of an element in two versions: value by value, whatever units and order they are written in. */
import type { ElementTable } from '../scene/prepare-model.ts';
import type { Property, PropertySet } from '../scene/ifc-properties.ts';
import type { DecodedProperties } from '../scene/property-file.ts';
import { storeyOf } from '../scene/storeys.ts';
import { inBaseUnit } from '../scene/unit-values.ts';

export type SaidValue = Pick<Property, 'value' | 'unit'>;
export interface PropertyChange {
  /** Empty for what the element table says: name, class, type, storey. */
  set: string;
  name: string;
  /** Null where nothing is said. */
  before: SaidValue | null;
  after: SaidValue | null;
}
export interface SaidModel {
  table: ElementTable;
  properties: DecodedProperties;
}

/** As part of the larger: numbers that were written in another unit differ by no more. */
const ROUNDING = 1e-6;

export class PropertyComparison {
  /** By the numbers of the sets of both elements: most elements share theirs with many others. */
  private readonly known = new Map<string, readonly PropertyChange[]>();

  constructor(
    private readonly before: SaidModel,
    private readonly after: SaidModel,
  ) {}

  changesOf(before: number, after: number): PropertyChange[] {
    const [a, b] = [numbersOf(this.before, before), numbersOf(this.after, after)];
    const key = `${a.join()}|${b.join()}`;
    let changes = this.known.get(key);
    if (!changes) {
      const setsOf = ({ properties }: SaidModel, numbers: Uint32Array) => [...numbers].map((n) => properties.sets[n]!);
      changes = differences(valuesOf(setsOf(this.before, a)), valuesOf(setsOf(this.after, b)));
      this.known.set(key, changes);
    }
    return [...differences(tableValues(this.before.table, before), tableValues(this.after.table, after)), ...changes];
  }
}

const numbersOf = ({ properties: { numbers, starts } }: SaidModel, row: number): Uint32Array =>
  numbers.subarray(starts[row], starts[row + 1]);

type Values = Map<string, { set: string; name: string; said: SaidValue }>;

function tableValues(table: ElementTable, row: number): Values {
  const storey = table.nodes[storeyOf(table.nodes, table.node[row]!)];
  const place = storey ?? table.nodes[table.node[row]!];
  const said: [string, string][] = [
    ['Name', table.name[row]!],
    ['Class', table.classes[table.class[row]!]!],
    ['Type', table.types[table.type[row]!] ?? ''],
    ['Storey', place?.name ?? ''],
  ];
  return new Map(
    said.filter(([, value]) => value !== '').map(([name, value]) => [name, { set: '', name, said: { value } }]),
  );
}

/** What an element says itself holds before what its type says; of equal names (layers, materials) each stands for itself. */
function valuesOf(sets: readonly PropertySet[]): Values {
  const values: Values = new Map();
  for (const from of ['element', 'type'] as const) {
    const seen = new Map<string, number>();
    for (const { name: set, kind, properties, from: of } of sets)
      if (of === from)
        for (const { name, value, unit } of properties) {
          const key = `${kind}\n${set}\n${name}`;
          const count = seen.get(key) ?? 0;
          seen.set(key, count + 1);
          const numbered = count ? `${key}\n${count}` : key;
          if (!values.has(numbered))
            values.set(numbered, { set, name, said: unit === undefined ? { value } : { value, unit } });
        }
  }
  return values;
}

function differences(before: Values, after: Values): PropertyChange[] {
  const changes: PropertyChange[] = [];
  for (const [key, { set, name, said }] of before) {
    const now = after.get(key)?.said ?? null;
    if (!now || !isSame(said, now)) changes.push({ set, name, before: said, after: now });
  }
  for (const [key, { set, name, said }] of after)
    if (!before.has(key)) changes.push({ set, name, before: null, after: said });
  return changes;
}

export function isSame(a: SaidValue, b: SaidValue): boolean {
  if (typeof a.value !== 'number' || typeof b.value !== 'number')
    return a.value === b.value && (a.unit ?? '') === (b.unit ?? '');
  const [x, unit] = inBaseUnit(a.value, a.unit);
  const [y, other] = inBaseUnit(b.value, b.unit);
  return unit === other && Math.abs(x - y) <= ROUNDING * Math.max(Math.abs(x), Math.abs(y));
}
