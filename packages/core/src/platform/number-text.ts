/** The signs that a language writes numbers with. */
function signsOf(locale: string): { decimal: string; group: string } {
  const parts = new Intl.NumberFormat(locale, { useGrouping: true }).formatToParts(12345.6);
  const sign = (type: 'decimal' | 'group'): string => parts.find((part) => part.type === type)?.value ?? '';
  return { decimal: sign('decimal'), group: sign('group') };
}

const BLANKS = /[\s\u00a0\u202f’'_]/g;
const GROUPED = { ',': /^-?\d{1,3}(?:,\d{3})+$/, '.': /^-?\d{1,3}(?:\.\d{3})+$/ };

/**
 * The number that somebody typed, as their language (BCP 47) writes numbers; undefined where it is none. Where comma and point
 * both stand, the last is the decimal sign; one that stands several times parts thousands.
 */
export function readNumber(text: string, locale: string): number | undefined {
  const typed = text
    .trim()
    .replace(/^\u2212/, '-')
    .replace(BLANKS, '');
  const last = Math.max(typed.lastIndexOf(','), typed.lastIndexOf('.'));
  const sign = typed[last] as ',' | '.' | undefined;
  if (!sign) return plain(typed);
  const [whole, rest] = [typed.slice(0, last), typed.slice(last + 1)];
  const other = sign === ',' ? '.' : ',';
  if (whole.includes(other))
    return GROUPED[other].test(whole) ? plain(`${whole.replaceAll(other, '')}.${rest}`) : undefined;
  const thousands = GROUPED[sign].test(typed);
  if (whole.includes(sign)) return thousands ? plain(typed.replaceAll(sign, '')) : undefined;
  const parts = thousands && signsOf(locale).group === sign;
  return plain(parts ? whole + rest : `${whole}.${rest}`);
}

const plain = (text: string): number | undefined =>
  /^-?(?:\d+(?:\.\d*)?|\.\d+)$/.test(text) && Number.isFinite(Number(text)) ? Number(text) : undefined;

/** A number as the language writes it, with all its digits. */
export const writeNumber = (value: number, locale: string): string =>
  new Intl.NumberFormat(locale, { maximumFractionDigits: 20, useGrouping: true }).format(value);
