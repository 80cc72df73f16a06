/** Sections through the models: along an axis, around elements, at the height of a plan. */
import { CUT_HEIGHT } from '@kindred/core/plan/storey-plan';
import { shallowRef, type Ref } from 'vue';
import type { SceneEngine } from './engine/scene-engine.ts';
import { UNCUT, type Cuts, type Section } from './engine/sections.ts';

const AXES: Record<'x' | 'y' | 'z', Section['direction']> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
/** More are cut into nothing that one could read. */
const MOST_SECTIONS = 6;
/** A little room is left around what is boxed. Metres. */
const ROOM = 0.3;

export function useCutting(engine: Ref<SceneEngine | undefined>) {
  const cuts = shallowRef<Cuts>(UNCUT);
  function set(next: Cuts): void {
    engine.value?.setCuts(next);
    cuts.value = next;
  }
  /** The sections were changed elsewhere: by a viewpoint, by pointing at a face. */
  function read(): void {
    cuts.value = engine.value!.cuts;
  }
  return {
    cuts,
    set,
    read,
    across(axis: 'x' | 'y' | 'z'): void {
      const [low, high] = engine.value!.rangeOf(axis);
      const direction = AXES[axis];
      const at = direction.map((value) => (value * (low + high)) / 2) as unknown as Section['at'];
      set({ ...cuts.value, sections: [...cuts.value.sections, { at, direction }].slice(-MOST_SECTIONS) });
    },
    /** Around all models where no elements are given. */
    around(elements: Iterable<number> | undefined): void {
      const bounds = engine.value!.boundsOf(elements);
      if (bounds)
        set({ ...cuts.value, box: bounds.map((value, i) => value + (i < 3 ? -ROOM : ROOM)) as typeof bounds });
    },
    plan(elevation: number): void {
      engine.value!.showPlan(elevation + CUT_HEIGHT);
      read();
    },
    /** From where to where all models reach along a direction. */
    reach(direction: Section['direction']): readonly [number, number] {
      const bounds = engine.value?.boundsOf();
      if (!bounds) return [0, 1];
      const ends = [0, 1, 2].map((i) => [bounds[i]! * direction[i]!, bounds[i + 3]! * direction[i]!]);
      return [
        ends.reduce((sum, [a, b]) => sum + Math.min(a!, b!), 0),
        ends.reduce((sum, [a, b]) => sum + Math.max(a!, b!), 0),
      ];
    },
  };
}
