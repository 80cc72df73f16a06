/** Text as STEP physical files write it (ISO 10303-21): ASCII, with escapes for everything else. */

/** Decodes `''`, `\\`, `\P.\` with `\S\`, `\X\hh`, `\X2\…\X0\` and `\X4\…\X0\` (ISO 10303-21, 6.4.3). */
export function decodeStepString(raw: string): string {
  const unquoted = raw.includes("''") ? raw.replaceAll("''", "'") : raw;
  if (!unquoted.includes('\\')) return unquoted;
  // The part of ISO 8859 that `\S\` means, until another one is named.
  let alphabet = 'A';
  return unquoted.replace(
    /\\X2\\((?:[0-9A-F]{4})*)\\X0\\|\\X4\\((?:[0-9A-F]{8})*)\\X0\\|\\X\\([0-9A-F]{2})|\\S\\([\s\S])|\\P[A-I]\\|\\\\/gi,
    (whole: string, x2?: string, x4?: string, x?: string, s?: string) => {
      if (x2 !== undefined) return fromHex(x2, 4);
      if (x4 !== undefined) return fromHex(x4, 8);
      if (x !== undefined) return String.fromCharCode(parseInt(x, 16));
      if (s !== undefined) return fromAlphabet(alphabet, s.charCodeAt(0) + 128);
      if (whole === '\\\\') return '\\';
      alphabet = whole[2]!.toUpperCase();
      return '';
    },
  );
}

/** Encodes text for a STEP string, without the surrounding quotes. */
export function encodeStepString(text: string): string {
  return text
    .replace(/\\/g, '\\\\')
    .replace(/'/g, "''")
    .replace(/[^\x20-\x7e]+/g, (run) => {
      let hex = '';
      for (let i = 0; i < run.length; i++) hex += run.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0');
      return `\\X2\\${hex}\\X0\\`;
    });
}

/** A code of the upper half of ISO 8859-1 (A) to 8859-9 (I). */
function fromAlphabet(alphabet: string, code: number): string {
  const part = alphabet.charCodeAt(0) - 64;
  if (part === 1 || code > 0xff) return String.fromCharCode(code);
  return new TextDecoder(`iso-8859-${part}`).decode(Uint8Array.of(code));
}

function fromHex(hex: string, width: 4 | 8): string {
  let text = '';
  for (let i = 0; i < hex.length; i += width) {
    const code = parseInt(hex.slice(i, i + width), 16);
    text += width === 4 ? String.fromCharCode(code) : code <= 0x10ffff ? String.fromCodePoint(code) : '\ufffd';
  }
  return text;
}
