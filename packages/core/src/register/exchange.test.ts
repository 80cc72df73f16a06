import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gateProblems, STARTER_GATES, type Candidate } from './gates.ts';
import { clusterMarks, DAY, panSpan, ticksIn, zoomSpan } from './timeline.ts';
import { countChanges, metadataChanges } from './version-changes.ts';

const fine: Candidate = { state: 'published', status: 'A1', conforms: true, prepared: true, blockingIssues: [] };

describe('gates', () => {
  it('are open to what fulfils them, and say each thing that is missing', () => {
    expect(gateProblems(STARTER_GATES.publish, fine)).toEqual([]);
    const poor: Candidate = { ...fine, conforms: false, prepared: false, blockingIssues: [3, 7], status: '' };
    expect(gateProblems({ ...STARTER_GATES.publish, statuses: ['A1', 'A2'] }, poor)).toEqual([
      'its name does not conform',
      'its preparation has not ended well',
      'blocking issue 3, 7 is open on it',
      'its status (none) does not fit; what fits: A1, A2',
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
  const span = { from: Date.UTC(2025, 0, 1), to: Date.UTC(2025, 3, 1) };

  it('zooms around a moment that keeps its place, and back again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (factor, share) => {
          const around = span.from + share * (span.to - span.from);
          const zoomed = zoomSpan(span, factor, around);
          expect((around - zoomed.from) / (zoomed.to - zoomed.from)).toBeCloseTo(share, 6);
          const back = zoomSpan(zoomed, 1 / factor, around);
          expect(back.from).toBeCloseTo(span.from, 0);
          expect(back.to).toBeCloseTo(span.to, 0);
        },
      ),
    );
  });

  it('is never shorter than hours or longer than years', () => {
    expect(zoomSpan(span, 1e9, span.from).to - span.from).toBe(DAY / 4);
    const widest = zoomSpan(span, 1e-9, span.from);
    expect(widest.to - widest.from).toBeLessThan(16 * 366 * DAY);
    expect(panSpan(span, DAY)).toEqual({ from: span.from + DAY, to: span.to + DAY });
  });

  it('has ticks within it, in order, on beginnings of days, Mondays, months or years', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4000 }), fc.integer({ min: 3, max: 30 }), (days, most) => {
        const to = span.from + days * DAY;
        const ticks = ticksIn({ from: span.from + 1000, to }, most);
        expect(ticks.length).toBeLessThanOrEqual(most * 2 + 2);
        for (const [i, { at, kind }] of ticks.entries()) {
          expect(at).toBeGreaterThan(span.from);
          expect(at).toBeLessThanOrEqual(to);
          if (i) expect(at).toBeGreaterThan(ticks[i - 1]!.at);
          const date = new Date(at);
          expect(at % DAY).toBe(0);
          if (kind === 'week') expect(date.getUTCDay()).toBe(1);
          if (kind === 'month' || kind === 'year') expect(date.getUTCDate()).toBe(1);
        }
      }),
    );
  });

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
