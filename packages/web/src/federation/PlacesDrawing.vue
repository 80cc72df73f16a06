<script setup lang="ts">
/** Where models lie, from above: each as the box of its elements; what lies far off is named at the edge with its way. */
import type { ModelPlace } from '@kindred/contract/federation/federations';
import { boundsAt } from '@kindred/core/scene/placing';
import { computed } from 'vue';

type Bounds = NonNullable<NonNullable<ModelPlace['position']>['bounds']>;
const props = defineProps<{ places: readonly { name: string; place: ModelPlace }[] }>();
const FAR = ['far', 'survey-coordinates', 'wrong-unit'];
const placed = computed(() =>
  props.places.flatMap(({ name, place: { position, findings, placing, set } }) => {
    const delivered = position?.bounds;
    if (!delivered) return [];
    const bounds = set ? boundsAt(delivered, set.placing) : delivered;
    const isFar = findings.some(({ code }) => FAR.includes(code));
    const wrong = findings.some(({ code }) => code !== 'no-survey');
    return [{ name, bounds, isFar, wrong, after: placing && boundsAt(delivered, placing) }];
  }),
);
const near = computed(() => placed.value.filter(({ isFar }) => !isFar));
const far = computed(() => placed.value.filter(({ isFar }) => isFar));
const view = computed((): [number, number, number, number] => {
  const all = [
    ...near.value.map(({ bounds }) => bounds),
    ...placed.value.flatMap(({ after }) => (after ? [after] : [])),
  ];
  if (!all.length) return [0, 0, 1, 1];
  const low = (i: number): number => Math.min(...all.map((bounds) => bounds[i]!), 0);
  const high = (i: number): number => Math.max(...all.map((bounds) => bounds[i]!), 0);
  const margin = Math.max(high(3) - low(0), high(4) - low(1)) * 0.08;
  return [low(0) - margin, -high(4) - margin, high(3) - low(0) + 2 * margin, high(4) - low(1) + 2 * margin];
});
const size = computed(() => Math.max(view.value[2], view.value[3]));
const rectOf = ([x0, y0, , x1, y1]: Bounds) => ({ x: x0, y: -y1, width: x1 - x0, height: y1 - y0 });
</script>

<template>
  <figure>
    <svg :viewBox="view.join(' ')" role="img" aria-label="Where the models lie, from above">
      <g v-for="one in near" :key="one.name" :class="{ wrong: one.wrong }">
        <title>{{ one.name }}</title>
        <rect v-bind="rectOf(one.bounds)" />
      </g>
      <rect
        v-for="one in placed.filter(({ after }) => after)"
        :key="one.name"
        v-bind="rectOf(one.after!)"
        class="after"
      />
      <path
        :d="`M${-size * 0.02} 0H${size * 0.02}M0 ${-size * 0.02}V${size * 0.02}`"
        class="origin"
        aria-label="Origin"
      />
      <text
        v-for="(one, i) in near"
        :key="one.name"
        :x="one.bounds[0] + size * 0.008"
        :y="-one.bounds[4] + size * 0.026 * (i + 1)"
        :font-size="size * 0.022"
      >
        {{ one.name }}
      </text>
    </svg>
    <figcaption v-if="far.length" class="quiet">
      Not in the drawing: {{ far.map(({ name }) => name).join(', ') }}
    </figcaption>
    <figcaption class="quiet">
      Boxes of the elements from above; the cross is the origin{{
        placed.some(({ after }) => after) ? '; dashed where a model would lie' : ''
      }}.
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  width: 100%;
  max-height: 320px;
  background: #fff;
  border: 1px solid var(--hairline);
}
rect {
  fill: color-mix(in srgb, var(--action) 8%, transparent);
  stroke: var(--action);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}
.wrong rect {
  fill: none;
  stroke: var(--needs-you);
}
.after {
  fill: none;
  stroke-dasharray: 5 4;
}
.origin {
  stroke: var(--ink);
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
text {
  fill: var(--ink);
}
</style>
