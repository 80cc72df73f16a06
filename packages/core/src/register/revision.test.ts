import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { firstRevision, nextRevision, readRevision, STARTER_REVISIONS, type RevisionScheme } from './revision.ts';

describe('revisions', () => {
  it('know their next value', () => {
    const next = (revision: string) => nextRevision(STARTER_REVISIONS, revision);
    expect(['', 'P01', 'P09', 'C02', 'P01.1', 'P99', 'final', 'A'].map(next)).toEqual([
      'P01',
      'P02',
      'P10',
      'C03',
      'P01.2',
      'P100',
      'final',
      'A',
    ]);
  });

  it('of letters go on after Z', () => {
    const letters: RevisionScheme = {
      name: 'L',
      series: [{ prefix: '', kind: 'letters', digits: 1, minor: false, meaning: '' }],
    };
    expect(['', 'A', 'Z', 'AZ', 'ZZ'].map((revision) => nextRevision(letters, revision))).toEqual([
      'A',
      'B',
      'AA',
      'BA',
      'AAA',
    ]);
  });

  it('come one after the other in every scheme, each read back as what it is', () => {
    const series = fc.record({
      prefix: fc.constantFrom('', 'P', 'REV'),
      kind: fc.constantFrom('numbers' as const, 'letters' as const),
      digits: fc.integer({ min: 1, max: 3 }),
      minor: fc.boolean(),
      meaning: fc.constant(''),
    });
    fc.assert(
      fc.property(series, fc.integer({ min: 1, max: 60 }), (one, steps) => {
        const scheme = { name: 'S', series: [one] };
        let revision = firstRevision(scheme);
        for (let n = 1; n < steps; n++) {
          expect(readRevision(scheme, revision)).toMatchObject({ number: n, minor: null });
          revision = nextRevision(scheme, revision);
        }
      }),
    );
  });
});
