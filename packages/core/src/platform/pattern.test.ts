import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compilePattern } from './pattern.ts';

const matches = (pattern: string, text: string): boolean => {
  const verdict = compilePattern(pattern);
  return verdict.ok && verdict.matches(text);
};

describe('a pattern that people write', () => {
  it('matches whole texts only, in the syntax that browsers know', () => {
    expect(matches('[A-Z]{2}|X', 'AB')).toBe(true);
    expect(matches('[A-Z]{2}|X', 'ABX')).toBe(false);
    expect(matches('\\p{Lu}\\d+', 'Ä12')).toBe(true);
    expect(matches('.', '🏗')).toBe(true);
  });

  it.each(['(a+)+b', '(a|a)*b', '(a|aa)+$', '(.*)*x', '.?'.repeat(100), 'a?'.repeat(66) + 'a'.repeat(66)])(
    'decides about a long text at once: %s',
    (pattern) => {
      // A backtracking engine would need longer than the universe is old; this one, less than the time limit of a test.
      expect(matches(pattern, `${'a'.repeat(5000)}!`)).toBe(false);
    },
  );

  it.each([
    ['(?=A)A', 'no-expression'],
    ['(A)\\1', 'no-expression'],
    ['[A-', 'no-expression'],
    ['(a{1000}){1000}', 'no-expression'],
    ['(.{0,60}){0,16}', 'too-many-repetitions'],
  ])('is refused by name: %s', (pattern, code) => {
    expect(compilePattern(pattern)).toEqual({ ok: false, code });
  });

  it('says what the engine of the browser says, where both know the pattern', () => {
    const part = fc.constantFrom('A', 'b', '7', '.', '[A-F]', '\\d', '(?:x|yz)', '[^-]', '\\w');
    const repeated = fc.tuple(part, fc.constantFrom('', '?', '*', '+', '{2}', '{1,3}')).map(([a, b]) => a + b);
    const pattern = fc.array(repeated, { minLength: 1, maxLength: 4 }).map((parts) => parts.join(''));
    const text = fc.stringMatching(/^[AbF7xyz-]{0,8}$/);
    fc.assert(
      fc.property(pattern, text, (one, value) => {
        expect(matches(one, value)).toBe(new RegExp(`^(?:${one})$`, 'u').test(value));
      }),
    );
  });
});
