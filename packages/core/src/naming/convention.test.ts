import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { editDistance, nearestCode } from '../platform/nearest.ts';
import { checkName, type Convention } from './convention.ts';
import { decodeName } from './decode-name.ts';

const convention: Convention = {
  name: 'Test',
  separator: '-',
  fields: [
    { name: 'Project', kind: 'list', values: [{ code: 'ORP', meaning: 'Orrin Point' }] },
    { name: 'Originator', kind: 'pattern', pattern: '[A-Z0-9]+', minLength: 2, maxLength: 6 },
    {
      name: 'Form',
      kind: 'list',
      values: [
        { code: 'D', meaning: 'Drawing' },
        { code: 'M', meaning: 'Model' },
      ],
    },
    { name: 'Number', kind: 'number', length: 4 },
  ],
};

describe('checkName', () => {
  it('accepts a name that conforms in every field', () => {
    expect(checkName(convention, 'ORP-TVA-D-0101')).toMatchObject({
      ok: true,
      fields: [{ ok: true }, { ok: true }, { ok: true }, { ok: true }],
    });
  });

  it('says per field what is wrong and what is nearest', () => {
    const verdict = checkName(convention, 'OPR-tva-X-101');
    expect(verdict.ok).toBe(false);
    expect(verdict.fields.map(({ nearest }) => nearest)).toEqual(['ORP', 'TVA', 'D', '0101']);
    expect(verdict.fields[3]!.problem).toEqual({ code: 'digits', min: 4, max: 4 });
  });

  it('counts the fields', () => {
    expect(checkName(convention, 'ORP-TVA-D').problem).toMatchObject({ code: 'field-count', parts: 3, fields: 4 });
    expect(checkName(convention, 'ORP-TVA-D-0101-X').ok).toBe(false);
  });

  it('names the missing field', () => {
    expect(checkName(convention, 'ORP--D-0101').fields[1]).toMatchObject({ ok: false, problem: { code: 'missing' } });
  });

  it('never throws, and accepts exactly what is composed of allowed values', () => {
    fc.assert(
      fc.property(fc.string(), (name) => {
        const verdict = checkName(convention, name);
        expect(verdict.fields).toHaveLength(4);
        expect(verdict.ok).toBe(/^ORP-[A-Z0-9]{2,6}-[DM]-\d{4}$/.test(name));
      }),
    );
    fc.assert(
      fc.property(
        fc.stringMatching(/^[A-Z0-9]{2,6}$/),
        fc.constantFrom('D', 'M'),
        fc.integer({ min: 0, max: 9999 }),
        (originator, form, number) => {
          expect(checkName(convention, `ORP-${originator}-${form}-${String(number).padStart(4, '0')}`).ok).toBe(true);
        },
      ),
    );
  });
});

describe('nearest values', () => {
  it('offers nothing when nothing is close', () => {
    expect(nearestCode(['ARCH', 'STRU'], 'Q')).toBeUndefined();
  });

  it('measures an edit distance: a metric', () => {
    expect(editDistance('kitten', 'sitting')).toBe(3);
    fc.assert(
      fc.property(fc.string({ maxLength: 8 }), fc.string({ maxLength: 8 }), fc.string({ maxLength: 8 }), (a, b, c) => {
        expect(editDistance(a, b)).toBe(editDistance(b, a));
        expect(editDistance(a, b) === 0).toBe(a === b);
        expect(editDistance(a, c)).toBeLessThanOrEqual(editDistance(a, b) + editDistance(b, c));
      }),
    );
  });
});

it('decodes every field that has a meaning', () => {
  expect(decodeName(convention, 'ORP-TVA-M-0001').map(({ meaning }) => meaning)).toEqual([
    'Orrin Point',
    '',
    'Model',
    '',
  ]);
});
