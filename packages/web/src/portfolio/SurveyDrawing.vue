<script setup lang="ts">
import { computed } from 'vue';

/** Metres and degrees: what origin and true north mean, drawn. */
const { easting, northing, height, trueNorth } = defineProps<{
  easting: number | null;
  northing: number | null;
  height: number | null;
  trueNorth: number | null;
}>();
const number = new Intl.NumberFormat('en', { maximumFractionDigits: 3 });
const metres = (value: number | null): string => (value === null ? '?' : `${number.format(value)} m`);
const turn = computed(() => trueNorth ?? 0);
/** The arc from project north to true north, radius 62 about the origin of the drawing. */
const arc = computed(() => {
  const angle = (turn.value * Math.PI) / 180;
  const large = Math.abs(turn.value) > 180 ? 1 : 0;
  return `M0 -62A62 62 0 ${large} ${turn.value > 0 ? 1 : 0} ${62 * Math.sin(angle)} ${-62 * Math.cos(angle)}`;
});
</script>

<template>
  <svg width="380" height="216" viewBox="-150 -118 380 216" role="img" aria-label="Survey position of the project">
    <!-- The building stands straight in project coordinates. -->
    <g class="building">
      <rect x="0" y="-46" width="92" height="46" />
      <rect x="92" y="-30" width="34" height="30" />
    </g>
    <g class="project">
      <path d="M0 0V-84M-4 -77L0 -86L4 -77" />
      <path d="M0 0H140M133 -4L142 0L133 4" />
      <text x="-6" y="-92" text-anchor="end">project north</text>
      <text x="146" y="4">X</text>
    </g>
    <g class="true" :transform="`rotate(${turn})`">
      <path d="M0 0V-96M-5 -87L0 -99L5 -87" />
      <text x="0" y="-104" text-anchor="middle" :transform="`rotate(${-turn} 0 -104)`">true north</text>
    </g>
    <path v-if="Math.abs(turn) > 0.5" :d="arc" class="arc" />
    <text v-if="trueNorth !== null" x="58" y="-66" class="value">{{ number.format(turn) }}°</text>
    <circle r="4" class="origin" />
    <g class="value">
      <text x="-12" y="24" text-anchor="start">E {{ metres(easting) }}</text>
      <text x="-12" y="42" text-anchor="start">N {{ metres(northing) }}</text>
      <text x="-12" y="60" text-anchor="start">H {{ metres(height) }}</text>
      <text x="-12" y="80" class="caption">survey coordinates of the project’s origin</text>
    </g>
  </svg>
</template>

<style scoped>
text {
  font-size: 11px;
  fill: var(--graphite);
}
.value text,
text.value {
  font-family: var(--mono);
  fill: var(--ink);
}
.value .caption {
  font-family: inherit;
  fill: var(--graphite);
}
.building rect {
  fill: var(--wash);
  stroke: var(--hairline);
}
.project path {
  fill: none;
  stroke: var(--graphite);
}
.true path {
  fill: none;
  stroke: var(--needs-you);
  stroke-width: 1.5;
}
.true text {
  fill: var(--needs-you);
}
.arc {
  fill: none;
  stroke: var(--needs-you);
  stroke-dasharray: 3 3;
}
.origin {
  fill: var(--ink);
}
</style>
