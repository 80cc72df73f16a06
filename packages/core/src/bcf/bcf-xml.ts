/** XML of BCF files: texts stay texts, and what one does not know is passed over. */
import { XMLParser } from 'fast-xml-parser';
import { CodedError } from '../platform/coded-error.ts';
import { decodeText } from '../platform/decode-text.ts';
import { declaresEntities, RAW_XML } from '../platform/xml.ts';

/** An element: attributes begin with `@`, the text of one that has attributes too is `#text`, elements are in lists. */
export type Xml = Record<string, unknown>;

const parser = new XMLParser({
  ...RAW_XML,
  isArray: (_name, _path, _leaf, isAttribute) => !isAttribute,
});

/** The root element. Throws `bcf-xml` where it cannot be read, `bcf-entities` where it declares a document type: nobody needs one. */
export function parseXml(bytes: Uint8Array, name: string): Xml {
  const { text } = decodeXml(bytes, name);
  if (declaresEntities(text)) throw new CodedError('bcf-entities', { name });
  let root: Xml;
  try {
    root = parser.parse(text, true) as Xml;
  } catch (error) {
    throw new CodedError('bcf-xml', { name, reason: String((error as Error).message).slice(0, 200) });
  }
  const [element] = Object.entries(root).flatMap(([key, value]) => (key.startsWith('?') ? [] : (value as unknown[])));
  if (element === undefined) throw new CodedError('bcf-xml', { name, reason: 'no element' });
  return typeof element === 'object' && element !== null ? (element as Xml) : {};
}

/** By its mark, by the zeros of UTF-16 without one, else as any text. */
function decodeXml(bytes: Uint8Array, name: string): { text: string } {
  const bare = bytes[0] === 0x3c && bytes[1] === 0 ? 'utf-16le' : bytes[0] === 0 && bytes[1] === 0x3c ? 'utf-16be' : '';
  try {
    return bare ? { text: new TextDecoder(bare).decode(bytes) } : decodeText(bytes);
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    throw new CodedError('bcf-xml', { name, reason: 'no text' });
  }
}

export const children = (element: Xml | undefined, name: string): Xml[] =>
  ((element?.[name] as unknown[] | undefined) ?? []).map((one) =>
    typeof one === 'object' && one !== null ? (one as Xml) : { '#text': one },
  );
export const child = (element: Xml | undefined, name: string): Xml | undefined => children(element, name)[0];
/** The text of the element itself; parts around children are one. */
export function ownText(element: Xml | undefined): string {
  const said = element?.['#text'];
  return Array.isArray(said) ? said.join('') : typeof said === 'string' ? said : '';
}
/** Of a child; null where there is none, or nothing but blanks in it. */
export function textOf(element: Xml | undefined, name: string): string | null {
  const found = ownText(child(element, name));
  return found.trim() === '' ? null : found;
}
export function attribute(element: Xml | undefined, ...names: string[]): string | null {
  for (const name of names) {
    const found = element?.[`@${name}`];
    if (typeof found === 'string' && found.trim() !== '') return found.trim();
  }
  return null;
}
/** xs:boolean. */
export const isTrue = (said: string | null): boolean => said === 'true' || said === '1';
