import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shapeBounds, type MarkupShape } from '../markup/shapes.ts';
import { followed } from './following.ts';
import { Similarity } from './similarity.ts';

const cloud: MarkupShape = {
  kind: 'cloud',
  points: [
    [90, 90],
    [140, 140],
  ],
};
const none = Similarity.none;

describe('followed', () => {
  it('stays where nothing happened', () => {
    expect(followed(cloud, none, [{ kind: 'moved', box: [400, 400, 420, 420], shift: [5, 0] }])).toEqual({
      shape: cloud,
      fate: 'same',
    });
  });
  it('goes along with what it goes around', () => {
    const { shape, fate } = followed(cloud, none, [{ kind: 'moved', box: [110, 100, 130, 130], shift: [10, 0] }]);
    expect(fate).toBe('moved');
    expect(shapeBounds(shape)).toEqual([100, 90, 50, 50]);
  });
  it('a leader goes with its end, not with its words', () => {
    const callout: MarkupShape = { kind: 'callout', target: [100, 100], box: [300, 300, 80, 20] };
    const far = followed(callout, none, [{ kind: 'moved', box: [310, 300, 330, 310], shift: [10, 0] }]);
    expect(far).toEqual({ shape: callout, fate: 'same' });
    const near = followed(callout, none, [{ kind: 'moved', box: [100, 95, 120, 110], shift: [10, 0] }]);
    expect(near).toMatchObject({ fate: 'moved', shape: { target: [110, 100], box: [310, 300, 80, 20] } });
  });
  it('says what is gone and what was changed', () => {
    const gone = { kind: 'removed', box: [100, 100, 130, 130] } as const;
    const come = { kind: 'added', box: [105, 100, 130, 120] } as const;
    const words = { kind: 'text', box: [100, 100, 130, 110] } as const;
    const fate = (...changes: Parameters<typeof followed>[2]) => followed(cloud, none, changes).fate;
    expect([fate(gone), fate(gone, come), fate(come), fate(words)]).toEqual(['gone', 'changed', 'changed', 'changed']);
  });
  it('property: without changes it lies where the sheet came to lie', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        (shift, quarters) => {
          const similarity = Similarity.about([115, 115], [115 + shift, 115], (quarters * Math.PI) / 2, 1);
          const { shape, fate } = followed(cloud, similarity, []);
          const [x, y, w, h] = shapeBounds(shape);
          expect(fate).toBe('same');
          expect([x + w / 2, y + h / 2, w, h].map((value) => Math.round(value * 1e6) / 1e6)).toEqual(
            [115 + shift, 115, 50, 50].map((value) => Math.round(value * 1e6) / 1e6),
          );
        },
      ),
    );
  });
});
