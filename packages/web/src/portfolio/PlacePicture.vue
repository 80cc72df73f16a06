<script setup lang="ts">
import { geoGraticule10, geoOrthographic, geoPath } from 'd3-geo';
import { feature } from 'topojson-client';
import type { Topology } from 'topojson-specification';
import land from 'world-atlas/land-110m.json';
import { computed } from 'vue';

/** Degrees, WGS 84. The picture ships with the application: no map service hears of the place. */
const { latitude, longitude } = defineProps<{ latitude: number | null; longitude: number | null }>();
const SIZE = 190;
const atlas = land as unknown as Topology;
const continents = feature(atlas, atlas.objects.land!);
const known = computed(() => latitude !== null && longitude !== null);
const shapes = computed(() => {
  const projection = geoOrthographic()
    .rotate([-(longitude ?? 0), -(latitude ?? 20)])
    .fitExtent(
      [
        [4, 4],
        [SIZE - 4, SIZE - 4],
      ],
      { type: 'Sphere' },
    );
  const path = geoPath(projection);
  return { sphere: path({ type: 'Sphere' })!, lines: path(geoGraticule10())!, land: path(continents)! };
});
</script>

<template>
  <svg
    :width="SIZE"
    :height="SIZE"
    :viewBox="`0 0 ${SIZE} ${SIZE}`"
    role="img"
    aria-label="Where the project lies on the globe"
  >
    <path :d="shapes.sphere" class="sea" />
    <path :d="shapes.lines" class="lines" />
    <path :d="shapes.land" class="land" />
    <g v-if="known" :transform="`translate(${SIZE / 2} ${SIZE / 2})`" class="place">
      <circle r="9" />
      <path d="M-14 0h8M6 0h8M0-14v8M0 6v8" />
    </g>
  </svg>
</template>

<style scoped>
.sea {
  fill: var(--sheet);
  stroke: var(--graphite);
}
.lines {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 0.5;
}
.land {
  fill: #dfe6df;
  stroke: #8fa39b;
  stroke-width: 0.6;
}
.place {
  fill: none;
  stroke: var(--needs-you);
  stroke-width: 2;
}
</style>
