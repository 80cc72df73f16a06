/** Text as STEP physical files write it (ISO 10303-21): ASCII, with escapes for everything else. */

/** Decodes `''`, `\\`, `\S\`, `\X\hh`, `\X2\…\X0\` and `\X4\…\X0\` (ISO 10303-21, 6.4.3). */
export function decodeStepString(raw: string): string {
  const unquoted = raw.includes("''") ? raw.replaceAll("''", "'") : raw;
  if (!unquoted.includes('\\')) return unquoted;
  return unquoted.replace(
    /\\X2\\((?:[0-9A-F]{4})*)\\X0\\|\\X4\\((?:[0-9A-F]{8})*)\\X0\\|\\X\\([0-9A-F]{2})|\\S\\([\s\S])|\\P[A-I]\\|\\\\/gi,
    (whole: string, x2?: string, x4?: string, x?: string, s?: string) => {
      if (x2 !== undefined) return fromHex(x2, 4);
      if (x4 !== undefined) return fromHex(x4, 8);
      if (x !== undefined) return String.fromCharCode(parseInt(x, 16));
      if (s !== undefined) return String.fromCharCode(s.charCodeAt(0) + 128);
      return whole === '\\\\' ? '\\' : '';
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

function fromHex(hex: string, width: 4 | 8): string {
  let text = '';
  for (let i = 0; i < hex.length; i += width) {
    const code = parseInt(hex.slice(i, i + width), 16);
    text += width === 4 ? String.fromCharCode(code) : code <= 0x10ffff ? String.fromCodePoint(code) : '\ufffd';
  }
  return text;
}
