/** Schemas as their readers know them: an addendum or a corrigendum is read as what it adds to. */

/** `IFC4_ADD2_TC1` → `IFC4`; the name itself where it is no IFC or stands for itself. */
export function baseSchema(name: string): string {
  const upper = name.toUpperCase();
  if (/^IFC2X3(?:_|$)/.test(upper)) return 'IFC2X3';
  if (/^IFC4(?:_|$)/.test(upper)) return 'IFC4';
  // What was published between the two is contained in the later one.
  return /^IFC4X[1-3](?:_|$)/.test(upper) ? 'IFC4X3' : name;
}

/** Does something with the bytes of a file whose header says the base schema, and leaves them as they were. */
export function withBaseSchema<T>(bytes: Uint8Array, schema: string, act: () => T): T {
  const base = baseSchema(schema);
  const at = base === schema ? -1 : indexOfName(bytes, schema);
  if (at < 0) return act();
  const original = bytes.slice(at, at + schema.length + 1);
  // The quote moves forward, blanks take the place that is left.
  bytes.set(new TextEncoder().encode(`${base}'`.padEnd(schema.length + 1)), at);
  try {
    return act();
  } finally {
    bytes.set(original, at);
  }
}

/** Where the header has the name, its opening quote before it and the closing one behind. */
function indexOfName(bytes: Uint8Array, schema: string): number {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65536));
  const declared = /FILE_SCHEMA\s*\(\s*\(\s*'/i.exec(head);
  if (!declared) return -1;
  const at = declared.index + declared[0].length;
  return head.startsWith(`${schema}'`, at) ? at : -1;
}
