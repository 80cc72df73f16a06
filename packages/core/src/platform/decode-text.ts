import { CodedError } from './coded-error.ts';

/** What Windows-1252 has at 80 to 9F; some decoders leave the controls of Latin-1 there. */
const UPPER = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/**
 * Text from a file whose encoding nobody states: by its mark, else UTF-8, else Windows-1252, which spreadsheets of
 * Western Europe write. Throws CodedError `not-text` on files that are no text.
 */
export function decodeText(bytes: Uint8Array): { text: string; encoding: string } {
  const encoding = encodingOf(bytes);
  const decoded = new TextDecoder(encoding).decode(bytes);
  const text =
    encoding === 'windows-1252'
      ? decoded.replace(/[\u0080-\u009f]/g, (sign) => UPPER[sign.charCodeAt(0) - 0x80]!)
      : decoded;
  // eslint-disable-next-line no-control-regex
  if (/[\u0000-\u0008\u000e-\u001a]/.test(text)) throw new CodedError('not-text');
  return { text, encoding };
}

function encodingOf(bytes: Uint8Array): string {
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe) return 'utf-16le';
  if (first === 0xfe && second === 0xff) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}
