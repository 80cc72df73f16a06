const [QUOTE, BACKSLASH, COMMA, COLON] = [0x22, 0x5c, 0x2c, 0x3a];
const OPENING = new Set([0x5b, 0x7b]);
const CLOSING = new Set([0x5d, 0x7d]);

/** How deep a JSON text (UTF-8) nests, and how many keys and values it has at most; found without reading it as JSON. O(bytes). */
export function jsonBounds(text: Uint8Array): { depth: number; parts: number } {
  let [depth, deepest, parts, quoted] = [0, 0, 1, false];
  for (let i = 0; i < text.length; i++) {
    const sign = text[i]!;
    if (quoted) {
      if (sign === BACKSLASH) i++;
      else if (sign === QUOTE) quoted = false;
    } else if (sign === QUOTE) quoted = true;
    else if (sign === COMMA || sign === COLON) parts++;
    else if (OPENING.has(sign)) deepest = Math.max(deepest, ++depth);
    else if (CLOSING.has(sign)) depth--;
  }
  return { depth: deepest, parts };
}
