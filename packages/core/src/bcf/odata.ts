/**
 * The part of OData that the BCF API asks lists with (OData 4.01, URL conventions, 5.1.1): comparisons of a field with a value, `contains`,
 * `and`, `or`, `not` and brackets; and orders.
 */
import { CodedError } from '../platform/coded-error.ts';

export const ODATA_OPERATORS = ['eq', 'ne', 'gt', 'ge', 'lt', 'le', 'contains'] as const;
export type ODataOperator = (typeof ODATA_OPERATORS)[number];
export type ODataFilter =
  | { kind: 'and' | 'or'; of: [ODataFilter, ODataFilter] }
  | { kind: 'not'; of: ODataFilter }
  | { kind: 'compare'; field: string; operator: ODataOperator; value: string | number | null };

type Token = { kind: 'word' | 'number' | 'text' | 'mark'; text: string };
const TOKEN = /\s*(?:'((?:[^']|'')*)'|([(),])|([^\s(),']+))/y;
const DEEPEST = 50;

function tokensOf(said: string): Token[] {
  const tokens: Token[] = [];
  TOKEN.lastIndex = 0;
  while (said.slice(TOKEN.lastIndex).trim()) {
    const found = TOKEN.exec(said);
    if (!found) throw new CodedError('odata-filter', { at: said.slice(0, 60) });
    const [, text, mark, word] = found;
    if (text !== undefined) tokens.push({ kind: 'text', text: text.replaceAll("''", "'") });
    else if (mark !== undefined) tokens.push({ kind: 'mark', text: mark });
    else tokens.push({ kind: /^-?\d+(?:\.\d+)?$/.test(word!) ? 'number' : 'word', text: word! });
  }
  return tokens;
}

/** Throws CodedError `odata-filter` (`at`: what cannot be read). */
export function readFilter(said: string): ODataFilter {
  const tokens = tokensOf(said);
  let at = 0;
  const wrong = (): CodedError => new CodedError('odata-filter', { at: tokens[at]?.text ?? 'the end' });
  const isNext = (text: string): boolean => tokens[at]?.kind !== 'text' && tokens[at]?.text.toLowerCase() === text;
  function take(text: string): void {
    if (!isNext(text)) throw wrong();
    at++;
  }
  function field(): string {
    const token = tokens[at];
    if (token?.kind !== 'word') throw wrong();
    at++;
    return token.text;
  }
  function value(): string | number | null {
    const token = tokens[at];
    if (!token || token.kind === 'mark') throw wrong();
    at++;
    if (token.kind === 'number') return Number(token.text);
    return token.kind === 'word' && token.text.toLowerCase() === 'null' ? null : token.text;
  }
  function single(depth: number): ODataFilter {
    if (depth > DEEPEST) throw wrong();
    if (isNext('not')) {
      at++;
      return { kind: 'not', of: single(depth + 1) };
    }
    if (isNext('(')) {
      at++;
      const inside = either(depth + 1);
      take(')');
      return inside;
    }
    if (isNext('contains')) {
      at++;
      take('(');
      const name = field();
      take(',');
      const part = value();
      take(')');
      return { kind: 'compare', field: name, operator: 'contains', value: part };
    }
    const name = field();
    const operator = ODATA_OPERATORS.find((one) => one !== 'contains' && isNext(one));
    if (!operator) throw wrong();
    at++;
    return { kind: 'compare', field: name, operator, value: value() };
  }
  function joined(word: 'and' | 'or', part: (depth: number) => ODataFilter, depth: number): ODataFilter {
    let left = part(depth);
    while (isNext(word)) {
      at++;
      left = { kind: word, of: [left, part(depth)] };
    }
    return left;
  }
  const both = (depth: number): ODataFilter => joined('and', single, depth);
  const either = (depth: number): ODataFilter => joined('or', both, depth);
  const filter = either(0);
  if (at < tokens.length) throw wrong();
  return filter;
}

/** Throws CodedError `odata-order`. */
export const readOrder = (said: string): { field: string; descending: boolean }[] =>
  said.split(',').map((part) => {
    const [field, way = 'asc', ...rest] = part.trim().split(/\s+/);
    if (!field || rest.length || !/^(?:asc|desc)$/i.test(way)) throw new CodedError('odata-order', { at: part.trim() });
    return { field, descending: way.toLowerCase() === 'desc' };
  });
