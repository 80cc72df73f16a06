import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { describeDamage, readablePart } from './step-damage.ts';
import { indexStepFile, readInstance } from './step-reader.ts';

const HEAD = "ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n";
const END = 'ENDSEC;\nEND-ISO-10303-21;\n';
const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const decode = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const index = (text: string) => indexStepFile(encode(text), () => true);
const lineOf = (n: number): string => `#${n}=IFCDOOR('door ${n};',(#1,#2),.T.,$);\n`;
const lines = (from: number, to: number): string =>
  Array.from({ length: to - from }, (_, i) => lineOf(from + i)).join('');

describe('a statement that is broken', () => {
  it.each([
    ['a string that does not end', "#5=IFCDOOR('door,(#1));\n"],
    ['a parenthesis that does not close', "#5=IFCDOOR('door',(#1);\n"],
    ['one parenthesis too many', "#5=IFCDOOR('door'),(#1));\n"],
    ['no semicolon', "#5=IFCDOOR('door',(#1))\n"],
    ['no arguments', '#5=IFCDOOR;\n'],
    ['bytes of nothing', '#5=IFCDOOR(\u0000\u0001\u0002);\n'],
    ['a comment that does not end', '#5=IFCDOOR(/* here );\n'],
    ['words between the statements', 'a stray word\n'],
    ['no number', '#=IFCDOOR(1);\n'],
  ])('by %s is left out, and told with its line', (_how, broken) => {
    const file = index(HEAD + lines(1, 5) + broken + lines(6, 9) + END);
    expect([...file.ids]).toEqual([1, 2, 3, 4, 6, 7, 8]);
    expect(describeDamage(file)).toEqual({ statements: 1, lines: [10], cutOff: false });
    const again = indexStepFile(readablePart(file), () => true);
    expect([...again.ids]).toEqual([...file.ids]);
    expect(again.damage).toEqual([]);
  });

  it('is none where it only looks strange', () => {
    const file = index(
      `${HEAD}#1 = IFCDOOR ( 'it''s; #2=(' , /* a; #3= */ ( ) , 1.E-3 , "0A" )\n ;\n#4=IFCREAL(1.#INF);/* last */${END}`,
    );
    expect([...file.ids]).toEqual([1, 4]);
    expect(file.damage).toEqual([]);
  });
});

describe('a file that is cut off', () => {
  it('is read until its last whole statement, and ends as it should', () => {
    fc.assert(
      fc.property(fc.integer({ min: lineOf(1).length, max: lines(1, 30).length - 1 }), (length) => {
        const whole = lines(1, 30).slice(0, length);
        const file = index(HEAD + whole);
        const complete = whole.split('\n').filter((line) => line.endsWith('$);')).length;
        expect(file.ids).toHaveLength(complete);
        expect(describeDamage(file).cutOff).toBe(true);
        const mended = readablePart(file);
        expect(decode(mended)).toMatch(/ENDSEC;\s+END-ISO-10303-21;\s*$/);
        expect(indexStepFile(mended, () => true).damage).toEqual([]);
      }),
    );
  });

  it('is whole when only its last words are missing', () => {
    const file = index(`${HEAD + lines(1, 3)}ENDSEC;\n`);
    expect(describeDamage(file)).toEqual({ statements: 0, lines: [], cutOff: false });
  });
});

it('whatever one byte is turned into, no statement but its own and its neighbour is lost', () => {
  const whole = HEAD + lines(1, 20) + END;
  fc.assert(
    fc.property(fc.integer({ min: HEAD.length, max: whole.length - END.length - 1 }), fc.nat(255), (at, byte) => {
      const bytes = encode(whole);
      bytes[at] = byte;
      const file = indexStepFile(bytes, () => true);
      const named = [...file.ids].filter((id) => readInstance(file, id)?.args[0] === `door ${id};`);
      expect(named.length).toBeGreaterThanOrEqual(17);
    }),
    { numRuns: 2000 },
  );
});
