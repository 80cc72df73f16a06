/** GUIDs as BCF wants them: small hexadecimal letters with hyphens. */
const WHOLE = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** What is written as one in another way; null where it is none. */
export function guidFrom(said: string): string | null {
  const digits = said.toLowerCase().replace(/[^0-9a-f]/g, '');
  const other = said.toLowerCase().replace(/[-{}()\s]/g, '');
  if (digits.length !== 32 || other !== digits) return null;
  const guid = hyphenated(digits);
  return WHOLE.test(guid) ? guid : null;
}

/** The same for the same words: what has no GUID of its own keeps one from file to file. FNV-1a, four times with other beginnings. */
export function guidOf(words: string): string {
  let digits = '';
  for (let part = 0; part < 4; part++) {
    let hash = (0x811c9dc5 ^ (part * 0x9e3779b9)) >>> 0;
    for (let i = 0; i < words.length; i++) hash = Math.imul(hash ^ words.charCodeAt(i), 0x01000193) >>> 0;
    digits += hash.toString(16).padStart(8, '0');
  }
  return hyphenated(digits);
}

const hyphenated = (digits: string): string =>
  [digits.slice(0, 8), digits.slice(8, 12), digits.slice(12, 16), digits.slice(16, 20), digits.slice(20)].join('-');
