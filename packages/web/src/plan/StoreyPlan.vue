<script setup lang="ts">
/** A storey of a model from above; a click names a place, caught by the corners of walls. */
import type { PlanPoint } from '@kindred/core/plan/plan-map';
import type { PlacedElement } from '@kindred/core/plan/storey-plan';
import { computed, ref, watch } from 'vue';
import { isWall, outlineOf } from './outline.ts';

const props = defineProps<{ elements: readonly PlacedElement[]; points: readonly PlanPoint[]; asks: boolean }>();
const emit = defineEmits<{ point: [at: [number, number]] }>();
/** Pixels within which a corner catches the pointer. */
const REACH = 12;
const svg = ref<SVGSVGElement>();

const walls = computed(() => props.elements.filter(isWall));
const others = computed(() =>
  props.elements.filter((one) => !isWall(one) && !/^Ifc(Slab|Roof|Covering)/.test(one.class)),
);
/** y of the drawing goes down. */
const place = ([x, y]: [number, number]): [number, number] => [x, -y];
const whole = computed((): [number, number, number, number] => {
  const shown = walls.value.length ? walls.value : props.elements;
  const xs = shown.flatMap(({ bounds }) => [bounds[0], bounds[3]]);
  const ys = shown.flatMap(({ bounds }) => [-bounds[1], -bounds[4]]);
  if (!xs.length) return [0, 0, 1, 1];
  const [left, top] = [xs.reduce((a, b) => Math.min(a, b)), ys.reduce((a, b) => Math.min(a, b))];
  const [right, bottom] = [xs.reduce((a, b) => Math.max(a, b)), ys.reduce((a, b) => Math.max(a, b))];
  const margin = Math.max(right - left, bottom - top) * 0.04;
  return [left - margin, top - margin, right - left + 2 * margin, bottom - top + 2 * margin];
});
const box = ref<[number, number, number, number]>([0, 0, 1, 1]);
watch(whole, (all) => (box.value = all), { immediate: true });

/** Metres of a pixel, and the place of the model under the pointer. */
function under(event: MouseEvent): { at: [number, number]; pixel: number } {
  const matrix = svg.value!.getScreenCTM()!;
  return { at: [(event.clientX - matrix.e) / matrix.a, -(event.clientY - matrix.f) / matrix.d], pixel: 1 / matrix.a };
}
const caught = ref<[number, number]>();
function look(event: MouseEvent): [number, number] {
  const { at, pixel } = under(event);
  let [best, nearest] = [undefined as [number, number] | undefined, REACH * pixel];
  for (const { bounds } of walls.value)
    for (const x of [bounds[0], bounds[3]])
      for (const y of [bounds[1], bounds[4]]) {
        const away = Math.hypot(x - at[0], y - at[1]);
        if (away < nearest) [best, nearest] = [[x, y], away];
      }
  caught.value = best;
  return best ?? at;
}
function zoom(event: WheelEvent): void {
  const { at } = under(event);
  const factor = Math.exp(event.deltaY * 0.0016);
  const [x, y, w, h] = box.value;
  const [px, py] = place(at);
  box.value = [px - (px - x) * factor, py - (py - y) * factor, w * factor, h * factor];
}
</script>

<template>
  <svg
    ref="svg"
    class="storey"
    :class="{ asks }"
    :viewBox="box.join(' ')"
    role="img"
    aria-label="The storey from above"
    @pointermove="asks && look($event)"
    @click="asks && emit('point', look($event))"
    @wheel.prevent="zoom"
    @dblclick="box = whole"
  >
    <path :d="outlineOf(others, place)" class="other" />
    <path :d="outlineOf(walls, place)" class="wall" />
    <g v-for="(point, i) in points" :key="i">
      <circle :cx="point[0]" :cy="-point[1]" :r="box[2] * 0.018" class="point" />
      <text :x="point[0] + box[2] * 0.026" :y="-point[1]" :font-size="box[2] * 0.06">{{ i + 1 }}</text>
    </g>
    <circle v-if="asks && caught" :cx="caught[0]" :cy="-caught[1]" :r="box[2] * 0.02" class="caught" />
  </svg>
</template>

<style scoped>
.storey {
  width: 100%;
  height: 220px;
  background: #fff;
  border: 1px solid var(--hairline);
  touch-action: none;
}
@media (max-width: 700px) {
  .storey {
    height: 120px;
  }
}
.storey.asks {
  cursor: crosshair;
}
path,
circle {
  vector-effect: non-scaling-stroke;
}
.wall {
  fill: var(--graphite);
}
.other {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 1px;
}
.point {
  fill: var(--needs-you);
}
.caught {
  fill: none;
  stroke: var(--action);
  stroke-width: 2px;
}
</style>
