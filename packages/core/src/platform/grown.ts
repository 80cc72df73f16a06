type Column =
  | Uint8Array<ArrayBuffer>
  | Uint16Array<ArrayBuffer>
  | Uint32Array<ArrayBuffer>
  | Float32Array<ArrayBuffer>
  | Float64Array<ArrayBuffer>;

/** A column of twice the length that begins with what the column has: adding stays O(1) on the average. */
export function grown<T extends Column>(column: T): T {
  const larger = new (column.constructor as new (length: number) => T)(column.length * 2);
  larger.set(column);
  return larger;
}
