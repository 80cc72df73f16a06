/** Values of PDF objects as they are meant; what is missing or of another kind has none. */
import {
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFName,
  PDFNumber,
  PDFString,
  pdfDocEncodingDecode,
  utf16Decode,
} from '@cantoo/pdf-lib';

export const value = (dict: PDFDict, key: string): unknown => dict.lookup(PDFName.of(key));

/** Text is UTF-16 or UTF-8 by its mark, else PDFDocEncoding. */
export function textOf(found: unknown): string {
  if (found instanceof PDFName) return found.decodeText();
  if (!(found instanceof PDFString || found instanceof PDFHexString)) return '';
  const bytes = found.asBytes();
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return withoutLanguage(utf16Decode(bytes));
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes.subarray(2));
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return new TextDecoder().decode(bytes.subarray(3));
  return pdfDocEncodingDecode(bytes);
}
/** The language of a text may be named in it between two escapes. */
const ESCAPE = String.fromCharCode(27);
const withoutLanguage = (text: string): string =>
  text
    .split(ESCAPE)
    .filter((_, i) => i % 2 === 0)
    .join('');

export const numberOf = (found: unknown): number | undefined =>
  found instanceof PDFNumber && Number.isFinite(found.asNumber()) ? found.asNumber() : undefined;

/** The numbers of an array; empty where one of them is none. */
export function numbersOf(found: unknown): number[] {
  if (!(found instanceof PDFArray)) return [];
  const numbers = Array.from({ length: found.size() }, (_, i) => numberOf(found.lookup(i)));
  return numbers.every((number) => number !== undefined) ? numbers : [];
}

const hex = (part: number): string =>
  Math.round(255 * Math.max(0, Math.min(1, part)))
    .toString(16)
    .padStart(2, '0');

/** Grey, RGB or CMYK from 0 to 1 as `#rrggbb`; no part at all is no colour. */
export function colourOf(parts: readonly number[]): string | null {
  const [a = 0, b = 0, c = 0, k = 0] = parts;
  if (parts.length === 1) return `#${hex(a).repeat(3)}`;
  if (parts.length === 3) return `#${hex(a)}${hex(b)}${hex(c)}`;
  if (parts.length === 4) return `#${[a, b, c].map((part) => hex((1 - part) * (1 - k))).join('')}`;
  return null;
}

/** Parts from 0 to 1. */
export const partsOf = (colour: string): [number, number, number] => [
  parseInt(colour.slice(1, 3), 16) / 255,
  parseInt(colour.slice(3, 5), 16) / 255,
  parseInt(colour.slice(5, 7), 16) / 255,
];
