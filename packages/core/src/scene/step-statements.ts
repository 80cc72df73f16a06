/** Where the statements of a STEP file begin and end, and which of them are broken. Linear in the bytes, whatever they are. */

const QUOTE = 0x27;
const OPEN = 0x28;
const CLOSE = 0x29;
const SEMICOLON = 0x3b;
const HASH = 0x23;
const EQUALS = 0x3d;
const SLASH = 0x2f;
const STAR = 0x2a;
const NEWLINE = 0x0a;
const RETURN = 0x0d;
export const isDigit = (c: number): boolean => c >= 0x30 && c <= 0x39;
export const isSpace = (c: number): boolean => c <= 0x20;

/** What a byte outside strings is to a statement: nothing to mind, something to act on, or nothing that may stand there. */
const [MINDLESS, ACT, FORBIDDEN] = [0, 1, 2];
const KIND = new Uint8Array(256).fill(FORBIDDEN);
for (const c of 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_+-.,#$*"=! \t\f\v')
  KIND[c.charCodeAt(0)] = MINDLESS;
for (const c of [QUOTE, OPEN, CLOSE, SEMICOLON, SLASH, NEWLINE, RETURN]) KIND[c] = ACT;

/** Beyond blanks and comments. */
export function skipBlank(bytes: Uint8Array, at: number): number {
  for (;;) {
    while (at < bytes.length && isSpace(bytes[at]!)) at++;
    if (bytes[at] !== SLASH || bytes[at + 1] !== STAR) return at;
    at = skipComment(bytes, at);
  }
}

export function skipComment(bytes: Uint8Array, at: number): number {
  for (at += 2; at < bytes.length; at++) if (bytes[at] === STAR && bytes[at + 1] === SLASH) return at + 2;
  return bytes.length;
}

/**
 * The position after the semicolon of the statement whose `#` is at `at`; −1 where it is broken: a parenthesis or string
 * that is not closed before the next one begins, a character that may not stand there, no argument list.
 */
export function statementEnd(bytes: Uint8Array, at: number): number {
  let i = afterNumber(bytes, at);
  if (i < 0) return -1;
  let depth = 0;
  let closed = false;
  for (; i < bytes.length; i++) {
    const c = bytes[i]!;
    const kind = KIND[c]!;
    if (closed && kind !== ACT && !isSpace(c)) return -1;
    if (kind === MINDLESS) continue;
    if (kind === FORBIDDEN) return -1;
    if (c === OPEN) {
      if (closed) return -1;
      depth++;
    } else if (c === CLOSE) {
      if (--depth < 0) return -1;
      closed = depth === 0;
    } else if (c === SEMICOLON) return closed ? i + 1 : -1;
    else if (c === QUOTE) {
      i = lastOfString(bytes, i);
      if (i < 0) return -1;
    } else if (c === SLASH) {
      if (bytes[i + 1] !== STAR) return -1;
      i = lastOfComment(bytes, i);
      if (i < 0) return -1;
    } else if (beginsStatement(bytes, i + 1)) return -1;
  }
  return -1;
}

/** From `at` on, where the next statement or the end of the section begins, behind a semicolon or on a line of its own. */
export function nextStatement(bytes: Uint8Array, at: number): number {
  for (; at < bytes.length; at++) {
    const c = bytes[at];
    if (c !== NEWLINE && c !== SEMICOLON && c !== RETURN) continue;
    let next = at + 1;
    while (next < bytes.length && isSpace(bytes[next]!)) next++;
    if (afterNumber(bytes, next) >= 0 || endsSection(bytes, next)) return next;
    at = next - 1;
  }
  return bytes.length;
}

const ENDSEC = [...'ENDSEC'].map((letter) => letter.charCodeAt(0));
export const endsSection = (bytes: Uint8Array, at: number): boolean =>
  ENDSEC.every((letter, i) => (bytes[at + i]! & 0xdf) === letter);

/** Behind `#12 =`, or −1 where no instance begins. */
function afterNumber(bytes: Uint8Array, at: number): number {
  if (bytes[at] !== HASH || !isDigit(bytes[at + 1]!)) return -1;
  for (at++; isDigit(bytes[at]!);) at++;
  at = skipSpaces(bytes, at);
  return bytes[at] === EQUALS ? at + 1 : -1;
}

function skipSpaces(bytes: Uint8Array, at: number): number {
  while (at < bytes.length && isSpace(bytes[at]!)) at++;
  return at;
}

const beginsStatement = (bytes: Uint8Array, at: number): boolean => afterNumber(bytes, skipSpaces(bytes, at)) >= 0;

/** The last byte of a string (or of its part before a doubled quote); −1 where a statement begins first. */
function lastOfString(bytes: Uint8Array, at: number): number {
  for (let i = at + 1; i < bytes.length; i++) {
    const c = bytes[i];
    if (c === QUOTE) return i;
    if (c === NEWLINE && beginsStatement(bytes, i + 1)) return -1;
  }
  return -1;
}

function lastOfComment(bytes: Uint8Array, at: number): number {
  for (let i = at + 2; i < bytes.length; i++) {
    if (bytes[i] === STAR && bytes[i + 1] === SLASH) return i + 1;
    if (bytes[i] === NEWLINE && beginsStatement(bytes, i + 1)) return -1;
  }
  return -1;
}
