<script setup lang="ts">
/** Places on a storey, seen from above; a click chooses one. */
import type { PlacedElement } from '@kindred/core/plan/storey-plan';
import { computed } from 'vue';
import { isWall, outlineOf } from './outline.ts';

export interface StoreyDot {
  id: string;
  /** Metres in model coordinates. */
  at: readonly [x: number, y: number];
  label: string;
  colour: string;
}
const props = defineProps<{
  label: string;
  elements: readonly PlacedElement[];
  dots: readonly StoreyDot[];
  chosen: string | undefined;
}>();
const emit = defineEmits<{ choose: [id: string] }>();
const walls = computed(() => props.elements.filter(isWall));
const others = computed(() =>
  props.elements.filter((one) => !isWall(one) && !/^Ifc(Slab|Roof|Covering)/.test(one.class)),
);
/** y of the drawing goes down. */
const place = ([x, y]: [number, number]): [number, number] => [x, -y];
const box = computed((): [number, number, number, number] => {
  const bounds = [
    ...props.elements.map(({ bounds: [x0, y0, , x1, y1] }) => [x0, y0, x1, y1] as const),
    ...props.dots.map(({ at: [x, y] }) => [x, y, x, y] as const),
  ];
  if (!bounds.length) return [0, 0, 1, 1];
  const least = (i: number): number => bounds.reduce((low, one) => Math.min(low, one[i]!), Infinity);
  const most = (i: number): number => bounds.reduce((high, one) => Math.max(high, one[i]!), -Infinity);
  const [left, right, low, high] = [least(0), most(2), least(1), most(3)];
  const margin = Math.max(right - left, high - low) * 0.05 + 0.5;
  return [left - margin, -high - margin, right - left + 2 * margin, high - low + 2 * margin];
});
const size = computed(() => Math.max(box.value[2], box.value[3]));
</script>

<template>
  <svg :viewBox="box.join(' ')" role="group" :aria-label="label">
    <path :d="outlineOf(others, place)" class="other" />
    <path :d="outlineOf(walls, place)" class="wall" />
    <g
      v-for="dot in dots"
      :key="dot.id"
      role="button"
      tabindex="0"
      :aria-label="dot.label"
      :class="{ chosen: dot.id === chosen }"
      @click="emit('choose', dot.id)"
      @keydown.enter="emit('choose', dot.id)"
    >
      <title>{{ dot.label }}</title>
      <circle :cx="dot.at[0]" :cy="-dot.at[1]" :r="size * 0.009" :fill="dot.colour" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: 100%;
  background: #fff;
}
.wall {
  fill: #cfd3d4;
  stroke: #7f878a;
}
.other {
  fill: none;
  stroke: #c9cdce;
}
path {
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
g {
  cursor: pointer;
}
circle {
  stroke: #fff;
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
.chosen circle,
g:focus-visible circle {
  stroke: var(--ink);
  stroke-width: 3px;
}
</style>
