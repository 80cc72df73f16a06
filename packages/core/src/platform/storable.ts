/**
 * What was read from a file, such as a database takes it: texts without NUL and without halves of surrogate pairs, numbers finite.
 * Goes through lists and plain objects; a number that is none becomes 0.
 */
export function storable<T>(value: T): T {
  if (typeof value === 'string') return storableText(value) as T;
  if (typeof value === 'number') return (Number.isFinite(value) ? value : 0) as T;
  if (Array.isArray(value)) return value.map(storable) as T;
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, part]) => [key, storable(part)])) as T;
  return value;
}

const LONE = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;
// eslint-disable-next-line no-control-regex
const storableText = (text: string): string => text.replace(/\u0000/g, '').replace(LONE, '\uFFFD');

/** Whether `storable` would leave it as it is. */
export function isStorable(value: unknown): boolean {
  if (typeof value === 'string') return storableText(value) === value;
  if (typeof value === 'number') return Number.isFinite(value);
  if (Array.isArray(value)) return value.every(isStorable);
  if (typeof value === 'object' && value !== null)
    return Object.entries(value).every(([key, part]) => isStorable(key) && isStorable(part));
  return true;
}
