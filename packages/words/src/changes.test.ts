import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changeWords } from './changes.ts';

const ID = '6c844d34-9062-4ed8-8044-1f0f4e0a8a11';

describe('what an event changed', () => {
  it('is told for each thing, and what stayed is not', () => {
    expect(
      changeWords(
        { status: 'S0', title: 'Roof', description: '', team: ID },
        { status: 'S1', title: 'Roof', description: 'New', team: ID, version: 2 },
      ),
    ).toEqual(['status: S0 → S1', 'description: none → New', 'version: 2']);
    expect(changeWords({ reason: 'old' }, {})).toEqual(['reason: old → none']);
  });

  it('is told of things that came, and of things that went', () => {
    const set = { name: 'Plans', teamId: ID, sheetNumbers: ['A-191', 'A-192'], viewpointIds: [ID, ID], edition: 3 };
    const words = ['name: Plans', 'sheet numbers: A-191, A-192', 'viewpoint ids: 2 chosen'];
    expect(changeWords(null, set)).toEqual(words);
    expect(changeWords(set, null)).toEqual(words);
    expect(changeWords(null, { title: '', reason: null, codes: [], status: 'S0' })).toEqual(['status: S0']);
    expect(changeWords(null, null)).toEqual([]);
    expect(changeWords(undefined, 'all of it')).toEqual(['all of it']);
  });

  it('goes into parts of parts', () => {
    expect(
      changeWords({ share: { conforms: true, statuses: [] } }, { share: { conforms: false, statuses: ['S3'] } }),
    ).toEqual(['share: conforms: yes → conforms: no; statuses: S3']);
  });

  it('is nothing where nothing changed, whatever it was, and never fails', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), fc.jsonValue(), (same, other) => {
        expect(changeWords(same, same)).toEqual([]);
        expect(Array.isArray(changeWords(other, same))).toBe(true);
      }),
    );
  });
});
