import { expect, it } from 'vitest';
import { shallowRef } from 'vue';
import { useCutting } from './cutting.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import type { Cuts } from './engine/sections.ts';

const BOUNDS = [0, 0, 0, 10, 4, 6] as const;
let given: Cuts;
const engine = {
  setCuts: (cuts: Cuts) => (given = cuts),
  get cuts() {
    return given;
  },
  rangeOf: (axis: 'x' | 'y' | 'z') => [BOUNDS['xyz'.indexOf(axis)], BOUNDS['xyz'.indexOf(axis) + 3]],
  boundsOf: (elements?: Iterable<number>) => (elements && ![...elements].length ? null : BOUNDS),
  showPlan: (height: number) => (given = { sections: [{ at: [0, 0, height], direction: [0, 0, 1] }], box: null }),
} as unknown as SceneEngine;

it('cuts across the middle, and keeps the last six', () => {
  const cutting = useCutting(shallowRef(engine));
  cutting.across('x');
  expect(given.sections).toEqual([{ at: [5, 0, 0], direction: [1, 0, 0] }]);
  for (let i = 0; i < 8; i++) cutting.across('z');
  expect(cutting.cuts.value).toBe(given);
  expect(given.sections.map(({ direction }) => direction[2])).toEqual([1, 1, 1, 1, 1, 1]);
});

it('boxes elements with a little room, and nothing where there is nothing', () => {
  const cutting = useCutting(shallowRef(engine));
  cutting.around([]);
  expect(cutting.cuts.value.box).toBeNull();
  cutting.around(undefined);
  expect(given.box).toEqual([-0.3, -0.3, -0.3, 10.3, 4.3, 6.3]);
});

it('cuts a plan above its floor; says how far there is to cut along any direction', () => {
  const cutting = useCutting(shallowRef(engine));
  cutting.plan(3);
  expect(cutting.cuts.value.sections[0]!.at[2]).toBeCloseTo(4.2);
  expect(cutting.reach([0, -1, 0])).toEqual([-4, 0]);
  expect(cutting.reach([0.6, 0, 0.8])).toEqual([0, expect.closeTo(10.8)]);
  expect(useCutting(shallowRef()).reach([1, 0, 0])).toEqual([0, 1]);
});
