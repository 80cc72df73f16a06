import { RE2JS, RE2JSException } from 're2js';

/** Whether a whole text matches. Takes time in proportion to the text, whatever the pattern. */
export type Pattern = (text: string) => boolean;

export type PatternVerdict =
  { ok: true; matches: Pattern } | { ok: false; code: 'no-expression' | 'too-many-repetitions' };

/** States of the compiled pattern; what a field of a name needs has a few dozen. */
const MOST_STATES = 1000;
const MOST_KEPT = 500;
const kept = new Map<string, PatternVerdict>();

/**
 * Regular expressions that people write, run by an engine without backtracking (RE2: Cox 2007), so that none can take for ever.
 * It knows no references and no look-arounds.
 */
export function compilePattern(pattern: string): PatternVerdict {
  const known = kept.get(pattern);
  if (known) return known;
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  const verdict = compile(pattern);
  kept.set(pattern, verdict);
  return verdict;
}

function compile(pattern: string): PatternVerdict {
  try {
    const compiled = RE2JS.compile(RE2JS.translateRegExp(`(?:${pattern})`));
    if (compiled.programSize() > MOST_STATES) return { ok: false, code: 'too-many-repetitions' };
    return { ok: true, matches: (text) => compiled.matches(text) };
  } catch (error) {
    if (!(error instanceof RE2JSException)) throw error;
    return { ok: false, code: 'no-expression' };
  }
}
