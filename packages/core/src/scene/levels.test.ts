import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SpatialNode } from './ifc-structure.ts';
import { isOnLevel, levelsOf } from './levels.ts';

const storey = (name: string, elevation: number | null): SpatialNode => ({
  ...{ name, elevation, class: 'IfcBuildingStorey', parent: -1 },
});

describe('levels of several models', () => {
  it('are storeys whose floors lie near each other, called as most call them', () => {
    const architecture = [storey('Upper', 3.96), storey('Ground', 0)];
    const structure = [storey('Level 1', -0.12), storey('Level 2', 3.84), storey('Roof', 7.8)];
    const services = [storey('Ground', 0), storey('Upper', 3.96)];
    expect(levelsOf([architecture, structure, services])).toEqual([
      { name: 'Ground', elevation: -0.12, nodes: [[1], [0], [0]] },
      { name: 'Upper', elevation: 3.84, nodes: [[0], [1], [1]] },
      { name: 'Roof', elevation: 7.8, nodes: [[], [2], []] },
    ]);
  });

  it('keep half-storeys of one model apart, and take storeys of two of its buildings together', () => {
    const split = [storey('A', 0), storey('B', 0.4), storey('A too', 0.02)];
    expect(levelsOf([split]).map(({ nodes }) => nodes)).toEqual([[[0, 2]], [[1]]]);
  });

  it('leave out what is no storey or has no elevation', () => {
    expect(levelsOf([[storey('Somewhere', null), { ...storey('Hall', 1), class: 'IfcSpace' }], []])).toEqual([]);
  });

  it('hold every storey once, in the order of their floors', () => {
    const nodes = fc.array(
      fc.integer({ min: -20, max: 60 }).map((height) => storey('', height / 4)),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(fc.array(nodes, { minLength: 1, maxLength: 4 }), (models) => {
        const levels = levelsOf(models);
        models.forEach((all, model) =>
          expect(levels.flatMap((level) => level.nodes[model]!).sort((a, b) => a - b)).toEqual(all.map((_, i) => i)),
        );
        expect(levels.map(({ elevation }) => elevation)).toEqual(
          levels.map(({ elevation }) => elevation).sort((a, b) => a - b),
        );
      }),
    );
  });
});

it('a floor belongs to a level that was kept, whichever floor of it was the lowest then', () => {
  expect([2.6, 3, 3.4].map((elevation) => isOnLevel(elevation, [0, 3]))).toEqual([true, true, true]);
  expect([1.5, 3.6].map((elevation) => isOnLevel(elevation, [0, 3]))).toEqual([false, false]);
});
