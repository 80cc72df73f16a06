/** Elements counted and summed: by the values of properties, one within the other. */
import type { ElementIndex, PropertyKey, Value } from './element-index.ts';

export interface ElementGroup {
  /** Null: nothing is said. */
  value: Value | null;
  rows: Uint32Array;
}

/** Rows by the value of a property, the most frequent first, those without one last. O(rows of the model). */
export function groupElements(index: ElementIndex, by: PropertyKey, rows: Uint32Array): ElementGroup[] {
  const column = index.get(by);
  const valueOf = new Int32Array(index.size).fill(-1);
  column?.rows.forEach((row, i) => {
    // Of several values, as of materials, the first counts.
    if (valueOf[row]! < 0) valueOf[row] = column.of[i]!;
  });
  const groups = new Map<number, number[]>();
  for (const row of rows) {
    const known = groups.get(valueOf[row]!);
    if (known) known.push(row);
    else groups.set(valueOf[row]!, [row]);
  }
  return [...groups]
    .sort(([a, one], [b, other]) => Number(a < 0) - Number(b < 0) || other.length - one.length)
    .map(([number, members]) => ({
      value: number < 0 ? null : column!.values[number]!,
      rows: Uint32Array.from(members),
    }));
}

export interface ScheduleRow {
  /** A value for each property that is grouped by. */
  values: (Value | null)[];
  count: number;
  /** For each property that is summed; null where no element says a number. */
  sums: (number | null)[];
  rows: Uint32Array;
}

/** One line for each combination of values. */
export function scheduleElements(
  index: ElementIndex,
  { by, sum }: { by: readonly PropertyKey[]; sum: readonly PropertyKey[] },
  rows: Uint32Array,
): ScheduleRow[] {
  const numbers = sum.map((key) => numbersOf(index, key));
  const line = (values: (Value | null)[], members: Uint32Array): ScheduleRow => ({
    values,
    count: members.length,
    sums: numbers.map((of) => sumOf(of, members)),
    rows: members,
  });
  const within = (values: (Value | null)[], members: Uint32Array, depth: number): ScheduleRow[] => {
    const key = by[depth];
    if (!key) return [line(values, members)];
    return groupElements(index, key, members).flatMap((group) =>
      within([...values, group.value], group.rows, depth + 1),
    );
  };
  return within([], rows, 0);
}

/** A number for each row; NaN where none is said. */
function numbersOf(index: ElementIndex, key: PropertyKey): Float64Array {
  const numbers = new Float64Array(index.size).fill(NaN);
  const column = index.get(key);
  column?.rows.forEach((row, i) => {
    const value = column.values[column.of[i]!];
    if (typeof value === 'number' && Number.isNaN(numbers[row])) numbers[row] = value;
  });
  return numbers;
}

function sumOf(numbers: Float64Array, rows: Uint32Array): number | null {
  let [sum, any] = [0, false];
  for (const row of rows) {
    const value = numbers[row]!;
    if (Number.isNaN(value)) continue;
    sum += value;
    any = true;
  }
  return any ? sum : null;
}
