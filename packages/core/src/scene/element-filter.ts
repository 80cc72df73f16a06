/** Elements by conditions on their properties. */
import { rowsWhere, type ElementIndex, type PropertyKey, type Value } from './element-index.ts';

export const FILTER_TESTS = ['is', 'is not', 'contains', 'from', 'to', 'is said', 'is not said'] as const;
export type FilterTest = (typeof FILTER_TESTS)[number];

export interface FilterCondition extends PropertyKey {
  test: FilterTest;
  /** As it is typed: a number where the property is one. Nothing for “is said”. */
  value: string;
}
export interface ElementFilter {
  /** All conditions hold, or any of them. */
  match: 'all' | 'any';
  conditions: readonly FilterCondition[];
}

/** Rows for which the filter holds; without conditions all of them. O(conditions × rows). */
export function filterElements(index: ElementIndex, { match, conditions }: ElementFilter): Uint32Array {
  const holds = new Uint8Array(index.size);
  for (const condition of conditions) {
    const own = rowsOf(index, condition);
    for (let row = 0; row < own.length; row++) holds[row]! += own[row]!;
  }
  const enough = match === 'all' || !conditions.length ? conditions.length : 1;
  return rowsWhere(index.size, (row) => holds[row]! >= enough);
}

function rowsOf(index: ElementIndex, condition: FilterCondition): Uint8Array {
  const holds = new Uint8Array(index.size);
  const negative = condition.test === 'is not' || condition.test === 'is not said';
  if (negative) holds.fill(1);
  const column = index.get(condition);
  if (!column) return holds;
  const test = testOf(condition);
  const said = column.values.map((value) => test(value));
  column.rows.forEach((row, i) => {
    if (said[column.of[i]!]) holds[row] = negative ? 0 : 1;
  });
  return holds;
}

/** Of a value that is said; the negative ones as if they were not. */
function testOf({ test, value }: FilterCondition): (said: Value) => boolean {
  const wanted = value.trim().toLowerCase();
  const limit = Number(value.trim().replace(',', '.'));
  switch (test) {
    case 'is':
    case 'is not':
      return (said) =>
        typeof said === 'number' ? said === limit || shown(said) === wanted : String(said).toLowerCase() === wanted;
    case 'contains':
      return (said) => String(said).toLowerCase().includes(wanted);
    case 'from':
      return (said) => typeof said === 'number' && wanted !== '' && said >= limit;
    case 'to':
      return (said) => typeof said === 'number' && wanted !== '' && said <= limit;
    default:
      return () => true;
  }
}

/** A number as it stands on the screen: four digits behind the point at most. */
const shown = (value: number): string => String(Math.round(value * 1e4) / 1e4);
