import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkName, compileConvention, exampleName, type Convention, type Field } from './convention.ts';
import { conventionProblems } from './convention-problems.ts';
import { conventionEffect } from './effect.ts';
import { readValues, writeValues } from './values-file.ts';

const code = fc.stringMatching(/^[A-Z0-9]{1,4}$/);
const field: fc.Arbitrary<Field> = fc.oneof(
  fc.record({
    name: fc.constant('List'),
    kind: fc.constant('list' as const),
    values: fc
      .uniqueArray(code, { minLength: 1, maxLength: 6 })
      .map((codes) => codes.map((one) => ({ code: one, meaning: '' }))),
  }),
  fc.record({
    name: fc.constant('Number'),
    kind: fc.constant('number' as const),
    length: fc.integer({ min: 1, max: 5 }),
  }),
  fc.record({
    name: fc.constant('Pattern'),
    kind: fc.constant('pattern' as const),
    pattern: fc.constantFrom('[A-Z0-9]+', '.+', 'A|B[0-9]?', '[a-z]{2}', '^[A-Z]+$', '[^-]*'),
    minLength: fc.integer({ min: 1, max: 2 }),
    maxLength: fc.integer({ min: 3, max: 6 }),
  }),
);
const convention: fc.Arbitrary<Convention> = fc
  .record({
    name: fc.constant('C'),
    separator: fc.constantFrom('-', '_', '.', '--', '~'),
    fields: fc.array(field, { minLength: 1, maxLength: 5 }),
  })
  .map((one) => ({ ...one, fields: one.fields.map((part, i) => ({ ...part, name: `${part.name} ${i}` })) }));
/** Names near a convention: parts that fit, parts that do not, too few and too many. */
const nameOf = ({ fields, separator }: Convention): fc.Arbitrary<string> =>
  fc
    .array(
      fc.oneof(
        code,
        fc.stringMatching(/^[0-9]{1,5}$/),
        fc.string({ maxLength: 4 }),
        ...fields.map((one) => fc.constant(one.kind === 'list' ? one.values[0]!.code : '123')),
      ),
      {
        minLength: Math.max(0, fields.length - 1),
        maxLength: fields.length + 1,
      },
    )
    .map((parts) => parts.join(separator));

describe('a compiled convention', () => {
  it('agrees with the verdict on every name', () => {
    fc.assert(
      fc.property(
        convention.chain((one) => fc.tuple(fc.constant(one), nameOf(one))),
        ([one, name]) => {
          expect(compileConvention(one)(name)).toBe(checkName(one, name).ok);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('accepts its own example unless a pattern stands in it', () => {
    fc.assert(
      fc.property(convention, (one) => {
        const example = exampleName(one);
        if (!one.fields.some(({ kind }) => kind === 'pattern')) expect(checkName(one, example).ok).toBe(true);
      }),
    );
  });
});

describe('names with too few or too many parts', () => {
  const building: Convention = {
    name: 'B',
    separator: '-',
    fields: [
      { name: 'Project', kind: 'list', values: [{ code: 'ORP', meaning: '' }] },
      { name: 'Function', kind: 'list', values: [{ code: 'ZZ', meaning: '' }] },
      { name: 'Form', kind: 'list', values: [{ code: 'D', meaning: '' }] },
      { name: 'Number', kind: 'number', length: 4 },
    ],
  };
  it('blame the field that is missing, not those after it', () => {
    const verdict = checkName(building, 'ORP-D-0101');
    expect(verdict.fields.map(({ ok }) => ok)).toEqual([true, false, true, true]);
    expect(verdict.fields[1]).toMatchObject({ value: '', problem: { code: 'missing' }, nearest: 'ZZ' });
  });
  it('name what is too much', () => {
    const verdict = checkName(building, 'ORP-ZZ-old-D-0101');
    expect(verdict.fields.every(({ ok }) => ok)).toBe(true);
    expect(verdict).toMatchObject({ ok: false, problem: { code: 'field-count', extra: ['old'] } });
  });
});

describe('a convention is unsound', () => {
  const list = (...codes: string[]): Field => ({
    name: 'L',
    kind: 'list',
    values: codes.map((one) => ({ code: one, meaning: '' })),
  });
  const pattern = (text: string): Field => ({ name: 'P', kind: 'pattern', pattern: text });
  const withField = (one: unknown): unknown => ({ name: 'C', separator: '-', fields: [one] });
  it.each([
    ['without fields', { name: 'C', separator: '-', fields: [] }, 'fields'],
    ['with letters as separator', { name: 'C', separator: 'x', fields: [list('A')] }, 'separator'],
    ['with a slash as separator', { name: 'C', separator: '/', fields: [list('A')] }, 'separator'],
    ['without a name', { separator: '-', fields: [list('A')] }, 'name'],
    ['with two fields of one name', { name: 'C', separator: '-', fields: [list('A'), list('B')] }, '1/name'],
    ['with the separator inside a value', withField(list('A-B')), '0/values'],
    ['with a value twice', withField(list('A', 'A')), '0/values'],
    ['with an empty list', withField(list()), '0/values'],
    [
      'with lengths the wrong way round',
      withField({ name: 'N', kind: 'number', minLength: 5, maxLength: 2 }),
      '0/minLength',
    ],
    ['with two kinds of length', withField({ name: 'N', kind: 'number', length: 5, maxLength: 2 }), '0/length'],
    ['with a broken pattern', withField(pattern('[A-')), '0/pattern'],
    ['with a pattern of too many states', withField(pattern('(.{0,60}){0,16}')), '0/pattern'],
    ['with a reference', withField(pattern('(A)\\1')), '0/pattern'],
    ['with a look-around', withField(pattern('(?=A)A')), '0/pattern'],
    ['with an unknown kind', withField({ name: 'X', kind: 'colour' }), '0/kind'],
    ['when it is no object at all', null, 'fields'],
  ])('%s', (_title, candidate, path) => {
    expect(conventionProblems(candidate).map((problem) => problem.path)).toContain(path);
  });

  it('never by accident: what the generator makes is sound', () => {
    fc.assert(
      fc.property(convention, (one) => {
        expect(conventionProblems(one)).toEqual([]);
      }),
    );
  });
});

it('the effect of a change is what the verdicts say before and after', () => {
  fc.assert(
    fc.property(
      convention.chain((one) => fc.tuple(fc.constant(one), convention, fc.array(nameOf(one), { maxLength: 20 }))),
      ([before, after, names]) => {
        const effect = conventionEffect(before, after, names);
        const changed = (from: Convention, to: Convention) =>
          names.flatMap((name, i) => (checkName(from, name).ok && !checkName(to, name).ok ? [i] : []));
        expect(effect).toEqual({ names: names.length, stop: changed(before, after), start: changed(after, before) });
      },
    ),
  );
});

describe('values as CSV', () => {
  it('come back as they went', () => {
    const meaning = fc.stringMatching(/^[ -~é€]{0,20}$/).map((text) => text.trim());
    fc.assert(
      fc.property(fc.uniqueArray(fc.tuple(code, meaning), { selector: ([one]) => one, minLength: 1 }), (pairs) => {
        const values = pairs.map(([one, words]) => ({ code: one, meaning: words.replace(/^'(?=[=+\-@\t\r])/, '') }));
        expect(readValues(writeValues(values), '-')).toEqual({ values, problems: [] });
      }),
    );
  });
  it('of a spreadsheet with semicolons, and say which lines are wrong', () => {
    const { values, problems } = readValues('\ufeffCode;Meaning\r\nA;Alpha\r\n;none\r\nA;again\r\nB-C;Two\r\n', '-');
    expect(values).toEqual([{ code: 'A', meaning: 'Alpha' }]);
    expect(problems.map(({ line }) => line)).toEqual([3, 4, 5]);
  });
});
