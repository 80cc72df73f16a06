/** What clicks do while a tool is taken: places are gathered until a measure, a mark or a section is whole. */
import type { SceneMark, SceneMeasure } from '@kindred/contract/scene/scene';
import type { Point } from '@kindred/core/scene/pick';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { sayProblem } from '../platform/say.ts';
import type { Aim } from './engine/picking.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import { MOST_SECTIONS } from './engine/sections.ts';
import { measureFrom, measureOf, MOVABLE, NO_MEASURE, STEPS } from './measuring.ts';
import type { Place } from './SceneStage.vue';
import { CHOOSE, hintOf, MARK_POINTS, type SceneTool } from './tools.ts';

/** `askText`: what a mark says; undefined where it is not to be made. */
export function usePointing(engine: Ref<SceneEngine | undefined>, askText: () => Promise<string | undefined>) {
  const tool = ref<SceneTool>(CHOOSE);
  const measures = ref<SceneMeasure[]>([]);
  const marks = ref<SceneMark[]>([]);
  const gathered = shallowRef<Aim[]>([]);
  const aim = shallowRef<Aim | null>(null);
  const isPointing = computed(() => tool.value.act !== 'choose' && tool.value.act !== 'frame');
  const pending = computed((): Point[] => gathered.value.map(({ at }) => at));
  const hint = computed(() => hintOf(tool.value, gathered.value.length));
  watch(tool, () => {
    gathered.value = [];
    aim.value = null;
  });

  const aimAt = ({ x, y }: Place): Aim | null => engine.value?.aim(x, y) ?? null;

  async function click(place: Place): Promise<void> {
    const found = aimAt(place);
    if (!found) return;
    const { value: current } = tool;
    if (current.act === 'cut') return cutAt(found);
    gathered.value = [...gathered.value, found];
    if (current.act === 'measure' && gathered.value.length === STEPS[current.kind].length) measure();
    else if (current.act === 'mark' && gathered.value.length >= MARK_POINTS[current.kind]) await mark();
  }
  function cutAt({ face, at }: Aim): void {
    const scene = engine.value!;
    const sections = [...scene.cuts.sections, { at, direction: face.normal }].slice(-MOST_SECTIONS);
    scene.setCuts({ ...scene.cuts, sections });
    tool.value = CHOOSE;
  }
  function measure(): void {
    if (tool.value.act !== 'measure') return;
    const made = measureFrom(tool.value.kind, gathered.value, engine.value!);
    gathered.value = [];
    if (typeof made === 'string') sayProblem(NO_MEASURE[made]);
    else measures.value = [...measures.value, made];
  }
  /** Ends a mark with the places that there are. */
  async function mark(): Promise<void> {
    if (tool.value.act !== 'mark' || !gathered.value.length) return;
    const { kind } = tool.value;
    const points = gathered.value.map(({ at }): [number, number, number] => [...at]);
    gathered.value = [];
    if (kind === 'line' && points.length < 2) return;
    const text = kind === 'text' || kind === 'cloud' || kind === 'arrow' ? await askText() : '';
    if (text === undefined || (kind === 'text' && !text)) return;
    marks.value = [...marks.value, { kind, points, text }];
  }

  return {
    tool,
    measures,
    marks,
    aim,
    pending,
    hint,
    isPointing,
    click,
    finish: mark,
    hover: (place: Place): void => void (aim.value = isPointing.value ? aimAt(place) : null),
    /** Draws an end of a measure elsewhere. */
    move(number: number, end: number, place: Place): void {
      const old = measures.value[number];
      const found = aimAt(place);
      if (!old || !found || !MOVABLE.has(old.kind)) return;
      const points = old.points.map((point, i): Point => (i === end ? found.at : point));
      // Two faces that stand at an angle have no corner of their own.
      const made = old.kind === 'angle' && points.length < 3 ? 'no-angle' : measureOf(old.kind as 'distance', points);
      if (typeof made !== 'string') measures.value = measures.value.map((one, i) => (i === number ? made : one));
    },
    clear(): void {
      measures.value = [];
      marks.value = [];
    },
  };
}
