<script setup lang="ts">
import type { Delivery } from '@kindred/contract/register/exchange';
import { clusterMarks, type TimeSpan } from '@kindred/core/register/timeline';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { scaleOf, useZoomSpan } from './zoom-span.ts';

/** A row for each team, a mark for each delivery, in time. Knows nothing of routes or stores. */
const props = defineProps<{ deliveries: Delivery[]; teams: { id: string; name: string; colour: string }[] }>();
const emit = defineEmits<{ choose: [Delivery[]] }>();
const span = defineModel<TimeSpan>({ required: true });

const LABEL = 110;
const ROW = 34;
const HEAD = 26;
const box = ref<HTMLElement>();
const { width } = useElementSize(box);
const room = computed(() => Math.max(100, width.value - LABEL));
const scale = computed(() => scaleOf(span.value, LABEL, room.value));
const { key } = useZoomSpan(box, span, LABEL, room);

const rows = computed(() => {
  const named = props.teams.filter(({ id }) => props.deliveries.some(({ teamId }) => teamId === id));
  const others = props.deliveries.some(({ teamId }) => !props.teams.some(({ id }) => id === teamId));
  return [...named, ...(others ? [{ id: '', name: 'Without a team', colour: '#57646A' }] : [])];
});
/** Room that the words of a tick take: at the right edge there may be none for them. */
const WORDS = 58;
const ticks = computed(() => {
  const [hour, day, month] = ['%H:%M', '%-d %b', '%b %Y'].map((format) => scale.value.tickFormat(0, format));
  const word = (at: Date): string => (at.getUTCHours() ? hour : at.getUTCDate() > 1 ? day : month)!(at);
  return scale.value.ticks(room.value / 80).map((at) => {
    const x = scale.value(at);
    return { x, word: x + WORDS > LABEL + room.value ? '' : word(at) };
  });
});
const marks = computed(() =>
  rows.value.flatMap(({ id, colour }, row) => {
    const here = props.deliveries.filter(({ teamId }) => (teamId ?? '') === id);
    const inView = here.filter(({ at }) => Date.parse(at) >= span.value.from && Date.parse(at) <= span.value.to);
    return clusterMarks(inView, ({ at }) => scale.value(Date.parse(at)), 15).map((deliveries) => {
      const files = deliveries.reduce((sum, delivery) => sum + delivery.files, 0);
      const open = deliveries.reduce((sum, delivery) => sum + delivery.private, 0);
      return {
        key: `${id}${deliveries[0]!.id}`,
        deliveries,
        colour,
        x: scale.value(Date.parse(deliveries[0]!.at)),
        y: HEAD + row * ROW + ROW / 2,
        side: Math.min(24, 10 + 3 * Math.log2(files)),
        files,
        private: open === files ? 'all' : open ? 'some' : 'none',
      };
    });
  }),
);

const PRIVATE: Record<string, string> = { all: ', all still private', some: ', some still private', none: '' };
</script>

<template>
  <div
    ref="box"
    class="timeline"
    tabindex="0"
    aria-label="Deliveries in time: arrow keys move, plus and minus zoom"
    @keydown="key"
  >
    <svg :width="width" :height="HEAD + rows.length * ROW + 6">
      <g v-for="tick in ticks" :key="tick.x">
        <line :x1="tick.x" :x2="tick.x" :y1="HEAD - 4" :y2="HEAD + rows.length * ROW" class="tick" />
        <text :x="tick.x + 3" :y="HEAD - 9" class="when">{{ tick.word }}</text>
      </g>
      <g v-for="(team, i) in rows" :key="team.id">
        <line :x1="0" :x2="width" :y1="HEAD + (i + 1) * ROW" :y2="HEAD + (i + 1) * ROW" class="hairline" />
        <rect x="0" :y="HEAD + i * ROW + 1" :width="LABEL - 4" :height="ROW - 2" class="ground" />
        <rect x="2" :y="HEAD + i * ROW + ROW / 2 - 5" width="4" height="10" :fill="team.colour" />
        <text x="13" :y="HEAD + i * ROW + ROW / 2 + 4">{{ team.name }}</text>
      </g>
      <g
        v-for="mark in marks"
        :key="mark.key"
        class="mark"
        role="button"
        tabindex="0"
        :aria-label="`${mark.files} files${PRIVATE[mark.private]}`"
        @click="emit('choose', mark.deliveries)"
        @keydown.enter="emit('choose', mark.deliveries)"
      >
        <title>{{ mark.files }} {{ mark.files === 1 ? 'file' : 'files' }}{{ PRIVATE[mark.private] }}</title>
        <rect
          :x="mark.x - mark.side / 2"
          :y="mark.y - mark.side / 2"
          :width="mark.side"
          :height="mark.side"
          :fill="mark.private === 'all' ? 'var(--sheet)' : mark.colour"
          :stroke="mark.colour"
          :stroke-dasharray="mark.private === 'none' ? undefined : '3 2'"
          :stroke-width="mark.private === 'none' ? 0 : 1.5"
        />
        <text
          v-if="mark.side >= 14"
          :x="mark.x"
          :y="mark.y + 4"
          text-anchor="middle"
          class="count"
          :fill="mark.private === 'all' ? 'var(--ink)' : '#fff'"
        >
          {{ mark.files }}
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.timeline {
  border: 1px solid var(--hairline);
  background: var(--sheet);
  touch-action: none;
  cursor: grab;
  user-select: none;
}
svg {
  display: block;
  font-size: 12px;
}
.tick {
  stroke: var(--wash);
}
.hairline {
  stroke: var(--hairline);
}
.ground {
  fill: var(--sheet);
}
.when {
  fill: var(--graphite);
  font-size: 11px;
}
.mark {
  cursor: pointer;
}
.count {
  font: 10px var(--mono);
}
</style>
