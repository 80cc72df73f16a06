/** Where the instances of each element begin, of instances in the order of rows; one more than there are rows. O(n). */
export function rowStarts(element: Uint32Array, rows: number): Uint32Array {
  const starts = new Uint32Array(rows + 1);
  for (const row of element) starts[row + 1]!++;
  for (let row = 0; row < rows; row++) starts[row + 1]! += starts[row]!;
  return starts;
}
