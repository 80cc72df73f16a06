/** What an event changed, in words that people can read: `status: S0 → S1`, `sheet numbers: A-191, A-192`. */
const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** `sheetNumbers` → `sheet numbers`. */
const nameOf = (key: string): string => key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** Values that are only references to other things, or how often a thing was saved, tell people nothing. */
const tells = (key: string, value: unknown): boolean =>
  key !== 'edition' && key !== 'id' && !(typeof value === 'string' && ID.test(value));

const isNothing = (value: unknown): boolean =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && !value.length);

function valueWords(value: unknown): string {
  if (isNothing(value)) return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) {
    const told = value.filter((part) => tells('', part)).map(valueWords);
    return told.length === value.length ? told.join(', ') : `${value.length} chosen`;
  }
  if (isRecord(value)) return partsOf(value).join('; ') || 'none';
  return String(value);
}

const partsOf = (value: Record<string, unknown>): string[] =>
  Object.entries(value)
    .filter(([key, part]) => tells(key, part) && !isNothing(part))
    .map(([key, part]) => `${nameOf(key)}: ${valueWords(part)}`);

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** One line for each thing that changed; what is the same before and after is left out. Empty where nothing can be told. */
export function changeWords(before: unknown, after: unknown): string[] {
  if (!isRecord(before) || !isRecord(after)) {
    const only = after ?? before;
    if (only === null || only === undefined) return [];
    return isRecord(only) ? partsOf(only) : [valueWords(only)];
  }
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key) => {
    if (!tells(key, before[key]) || !tells(key, after[key])) return [];
    const [was, is] = [valueWords(before[key]), valueWords(after[key])];
    if (JSON.stringify(before[key]) === JSON.stringify(after[key])) return [];
    return [key in before ? `${nameOf(key)}: ${was} → ${is}` : `${nameOf(key)}: ${is}`];
  });
}
