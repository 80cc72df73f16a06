/** A filter as it stands in an address, and is kept under a name. */
import { FILTER_TESTS, type ElementFilter, type FilterCondition } from '@kindred/core/scene/element-filter';

export const NO_FILTER: ElementFilter = { match: 'all', conditions: [] };
/** More conditions nobody writes by hand; an address does not hold them. */
const MOST = 20;

export const filterText = ({ match, conditions }: ElementFilter): string =>
  conditions.length
    ? JSON.stringify([match, ...conditions.map(({ set, name, test, value }) => [set, name, test, value])])
    : '';

/** What is no filter is none at all. */
export function readFilter(text: string): ElementFilter {
  const said = parsed(text);
  if (!Array.isArray(said)) return NO_FILTER;
  const [match, ...rows] = said as unknown[];
  if ((match !== 'all' && match !== 'any') || rows.length > MOST) return NO_FILTER;
  const conditions = rows.map(conditionOf);
  return conditions.every((one) => one !== undefined) ? { match, conditions } : NO_FILTER;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text || 'null');
  } catch (error) {
    if (error instanceof SyntaxError) return null;
    throw error;
  }
}

function conditionOf(row: unknown): FilterCondition | undefined {
  if (!Array.isArray(row) || row.length !== 4 || !row.every((part) => typeof part === 'string')) return undefined;
  const [set, name, said, value] = row as [string, string, string, string];
  const test = FILTER_TESTS.find((one) => one === said);
  return test && { set, name, test, value };
}
