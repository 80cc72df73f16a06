/** The code with the smallest edit distance, if it is close enough to be a slip of the hand. */
export function nearestCode(codes: readonly string[], value: string): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.ceil(value.length / 2)) + 1;
  for (const code of codes) {
    const distance = editDistance(code.toUpperCase(), value.toUpperCase());
    if (distance < bestDistance) [best, bestDistance] = [code, distance];
  }
  return best;
}

/** Levenshtein distance, two rows, O(a·b). */
export function editDistance(a: string, b: string): number {
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++) {
      const substitution = previous[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      current.push(Math.min(substitution, previous[j]! + 1, current[j - 1]! + 1));
    }
    previous = current;
  }
  return previous[b.length]!;
}
