import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gateProblems, STARTER_GATES, type Candidate } from './gates.ts';
import { clusterMarks } from './timeline.ts';
import { countChanges, metadataChanges } from './version-changes.ts';

const fine: Candidate = { state: 'published', status: 'A1', conforms: true, prepared: true, blockingIssues: [] };

describe('gates', () => {
  it('are open to what fulfils them, and say each thing that is missing', () => {
    expect(gateProblems(STARTER_GATES.publish, fine)).toEqual([]);
    const poor: Candidate = { ...fine, conforms: false, prepared: false, blockingIssues: [3, 7], status: '' };
    expect(gateProblems({ ...STARTER_GATES.publish, statuses: ['A1', 'A2'] }, poor)).toEqual([
      { code: 'name' },
      { code: 'preparation' },
      { code: 'blocking-issues', numbers: [3, 7] },
      { code: 'status', status: '', fitting: ['A1', 'A2'] },
    ]);
  });

  it('that check nothing let everything pass', () => {
    const any = fc.record({
      state: fc.constant('shared' as const),
      status: fc.string(),
      conforms: fc.boolean(),
      prepared: fc.boolean(),
      blockingIssues: fc.array(fc.nat()),
    });
    fc.assert(
      fc.property(any, (candidate) => {
        expect(gateProblems(STARTER_GATES.withdraw, candidate)).toEqual([]);
      }),
    );
  });
});

describe('the timeline', () => {
  it('puts marks together that would overlap, and loses none', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(500)), fc.integer({ min: 1, max: 40 }), (places, apart) => {
        const sorted = places.sort((a, b) => a - b);
        const clusters = clusterMarks(sorted, (place) => place, apart);
        expect(clusters.flat()).toEqual(sorted);
        for (let i = 1; i < clusters.length; i++)
          expect(clusters[i]![0]! - clusters[i - 1]![0]!).toBeGreaterThanOrEqual(apart);
      }),
    );
  });
});

describe('what differs between versions', () => {
  it('is told by name and count', () => {
    const before = new Map([
      ['IfcWall', 3],
      ['IfcDoor', 2],
      ['IfcSlab', 1],
    ]);
    const after = new Map([
      ['IfcWall', 4],
      ['IfcDoor', 2],
      ['IfcStair', 1],
    ]);
    expect(countChanges(before, after)).toEqual([
      { name: 'IfcSlab', kind: 'went', before: 1, after: 0 },
      { name: 'IfcStair', kind: 'came', before: 0, after: 1 },
      { name: 'IfcWall', kind: 'altered', before: 3, after: 4 },
    ]);
  });

  it('is told by value for metadata', () => {
    const before = { title: 'A', revision: 'P01', status: 'S1', classification: '', description: '' };
    expect(metadataChanges(before, { ...before, revision: 'P02' })).toEqual([
      { key: 'revision', before: 'P01', after: 'P02' },
    ]);
    expect(metadataChanges(before, before)).toEqual([]);
  });
});
