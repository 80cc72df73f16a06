<script setup lang="ts">
/** Where north is, and how one looks from each side: a rose that turns with the camera. */
import type { Direction } from './engine/cameras.ts';

defineProps<{
  /** Where the camera looks to, clockwise from the north of the models, radians. */
  heading: number;
  /** From the north of the models to true north, clockwise, radians; none where the model does not say. */
  trueNorth?: number | undefined;
}>();
const emit = defineEmits<{ look: [from: Direction] }>();
const SIDES: readonly [Direction, string, number][] = [
  ['north', 'N', 0],
  ['east', 'E', 90],
  ['south', 'S', 180],
  ['west', 'W', 270],
];
const degrees = (radians: number): number => (radians * 180) / Math.PI;
</script>

<template>
  <div class="compass" role="group" aria-label="Look from">
    <div class="rose" :style="{ transform: `rotate(${-degrees(heading)}deg)` }">
      <svg viewBox="-50 -50 100 100" aria-hidden="true">
        <circle r="46" />
        <path d="M0 -49 L6 -38 L-6 -38 Z" class="north" />
        <line v-if="trueNorth !== undefined" y2="-46" :transform="`rotate(${degrees(trueNorth)})`" class="true" />
      </svg>
      <button
        v-for="[side, letter, at] in SIDES"
        :key="side"
        :title="`Look from the ${side}`"
        :style="{ transform: `rotate(${at}deg) translateY(-24px) rotate(${degrees(heading) - at}deg)` }"
        @click="emit('look', side)"
      >
        {{ letter }}
      </button>
    </div>
    <button class="top" title="Look from above" @click="emit('look', 'top')">⊙</button>
  </div>
</template>

<style scoped>
.compass {
  position: absolute;
  right: 14px;
  bottom: 14px;
  width: 92px;
  height: 92px;
}
.rose {
  position: absolute;
  inset: 0;
}
svg {
  position: absolute;
  inset: 0;
}
circle {
  fill: color-mix(in srgb, var(--sheet) 88%, transparent);
  stroke: var(--hairline);
}
.north {
  fill: var(--needs-you, #b4502d);
}
.true {
  stroke: var(--graphite);
  stroke-dasharray: 3 2;
}
button {
  position: absolute;
  left: 50%;
  top: 50%;
  width: 24px;
  height: 24px;
  margin: -12px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: none;
  font: inherit;
  font-size: 11px;
  font-weight: 600;
  color: var(--ink);
  cursor: pointer;
}
button:hover {
  background: var(--wash);
}
.top {
  font-size: 15px;
  color: var(--graphite);
}
</style>
